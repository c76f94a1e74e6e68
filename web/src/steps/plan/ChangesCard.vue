<script setup lang="ts">
// What the plan changes beside weight and money: cautions raised and quieted, jobs gained and lost. Nothing to say if nothing changes.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { PlanAnswer } from '@/api/client'
import { afterQuery } from '@/api/queries'
import AfterCautions from '@/domain/AfterCautions.vue'

const props = defineProps<{ answer: PlanAnswer }>()
const swaps = computed(() => (props.answer.plan.swaps ?? []).map((at) => props.answer.swaps[at]!.id))
const { data: after } = useQuery(
  computed(() => ({ ...afterQuery(props.answer.list.id, swaps.value), enabled: swaps.value.length > 0 })),
)
const changes = computed(() => {
  const { raised, quieted, jobs } = after.value ?? { raised: [], quieted: [], jobs: [] }
  return raised == null || raised.length + quieted.length + jobs.length > 0
})
</script>

<template>
  <section v-if="swaps.length && after && changes" class="card" aria-label="What the plan changes">
    <h2>What the plan changes</h2>
    <AfterCautions :after="after" :list="answer.list" />
  </section>
</template>
