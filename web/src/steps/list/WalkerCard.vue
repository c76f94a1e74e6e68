<script setup lang="ts">
// A walker: what they carry, what they would lack alone, and what of it is shared.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { Sheet, SheetLine } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import EditableCell from '@/controls/EditableCell.vue'
import { vDrag, vDrop } from '@/controls/drag'
import { useMessages } from '@/controls/messages'
import LoadedPack from '@/domain/LoadedPack.vue'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { jobName } from '@/quantities/jobs'
import type { Together } from './together'
import { listed } from '@/quantities/count'

const props = defineProps<{ sheet: Sheet; at: number; together: Together }>()
const units = useUnits()
const { failed } = useMessages()
const { data: vocabulary } = useQuery(vocabularyQuery)
const jobs = computed(() => new Map(vocabulary.value?.jobs.map((job) => [job.key, job])))
const names = computed(() => props.sheet.lines.map((line) => line.name))
const walkers = computed(() => props.sheet.walkers)
const walker = computed(() => walkers.value[props.at]!)
const isMe = computed(() => props.at === props.sheet.me)
const isOwner = computed(() => props.sheet.role === 'owner')
const canChange = computed(() => isOwner.value || isMe.value)

const rows = computed(() =>
  props.sheet.lines
    .filter((line) => line.walker === props.at && line.carried + line.used_up > 0)
    .map((line) => {
      const pieces = line.carried + line.used_up
      return { line, pieces, mg: line.weight ? line.weight.unit_mg * pieces : null }
    })
    .sort((a, b) => Number(b.line.shared) - Number(a.line.shared) || (b.mg ?? 0) - (a.mg ?? 0)),
)
const share = computed(() => {
  const { body_mg: body, pack_mg: pack } = walker.value
  return body ? `${((pack * 100) / body).toFixed(1)} % of body weight` : 'body weight not said'
})
const body = computed(() => (walker.value.body_mg ? units.totalText(walker.value.body_mg) : ''))

/** Gives a line away; with the keyboard on it, it keeps the focus. */
async function give(line: SheetLine, to: number) {
  const other = walkers.value[to]
  if (!other) return
  await props.together.give(line, other)
  document.querySelector<HTMLElement>(`[data-thing="${line.id}"]`)?.focus()
}
/** Keys on a thing: ← and → give it to the walker beside, s says whether it is shared. */
function key(event: KeyboardEvent, line: SheetLine) {
  // With these it is the browser's.
  if (event.altKey || event.ctrlKey || event.metaKey) return
  const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (step && walkers.value[props.at + step]) void give(line, props.at + step)
  else if (event.key === 's') void props.together.share(line)
  else return
  event.preventDefault()
  event.stopPropagation()
}
function drop(dragged: string) {
  const line = props.sheet.lines.find((one) => one.id === dragged)
  if (line && line.walker !== props.at) void give(line, props.at)
}
const link = () =>
  props.together
    .makeLink(
      { walker: walker.value.id, days: 14 },
      `Link for ${walker.value.name} made. It opens for 14 days, once.`,
    )
    .catch(failed)
</script>

