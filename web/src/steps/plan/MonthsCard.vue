<script setup lang="ts">
// Money as it comes in, month by month, and until when it lasts for the plan.
import { computed } from 'vue'
import type { ListChange, PlanAnswer } from '@/api/client'
import TypedField from '@/controls/TypedField.vue'
import { costsInOrder } from '@/domain/parcels'
import { monthName } from '@/quantities/dates'
import { typedAmount } from '@/quantities/money'
import { useUnits } from '@/domain/units'

const props = defineProps<{ answer: PlanAnswer; save: (change: ListChange) => Promise<unknown> }>()
const units = useUnits()
const purse = computed(() => props.answer.list.terms.purse ?? null)
const typed = computed(() => ({
  now: purse.value ? typedAmount(purse.value.now_minor, units.currency.value) : '',
  month: purse.value ? typedAmount(purse.value.month_minor, units.currency.value) : '',
  resale: purse.value ? `${purse.value.resale_after_months}` : '',
}))
const selling = computed(() => {
  const { fee_tenths, postage_minor } = props.answer.list.terms.selling
  return {
    fee: fee_tenths ? `${fee_tenths / 10}` : '',
    postage: postage_minor ? typedAmount(postage_minor, units.currency.value) : '',
  }
})
/** What was spent since it was said what there is. */
const since = computed(() => {
  const then = purse.value?.spent_then_minor
  return then == null ? 0 : props.answer.spent_minor - then
})
const left = computed(() => Math.max(0, (purse.value?.now_minor ?? 0) - since.value))
/** Each field goes by itself, so that two typed in a row don't meet. With nothing typed at all there is no purse. */
function saved(some: { now?: string; month?: string; resale?: string }) {
  const { now, month, resale } = { ...typed.value, ...some }
  if ([now, month, resale].every((text) => ['', '0'].includes(text.trim())))
    return props.save({ purse: null })
  if (!/^\d*$/.test(resale.trim()))
    return Promise.reject(new Error(`"${resale}" is no count of months. Type 0, 1, 2 …`))
  return props.save({
    purse: {
      ...((some.now !== undefined || !purse.value) && { now: now.trim() || '0' }),
      ...((some.month !== undefined || !purse.value) && { month: month.trim() || '0' }),
      ...(some.resale !== undefined && { resale_after_months: Number(resale) }),
    },
  })
}
/** What comes in several months is sent several times. */
const parcels = computed(() => {
  const { months, swaps, net_minor } = props.answer.plan
  const sum = costsInOrder(props.answer, swaps ?? [], months).reduce((sum, cost) => sum + cost, 0)
  return months && sum > net_minor
    ? ` Sent in separate months, delivery takes ${units.moneyText(sum - net_minor)} more.`
    : ''
})
const until = computed(() => {
  const { months, soonest, swaps } = props.answer.plan
  if (!purse.value || !swaps?.length) return ''
  const last = months?.length ? Math.max(...months) : null
  const first = soonest?.length ? Math.max(...soonest.map((one) => one.month)) : null
  const { soonest_proved: proved } = props.answer.plan
  if (last === null && first === null)
    return proved
      ? 'With this money the plan takes more than five years.'
      : 'In this order it takes more than five years. Whether another order is quicker was not known in time.'
  const inOrder =
    last === null ? 'In this order it takes more than five years.' : `All of it by ${monthName(last)}.`
  const sooner =
    first === null
      ? proved
        ? ''
        : ' Whether another order is quicker was not known in time.'
      : ` In another order by ${monthName(first)}${proved ? '' : ', or sooner: that was not known in time'}.`
  const text = inOrder + sooner
  return text + parcels.value
})
</script>

<template>
  <section class="card" aria-label="Money month by month">
    <h2>Money month by month</h2>
    <el-form label-position="top" class="three" @submit.prevent>
      <TypedField label="Now" :text="typed.now" placeholder="0" :save="(now) => saved({ now })" />
      <TypedField
        label="Each month"
        :text="typed.month"
        placeholder="0"
        :save="(month) => saved({ month })"
      />
      <TypedField
        label="Resale comes after"
        unit="months"
        :text="typed.resale"
        placeholder="0"
        :save="(resale) => saved({ resale })"
      />
    </el-form>
    <el-form label-position="top" class="two" @submit.prevent>
      <TypedField
        label="Seller’s fee"
        unit="%"
        :text="selling.fee"
        placeholder="0"
        :save="(fee) => props.save({ selling: { fee } })"
      />
      <TypedField
        label="Postage"
        :text="selling.postage"
        placeholder="0"
        :save="(postage) => props.save({ selling: { postage } })"
      />
    </el-form>
    <p class="muted">
      <template v-if="since > 0">
        {{ units.moneyText(since) }} of what there was are spent since: {{ units.moneyText(left) }} are left.
      </template>
      {{ until || 'Say what there is now and what comes each month, and each swap gets its month.' }}
    </p>
  </section>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: 1fr 1fr 1.3fr;
  gap: 0 var(--s-2);
  align-items: end;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 var(--s-2);
}
.two :deep(.el-form-item),
.three :deep(.el-form-item) {
  margin-bottom: var(--s-2);
}
p {
  font-size: var(--text-m);
}
</style>
