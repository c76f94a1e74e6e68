<script setup lang="ts">
// The trip that is packed for: on the day, its list is kept as it is, with what is in.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { lessonsQuery } from '@/api/queries'
import { useKeepTrip } from '@/domain/keepTrip'
import { stepOf } from '@/domain/lists'
import { dayOfTrip } from '@/quantities/dates'

const props = defineProps<{ list: string; out: number }>()
const { data } = useQuery(lessonsQuery)
const coming = computed(
  () =>
    data.value?.trips.map(({ trip }) => trip).find((trip) => trip.list === props.list && !trip.kept_at) ??
    null,
)
const setOff = useKeepTrip()
</script>

<template>
  <section v-if="data" class="card screen-only" aria-label="The trip">
    <template v-if="coming">
      <h2>{{ coming.name }}, {{ dayOfTrip(coming.starts_on) }}</h2>
      <p class="muted">
        When you start, the list is saved as it is<template v-if="out">, with what is in so far</template>:
        that is what you look back on after.
      </p>
      <el-button @click="setOff(coming)">Start the trip: save its list</el-button>
    </template>
    <p v-else class="muted">
      No trip is coming for this list.
      <RouterLink class="link" :to="stepOf(list, 'trips')">Add one under Trips</RouterLink>, and what is
      packed is kept for it.
    </p>
  </section>
</template>

<style scoped>
p {
  margin-bottom: var(--s-2);
}
</style>