<template>
  <section v-drop="drop" class="card walker" :aria-label="walker.name">
    <h2 data-line>
      <EditableCell
        v-if="canChange"
        :label="`Name of ${walker.name}`"
        :typed="walker.name"
        :save="(name) => together.set(walker.id, { name })"
        >{{ walker.name }}</EditableCell
      >
      <template v-else>{{ walker.name }}</template>
      <span v-if="isMe" class="muted"> you</span
      ><span v-else-if="!walker.joined" class="muted"> not joined</span>
    </h2>
    <p class="figures">
      <span><em>Base</em><Figure v-bind="units.total(walker.base_mg)" size="beam" /></span>
      <span><em>Pack</em><Figure v-bind="units.total(walker.pack_mg)" size="beam" /></span>
      <span><em>Loaded</em><LoadedPack :loaded="walker.loaded" :names="names" /></span>
    </p>
    <p class="muted share" data-line>
      {{ share }}
      <EditableCell
        v-if="canChange"
        :label="`Body weight of ${walker.name}`"
        :spoken="body || 'set'"
        :typed="body.replace(/\u202f/g, '')"
        :save="(typed) => together.set(walker.id, { body: typed.trim() || null })"
        >{{ body || 'set' }}</EditableCell
      >
    </p>
    <p v-if="walker.lacks.length" class="lacks">
      Alone {{ isMe ? 'you' : walker.name }} would lack
      {{ listed(walker.lacks.map((job) => jobName(job, jobs))) }}.
    </p>
    <ul>
      <li v-for="{ line, pieces, mg } in rows" :key="line.id" v-drag="line.id" data-line>
        <el-button link class="what" :data-thing="line.id" data-cell data-row @keydown="key($event, line)"
          >{{ line.name }}{{ pieces > 1 ? ` × ${pieces}` : ''
          }}<span v-if="line.shared" class="chip">shared</span></el-button
        >
        <span class="do">
          <el-button
            link
            size="small"
            tabindex="-1"
            :aria-label="line.shared ? `${line.name} is not shared` : `Share ${line.name}`"
            @click="together.share(line)"
            >{{ line.shared ? 'not shared' : 'share' }}</el-button
          >
          <el-button
            v-for="(other, to) in walkers"
            v-show="to !== at"
            :key="other.id"
            link
            size="small"
            tabindex="-1"
            :aria-label="`${other.name} carries ${line.name}`"
            @click="together.give(line, other)"
            >→ {{ other.name }}</el-button
          >
        </span>
        <b>{{ mg === null ? '?' : units.table(mg).figure }}</b>
      </li>
    </ul>
    <p class="foot screen-only">
      <el-checkbox
        v-if="isMe"
        :model-value="walker.shows_prices"
        label="The others see what my gear cost"
        @change="(on: unknown) => together.set(walker.id, { shows_prices: on === true }).catch(failed)"
      />
      <el-button v-if="isOwner && !walker.joined" size="small" @click="link">Link to join …</el-button>
      <el-button
        v-if="isOwner !== isMe"
        link
        size="small"
        @click="
          together.takeOff(walker, isMe ? 'You have left the list.' : `${walker.name} is off the list.`)
        "
        >{{ isMe ? 'Leave this list' : 'Take off' }}</el-button
      >
    </p>
  </section>
</template>

<style scoped>
.walker {
  padding: var(--s-3) var(--s-4);
}
h2,
.share {
  display: flex;
  gap: var(--s-1h);
  align-items: baseline;
  margin: 0 0 var(--s-1h);
}
h2 {
  font-size: var(--text-ml);
}
.figures {
  display: flex;
  gap: var(--s-5);
  margin: 0;
}
.figures em {
  display: block;
  font-style: normal;
  font-size: var(--text-s);
  color: var(--ink-2);
}
.lacks {
  color: var(--cloudberry);
  margin: var(--s-1) 0;
}
ul {
  list-style: none;
  margin: var(--s-2) 0 0;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  gap: var(--s-2h);
  border-bottom: 1px solid var(--line);
  min-height: 26px;
}
li b {
  min-width: 56px;
  text-align: right;
  font-weight: 650;
}
.what {
  flex: 1 1 auto;
  min-width: 0;
  margin: 0;
  padding: 0;
  justify-content: flex-start;
  font-weight: 400;
}
.what :deep(> span) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.chip {
  border: 1px solid var(--line-strong);
  border-radius: 2px;
  padding: 0 var(--s-1h);
  margin-left: var(--s-1h);
  font-size: var(--text-xs);
  color: var(--ink-2);
}
.do {
  flex: none;
}
.do :deep(.el-button) {
  margin: 0 0 0 var(--s-2);
}
/* Where there is room for a name and a figure alone, what can be done stands under them. */
@media (max-width: 700px) {
  li {
    flex-wrap: wrap;
    row-gap: 0;
    padding: var(--s-1h) 0 var(--s-0h);
  }
  .do {
    order: 1;
    flex: 1 0 100%;
    min-height: 30px;
  }
  .do :deep(.el-button) {
    margin: 0 var(--s-4) 0 0;
  }
}
@media (hover: hover) {
  .do {
    opacity: 0;
  }
  li:hover .do,
  li:focus-within .do {
    opacity: 1;
  }
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2h);
  align-items: center;
  margin: var(--s-2h) 0 0;
}
</style>
