<script setup lang="ts">
// What to look at before going: each caution with its figure and what of the shelf would quiet it. Notes stand in one quiet card.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { Caution, Sheet } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { remedyText, said, type Saying } from '@/domain/cautions'
import { useUnits } from '@/domain/units'

const props = defineProps<{
  sheet: Sheet
  canAdd: boolean
  /** Whether cautions can be acknowledged here: by whose list it is. */
  canKnow?: boolean
}>()
const emit = defineEmits<{
  bring: [gear: string, name: string]
  /** Acknowledged, or told again. */
  know: [caution: Caution, known: boolean]
  /** An assumed figure of the things behind a caution is right. */
  confirm: [gear: string[], job: string]
}>()
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const saying = computed<Saying>(() => ({
  measures: units.measures.value,
  total: units.totalText,
  jobs: new Map(vocabulary.value?.jobs.map((job) => [job.key, job])),
  sheet: props.sheet,
}))
// What one of you would lack is one card a walker: its title names all of it.
const all = computed(() => {
  const cards = (props.sheet.trip?.cautions ?? []).map((caution) => ({
    caution,
    key: `${caution.id} ${caution.id === 'shared_gear' ? '' : (caution.job ?? '')} ${caution.found ?? ''}`,
    ...said(caution, saying.value),
  }))
  return [...new Map(cards.map((card) => [card.key, card])).values()]
})
const raised = computed(() => all.value.filter(({ caution }) => caution.level !== 'note' && !caution.known))
const notes = computed(() => all.value.filter(({ caution }) => caution.level === 'note' && !caution.known))
/** What was acknowledged and is no worse is a line. */
const known = computed(() => all.value.filter(({ caution }) => caution.known))
/** Only what one owns can be confirmed. */
const own = (caution: Caution) =>
  caution.of.map((at) => props.sheet.lines[at]).flatMap((line) => (line?.mine ? [line.gear] : []))
const words = (level: Caution['level']) => (level === 'red' ? 'Serious' : 'Caution')
</script>

<template>
  <article
    v-for="{ caution, key, title, text } in raised"
    :key="key"
    class="card told"
    :class="caution.level"
  >
    <h2>
      <span class="visually-hidden">{{ words(caution.level) }}: </span>{{ title }}
    </h2>
    <p>
      {{ text }}
      <el-tooltip :content="caution.source" placement="bottom"
        ><span class="why" tabindex="0">why</span></el-tooltip
      >
      <el-button v-if="canKnow" link size="small" @click="emit('know', caution, true)">I know</el-button>
    </p>
    <ul v-if="caution.remedies.length">
      <li v-for="remedy in caution.remedies" :key="remedy.name">
        {{ remedyText(caution, remedy, saying) }}{{ remedy.quiets ? ': enough for this figure' : '' }}
        <el-button
          v-if="canAdd && remedy.gear"
          link
          type="primary"
          size="small"
          @click="emit('bring', remedy.gear, remedy.name)"
          >Bring it</el-button
        >
      </li>
    </ul>
  </article>
  <p
    v-if="sheet.trip && !raised.length && !known.some(({ caution }) => caution.level !== 'note')"
    class="muted"
  >
    No caution by these figures. They know only what was entered.
  </p>
  <section v-if="notes.length" class="card notes" aria-label="To bear in mind">
    <p v-for="{ caution, key, title, text } in notes" :key="key">
      <b>{{ title }}.</b> {{ text }}
      <el-button
        v-if="canAdd && caution.id === 'assumed' && own(caution).length"
        link
        type="primary"
        size="small"
        @click="emit('confirm', own(caution), caution.job ?? '')"
        >It is right</el-button
      >
      <el-button v-if="canKnow" link size="small" @click="emit('know', caution, true)">I know</el-button>
    </p>
  </section>
  <section v-if="known.length" class="card notes" aria-label="What you know">
    <p v-for="{ caution, key, title } in known" :key="key">
      <span class="muted">you know:</span> {{ title }}
      <el-button v-if="canKnow" link size="small" @click="emit('know', caution, false)"
        >Tell it again</el-button
      >
    </p>
  </section>
</template>

<style scoped>
.told {
  border-left: 4px solid var(--cloudberry);
  padding: var(--s-2h) var(--s-3h);
}
.told.red,
.told.unrated {
  border-left-color: var(--lingonberry);
}
h2 {
  margin: 0 0 var(--s-1);
  font-size: var(--text);
  color: var(--lingonberry);
}
.told.amber h2 {
  color: var(--cloudberry);
}
p {
  margin: 0;
  font-size: var(--text-m);
}
ul {
  margin: var(--s-1) 0 0;
  padding: 0;
  list-style: none;
  font-size: var(--text-m);
}
.why {
  color: var(--ink-2);
  text-decoration: underline dotted;
  cursor: help;
}
.notes {
  padding: var(--s-2h) var(--s-3h);
  display: grid;
  gap: var(--s-1h);
  color: var(--ink-2);
}
</style>
