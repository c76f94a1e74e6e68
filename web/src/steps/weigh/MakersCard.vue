<script setup lang="ts">
// Makers' figures beside what the scale said of the same things, and how far the others are trusted by that.
import { computed } from 'vue'
import type { WeighPage } from '@/api/client'
import { useSettings } from '@/domain/settings'
import MakersPlot from '@/marks/MakersPlot.vue'
import { counted } from '@/quantities/count'

const props = defineProps<{ makers: WeighPage['makers'] }>()
const { settings, set: setSettings } = useSettings()
const checked = computed(() => {
  const { errors, median = null, own, left_out: leftOut } = props.makers
  if (median === null) return null
  const off = `${(Math.abs(median) / 10_000).toFixed(1)} % ${median >= 0 ? 'light' : 'heavy'}`
  return { off, pairs: errors.length, own, leftOut }
})
</script>

<template>
  <section class="card">
    <h2>Makers’ figures and your scale</h2>
    <template v-if="checked">
      <MakersPlot :errors="makers.errors" :median="makers.median ?? null" />
      <p class="muted">
        Makers’ figures you checked ran <b>{{ checked.off }}</b> (median of {{ checked.pairs }}).
        {{
          checked.own
            ? `Your own ${checked.pairs} pairs say how far the others are trusted.`
            : 'From five pairs on, your own say how far the others are trusted.'
        }}
      </p>
      <p v-if="checked.leftOut || settings?.keeps_far_pairs" class="muted">
        {{
          settings?.keeps_far_pairs
            ? 'Pairs that are over 40 % apart count too.'
            : `${counted(checked.leftOut, 'pair')} over 40 % apart ${checked.leftOut === 1 ? 'is' : 'are'} left out: a slip, or a thing that was changed.`
        }}
        <el-button
          link
          type="primary"
          size="small"
          @click="setSettings({ keeps_far_pairs: !settings?.keeps_far_pairs })"
          >{{ settings?.keeps_far_pairs ? 'Leave them out' : 'Count them too' }}</el-button
        >
      </p>
    </template>
    <p v-else class="muted">
      Weigh something of which you know the maker’s figure, and it stands here beside your scale’s.
    </p>
  </section>
</template>

<style scoped>
b {
  color: var(--ink);
}
</style>
