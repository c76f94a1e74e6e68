<script setup lang="ts">
// A forecast that the trip can take over: what it is based on and how wide its spread is. Nothing waits for it.
import { ref } from 'vue'
import { api, unwrap, type Trip } from '@/api/client'
import { reason } from '@/controls/messages'
import { useUnits } from '@/domain/units'
import { temperature } from '@/quantities/measures'

const props = defineProps<{
  trip: Trip
  disabled: boolean
  save: (some: Partial<Trip>) => Promise<unknown>
}>()
const units = useUnits()
const isOpen = ref(false)
const place = ref('')
const from = ref('')
const told = ref<Awaited<ReturnType<typeof ask>> | null>(null)
const refusal = ref('')
const isAsking = ref(false)
const ask = () =>
  unwrap(
    api.GET('/api/forecast', {
      params: { query: { place: place.value, from: from.value, days: props.trip.days } },
    }),
  )
async function look() {
  refusal.value = ''
  isAsking.value = true
  try {
    told.value = await ask()
  } catch (error) {
    refusal.value = `${reason(error)} The trip stays as it is.`
  } finally {
    isAsking.value = false
  }
}
const t = (tenths: number) => temperature(tenths, units.measures.value)
</script>

<template>
  <el-button link size="small" :aria-expanded="isOpen" @click="isOpen = !isOpen">Ask a forecast …</el-button>
  <div v-if="isOpen" class="forecast">
    <el-input
      v-model="place"
      size="small"
      placeholder="Place, such as north fells"
      aria-label="Place"
      :disabled="disabled"
    />
    <el-date-picker
      v-model="from"
      size="small"
      type="date"
      value-format="YYYY-MM-DD"
      placeholder="First day"
      aria-label="First day"
      :disabled="disabled"
    />
    <el-button size="small" :loading="isAsking" :disabled="disabled || !place || !from" @click="look"
      >Ask</el-button
    >
    <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
    <template v-else-if="told">
      <p>
        Low {{ t(told.low_tenth_c) }} (between {{ t(told.low_from_tenth_c) }} and
        {{ t(told.low_to_tenth_c) }}), high {{ t(told.high_tenth_c) }} (between
        {{ t(told.high_from_tenth_c) }} and {{ t(told.high_to_tenth_c) }}), rain on {{ told.rain_days }} of
        {{ trip.days }} days, wind {{ told.wind_km_per_hour }} km/h, light
        {{ (told.light_tenth_hours / 10).toFixed(1) }} h a day.
      </p>
      <p class="muted">{{ told.based_on }}</p>
      <el-button
        size="small"
        @click="
          save({
            low_tenth_c: told.low_from_tenth_c,
            high_tenth_c: told.high_to_tenth_c,
            rain: told.rain_days > 0,
          })
        "
        >Take over, with the colder end of the lows</el-button
      >
    </template>
  </div>
</template>

<style scoped>
.forecast {
  display: grid;
  gap: var(--s-1h);
  margin: var(--s-1) 0 var(--s-2);
}
.forecast :deep(.el-input),
.forecast :deep(.el-date-editor) {
  width: 100%;
  margin-top: var(--s-1h);
}
.forecast :deep(.el-button) {
  margin: var(--s-1h) 0 0;
}
p {
  margin: var(--s-1h) 0 0;
  font-size: var(--text-m);
}
</style>
