<script setup lang="ts">
// The sheet of a shared list: ruler, equation, ways, the trip in figures, cautions. In the units of whose list it is.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import type { Sheet } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { useUnits } from '@/domain/units'
import GramRuler from '@/marks/GramRuler.vue'
import { counted } from '@/quantities/count'
import CautionCards from '@/steps/list/CautionCards.vue'
import Equation from '@/steps/list/Equation.vue'
import { spans } from '@/steps/list/equation'
import WaysCard from '@/steps/list/WaysCard.vue'

const props = defineProps<{ sheet: Sheet }>()
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const systems = computed(() => new Map(vocabulary.value?.systems.map((system) => [system.key, system.name])))
const chosen = ref<string | null>(null)
const walker = ref(0)
/** One walker’s view. */
const shown = computed(() => ({
  ...props.sheet,
  me: walker.value,
  totals: props.sheet.walkers[walker.value] ?? props.sheet.totals,
}))
const above = computed(() => spans(props.sheet.lines, walker.value))
document.title = `${props.sheet.list.name} · Kevyt`
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">{{ sheet.list.name }}</h1>
      <p>
        {{ counted(sheet.lines.length, 'thing') }}, a list{{ sheet.owner ? ` of ${sheet.owner}’s` : '' }}.
        {{ sheet.list.note }}
      </p>
    </div>
    <el-radio-group v-if="sheet.walkers.length > 1" v-model="walker" size="small" aria-label="Whose load">
      <el-radio-button v-for="(one, at) in sheet.walkers" :key="one.id" :value="at"
        >{{ one.name }}: base {{ units.totalText(one.base_mg) }}</el-radio-button
      >
    </el-radio-group>
    <GramRuler
      :spans="above"
      :unit-mg="units.scale.value.mg"
      :unit-name="units.scale.value.name"
      :systems="systems"
      :text="units.tableText"
      :chosen="chosen"
      @choose="chosen = $event"
    />
    <Equation :sheet="shown" :chosen="chosen" @choose="chosen = $event">
      <WaysCard v-if="walker === sheet.me" :sheet="sheet" :can-change="false" :save-ways="async () => {}" />
      <section v-if="sheet.trip" class="card trip" aria-label="The trip">
        <p>
          Heaviest start, day {{ sheet.trip.heaviest_day }}:
          <b>{{ units.totalText(sheet.trip.heaviest_mg) }}</b>
        </p>
      </section>
      <template #below><CautionCards :sheet="sheet" :can-add="false" /></template>
    </Equation>
  </div>
</template>

<style scoped>
.trip {
  padding: var(--s-2) var(--s-3h);
}
.trip p {
  margin: 0;
}
</style>
