<script setup lang="ts">
// A swap is done: what it cost, and what becomes of the old things. Enter takes it as it was planned.
import { computed, ref, watch } from 'vue'
import type { Completion, Fate, ListLine, Swap } from '@/api/client'
import { useSending } from '@/controls/sending'
import { typedAmount } from '@/quantities/money'
import { useUnits } from '@/domain/units'
import { FATES } from '@/domain/words'

const props = defineProps<{
  swap: Swap | null
  lines: ListLine[]
  /** Other lists that have what comes off: it is swapped there too, unless they are unticked. */
  also?: { id: string; name: string }[]
  doIt: (swap: Swap, doing: Completion) => Promise<void>
}>()
const isOpen = defineModel<boolean>({ required: true })
const units = useUnits()
const paid = ref<string[]>([])
const delivery = ref('')
const fates = ref<Fate[]>([])
const got = ref('')
const lender = ref('')
const until = ref('')
const lists = ref<string[]>([])
const { busy, refusal, send } = useSending()

const typed = (minor: number) => typedAmount(minor, units.currency.value)
const isTrim = computed(() => props.swap?.kind === 'trim' && props.swap.remove.length === 1)
const isBorrowed = computed(() => props.swap?.kind === 'borrow')
const isSold = computed(() => fates.value.includes('sold'))
const nameOf = (line: string) => props.lines.find((one) => one.id === line)?.gear.name ?? 'the old one'
watch(isOpen, (now) => {
  if (!now || !props.swap) return
  const { add, remove, delivery_minor, brings_minor } = props.swap
  paid.value = add.map(({ candidate: { price_minor: price } }) => (price == null ? '' : typed(price)))
  delivery.value = delivery_minor ? typed(delivery_minor) : ''
  got.value = brings_minor ? typed(brings_minor) : ''
  fates.value = remove.map(() => (isTrim.value ? 'trimmed' : brings_minor > 0 ? 'sold' : 'kept'))
  lender.value = ''
  until.value = ''
  lists.value = props.also?.map(({ id }) => id) ?? []
  refusal.value = ''
})
const save = () =>
  send(async () => {
    if (!props.swap) return
    await props.doIt(props.swap, {
      paid: paid.value,
      delivery: delivery.value,
      fates: fates.value,
      got: isSold.value ? got.value : '',
      ...(lists.value.length && { lists: lists.value }),
      ...(isBorrowed.value && { lender: lender.value, until: until.value || null }),
    })
    isOpen.value = false
  })
</script>

<template>
  <el-dialog v-model="isOpen" :title="swap ? `${swap.name}: done` : ''" width="min(28.75rem, 94vw)">
    <el-form v-if="swap" label-position="top" @submit.prevent="save">
      <div class="two">
        <el-form-item
          v-for="(addition, at) in swap.add"
          :key="addition.candidate.id"
          :label="`${isBorrowed ? 'Fee' : 'Paid'} for ${addition.candidate.name}${addition.qty > 1 ? ', each' : ''}`"
        >
          <el-input v-model="paid[at]" inputmode="decimal" :name="`paid-${at}`" />
        </el-form-item>
        <el-form-item v-if="swap.delivery_minor" label="Delivery">
          <el-input v-model="delivery" inputmode="decimal" name="delivery-paid" />
        </el-form-item>
      </div>
      <div v-if="isBorrowed" class="two">
        <el-form-item label="Whose it is">
          <el-input v-model="lender" name="lender" maxlength="120" placeholder="a neighbour, a shop" />
        </el-form-item>
        <el-form-item label="Until">
          <el-date-picker
            v-model="until"
            type="date"
            value-format="YYYY-MM-DD"
            format="D MMM YYYY"
            aria-label="Until when it is borrowed"
            placeholder="day"
          />
        </el-form-item>
      </div>
      <template v-if="!isTrim">
        <el-form-item
          v-for="(removal, at) in swap.remove"
          :key="removal.line"
          :label="`${nameOf(removal.line)} is`"
        >
          <el-select v-model="fates[at]" :aria-label="`What becomes of ${nameOf(removal.line)}`">
            <el-option v-for="(name, key) in FATES" :key="key" :value="key" :label="name" />
          </el-select>
        </el-form-item>
        <el-form-item v-if="isSold" label="Got for it">
          <el-input v-model="got" inputmode="decimal" name="got" />
        </el-form-item>
      </template>
      <el-form-item v-if="also?.length" label="On these lists too">
        <el-checkbox-group v-model="lists">
          <el-checkbox v-for="one in also" :key="one.id" :value="one.id" :label="one.name" />
        </el-checkbox-group>
      </el-form-item>
      <p class="muted">
        {{
          isTrim
            ? 'The thing stays on the list at its new weight. Weigh it in step 1.'
            : swap.add.length
              ? 'What is new goes into your gear and onto the list, to be weighed in step 1.'
              : 'It comes off this list.'
        }}
        The rest is planned anew with the money that is left.
      </p>
      <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
      <el-button type="primary" native-type="submit" :loading="busy">Done</el-button>
      <el-button @click="isOpen = false">Cancel</el-button>
    </el-form>
  </el-dialog>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: 0 var(--s-3);
}
p {
  margin-bottom: var(--s-3);
}
</style>
