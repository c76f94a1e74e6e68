<script setup lang="ts">
// Rates of one's own, from what was really used, offered to the list's trip in place of the rules of thumb.
import { computed } from 'vue'
import type { Lessons, ListChange, Trip } from '@/api/client'
import { onTrips, ownRates } from '@/domain/lessons'
import { useUnits } from '@/domain/units'

const props = defineProps<{
  lessons: Lessons
  trip: Trip | null
  /** Whether they can be silenced here. */
  silencing?: boolean
}>()
const emit = defineEmits<{ set: [name: string, body: ListChange]; silence: [key: string, name: string] }>()
const units = useUnits()
const rates = computed(() =>
  ownRates(props.lessons, units).filter(({ key }) => !props.lessons.silenced.includes(`rate ${key}`)),
)

const body = ({ figure, typed, median }: (typeof rates.value)[number]): ListChange => ({
  figures: { [figure]: typed(median) },
})
</script>

<template>
  <section v-if="rates.length" class="card" aria-label="Rates of your own">
    <h2>Rates of your own</h2>
    <ul class="rows">
      <li v-for="rate in rates" :key="rate.key">
        <span>
          {{ rate.name }}
          <small class="muted">{{ rate.trips > 1 ? `median of ${rate.trips} trips` : onTrips(1) }}</small>
        </span>
        <span class="right">
          <b>{{ rate.shown(rate.median) }}</b>
          <span class="acts">
            <el-button
              v-if="trip"
              link
              type="primary"
              size="small"
              @click="emit('set', rate.name, body(rate))"
              >Set on this trip</el-button
            >
            <el-button
              v-if="silencing"
              link
              size="small"
              @click="emit('silence', `rate ${rate.key}`, rate.name)"
              >Dismiss</el-button
            >
          </span>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
small {
  display: block;
  font-size: var(--text-s);
}
.right {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
}
.acts {
  display: flex;
  gap: var(--s-2);
}
.acts :deep(.el-button) {
  margin: 0;
}
</style>
