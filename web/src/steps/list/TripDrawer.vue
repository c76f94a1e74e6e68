<script setup lang="ts">
// What the trip requires of the list, and what an hour of making is worth.
import { computed, ref, watch } from 'vue'
import { Problem, type JobAmounts, type PackList } from '@/api/client'
import { useDraft } from '@/controls/draft'
import DraftNotes from '@/controls/DraftNotes.vue'
import { reason } from '@/controls/messages'
import JobsEditor from '@/domain/JobsEditor.vue'
import { useUnits } from '@/domain/units'
import { typedAmount } from '@/quantities/money'

/** The trip as it is typed. */
interface Fields {
  note: string
  requires: JobAmounts
  hour_rate: string
}
const props = defineProps<{
  list: PackList | undefined
  save: (change: Fields & { version: number }) => Promise<unknown>
}>()
const isOpen = defineModel<boolean>({ required: true })
const NAMES = { note: 'Trip summary', requires: 'What it requires', hour_rate: 'Value of an hour' }

const units = useUnits()
const { draft, version, isChanged, wasKept, clashes, open, merge, discard, choose } = useDraft<Fields>(() =>
  props.list
    ? {
        name: `trip ${props.list.id}`,
        version: props.list.version,
        fields: {
          note: props.list.note,
          requires: { ...props.list.requires },
          hour_rate:
            props.list.hour_minor === 0 ? '' : typedAmount(props.list.hour_minor, units.currency.value),
        },
      }
    : null,
)
const refusal = ref<{ field: string; text: string } | null>(null)
watch(isOpen, (now) => {
  refusal.value = null
  if (now) open()
})
watch(
  () => props.list?.version,
  () => isOpen.value && (isChanged.value ? merge() : open()),
)

async function submit() {
  refusal.value = null
  try {
    await props.save({
      ...draft.value,
      hour_rate: draft.value.hour_rate.trim() || '0',
      version: version.value,
    })
    discard()
    isOpen.value = false
  } catch (error) {
    refusal.value = { field: error instanceof Problem ? (error.field ?? '') : '', text: reason(error) }
  }
}
const refusalFor = (field: string) => (refusal.value?.field === field ? refusal.value.text : '')
const elsewhere = computed(() => (refusal.value && !(refusal.value.field in NAMES) ? refusal.value.text : ''))
</script>

<template>
  <el-drawer v-model="isOpen" :title="`The trip: ${list?.name}`" size="min(420px, 100vw)">
    <el-form v-if="draft" label-position="top" class="drawer-form" @submit.prevent="submit">
      <DraftNotes
        :kept="wasKept && isChanged"
        :clashes="clashes"
        :names="NAMES"
        @discard="discard"
        @choose="choose"
      />
      <el-form-item label="Trip summary" :error="refusalFor('note')">
        <el-input v-model="draft.note" placeholder="7 days, low −2 °C" name="note" maxlength="200" />
      </el-form-item>
      <section>
        <h3>What it requires</h3>
        <p class="muted">A plan never makes any of these fewer than they are today.</p>
        <JobsEditor v-model:needs="draft.requires" :provides="{}" only="needs" />
        <p v-if="refusalFor('requires')" class="caution" role="alert">{{ refusalFor('requires') }}</p>
      </section>
      <el-form-item label="Value of an hour of your making time" :error="refusalFor('hour_rate')">
        <el-input v-model="draft.hour_rate" name="hour-rate" placeholder="0" inputmode="decimal" />
      </el-form-item>
      <p v-if="elsewhere" class="caution" role="alert">{{ elsewhere }}</p>
      <div>
        <el-button type="primary" native-type="submit" :disabled="clashes.length > 0">Save</el-button>
        <el-button v-if="isChanged" @click="(discard(), (isOpen = false))">Cancel</el-button>
      </div>
    </el-form>
  </el-drawer>
</template>

<style scoped>
h3 {
  margin: 0 0 var(--s-2);
  font-size: var(--text);
}
</style>
