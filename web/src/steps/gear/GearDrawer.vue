<script setup lang="ts">
// All about a thing: its figures, its jobs, its weighings and what was done to it.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { Problem, type Gear, type GearChange, type JobAmounts, type Vocabulary } from '@/api/client'
import { changesQuery, weighingsQuery } from '@/api/queries'
import { useDraft } from '@/controls/draft'
import DraftNotes from '@/controls/DraftNotes.vue'
import { reason } from '@/controls/messages'
import type { TypedFacts } from '@/domain/facts'
import FactsFields from '@/domain/FactsFields.vue'
import JobsEditor from '@/domain/JobsEditor.vue'
import KindSelect from '@/domain/KindSelect.vue'
import { kindName, NEEDS, STARTS, type Need, type Start } from '@/domain/kinds'
import { useUnits } from '@/domain/units'
import { ACQUIRED, STATUSES } from '@/domain/words'
import WeighingPlot from '@/marks/WeighingPlot.vue'
import { day, dayOfTrip } from '@/quantities/dates'
import { jobName, jobText } from '@/quantities/jobs'
import ChangeList from './ChangeList.vue'
import { changeOf, fieldsOf, NAMES, type Fields } from './gearFields'

const props = defineProps<{
  thing: Gear | null
  vocabulary: Vocabulary | undefined
  change: (thing: Gear, change: GearChange, version?: number) => Promise<unknown>
}>()
const emit = defineEmits<{ close: []; remove: [thing: Gear] }>()

const units = useUnits()
const id = computed(() => props.thing?.id ?? '')
const enabled = computed(() => id.value !== '')
const { data: weighings } = useQuery(
  computed(() => ({ ...weighingsQuery(id.value), enabled: enabled.value })),
)
const { data: changes } = useQuery(computed(() => ({ ...changesQuery(id.value), enabled: enabled.value })))

const { draft, version, isChanged, wasKept, clashes, open, merge, discard, choose } = useDraft<Fields>(() =>
  props.thing
    ? {
        name: `gear ${props.thing.id}`,
        version: props.thing.version,
        fields: fieldsOf(props.thing, units.currency.value),
      }
    : null,
)
const refusal = ref<{ field: string; text: string } | null>(null)
const busy = ref(false)
const showsMarks = ref(false)
watch(
  id,
  () => {
    refusal.value = null
    showsMarks.value = false
    open()
  },
  { immediate: true },
)
// What was changed beside the drawer is shown in it; what was typed over stays.
watch(
  () => props.thing?.version,
  () => (isChanged.value ? merge() : open()),
)

const known = computed(() => new Map(props.vocabulary?.jobs.map((job) => [job.key, job])))
const markName = (key: string) => props.vocabulary?.marks.find((one) => one.key === key)?.name ?? key
const jobsText = (jobs: JobAmounts) =>
  Object.entries(jobs)
    .map(([key, n]) => jobText(jobName(key, known.value), known.value.get(key)?.unit ?? 'count', n))
    .join(', ') || 'nothing'
function written(key: string, value: unknown): string {
  if (key === 'provides' || key === 'needs') return jobsText(value as JobAmounts)
  if (key === 'facts') {
    const { rating, warms, contents } = value as TypedFacts
    return [rating, warms, contents].filter(Boolean).join(', ') || 'nothing'
  }
  if (key === 'system')
    return props.vocabulary?.systems.find((one) => one.key === value)?.name ?? String(value)
  if (key === 'need') return NEEDS[value as Need]
  if (key === 'keep') return value ? 'stays as it is' : 'may change'
  if (key === 'start') return value ? STARTS[value as Start] : 'not said'
  if (key === 'marks') return (value as string[]).map(markName).join('; ') || 'none'
  if (key === 'status') return STATUSES[value as Gear['status']]
  if (key === 'acquired') return ACQUIRED[value as Gear['acquired']]
  return String(value) || 'nothing'
}

async function save() {
  const thing = props.thing
  if (!thing || busy.value) return
  busy.value = true
  refusal.value = null
  try {
    if (isChanged.value)
      await props.change(thing, changeOf(fieldsOf(thing, units.currency.value), draft.value), version.value)
    discard()
    emit('close')
  } catch (error) {
    // Somebody else was quicker: what they wrote is on its way, and is brought in when it comes.
    const field = error instanceof Problem ? (error.field ?? '') : ''
    refusal.value = { field, text: reason(error) }
  } finally {
    busy.value = false
  }
}
/** What is said at once, beside what is typed: what it is, and that an assumed figure is right. */
async function say(change: GearChange) {
  const thing = props.thing
  if (!thing) return
  refusal.value = null
  try {
    await props.change(thing, change)
  } catch (error) {
    refusal.value = { field: '', text: reason(error) }
  }
}
/** The marks that it has; all of them once they are asked for. */
const marks = computed(() =>
  (props.vocabulary?.marks ?? []).filter(
    (mark) =>
      showsMarks.value ||
      draft.value.marks.includes(mark.key) ||
      props.thing?.marks?.includes(mark.key as never),
  ),
)
const assumed = computed(() =>
  (props.thing?.assumed ?? []).map((job) => ({
    job,
    text: jobsText({ [job]: props.thing?.provides[job] ?? 0 }),
  })),
)
const refusalFor = (field: string) => (refusal.value?.field === field ? refusal.value.text : '')
const elsewhere = computed(() =>
  refusal.value && !(refusal.value.field.split('.')[0]! in NAMES) ? refusal.value.text : '',
)
</script>

<template>
  <el-drawer
    :model-value="thing !== null"
    :title="thing?.name"
    size="min(28.75rem, 100vw)"
    @close="emit('close')"
  >
    <el-form v-if="draft && thing" label-position="top" class="drawer-form" @submit.prevent="save">
      <DraftNotes
        :kept="wasKept && isChanged"
        :clashes="clashes"
        :names="NAMES"
        :written="written"
        @discard="discard"
        @choose="choose"
      />
      <section v-if="weighings?.length" aria-label="Weighings">
        <h3>Weighings</h3>
        <WeighingPlot :weighings="weighings" :claimed="thing.claimed?.unit_mg ?? null" />
        <ul class="rows">
          <li v-for="one in weighings" :key="one.id">
            <span
              >{{ day(one.at) }}
              <span class="muted"
                >{{ one.scale }}<template v-if="one.pieces > 1">, {{ one.pieces }} on the pan</template></span
              ></span
            >
            <b
              >{{ units.tableText(one.unit_mg) }}
              <span v-if="one.half_width_mg" class="muted">±{{ units.fineText(one.half_width_mg) }}</span></b
            >
          </li>
        </ul>
      </section>
      <el-form-item :label="NAMES.name" :error="refusalFor('name')">
        <el-input v-model="draft.name" name="name" maxlength="120" />
      </el-form-item>
      <el-form-item label="What it is">
        <span class="is">
          <KindSelect
            :model-value="thing.kind ?? ''"
            :proposed="thing.proposed_kind ?? undefined"
            label="What it is"
            @update:model-value="(kind: string) => say({ kind })"
          />
          <el-button v-if="thing.proposed_kind" @click="say({ kind: thing.proposed_kind })"
            >Yes, {{ kindName(vocabulary, thing.proposed_kind) }}</el-button
          >
        </span>
      </el-form-item>
      <ul v-if="assumed.length" class="rows" aria-label="Assumed figures">
        <li v-for="one in assumed" :key="one.job">
          <span>{{ one.text }} <span class="muted">assumed, as such things usually are</span></span>
          <el-button size="small" @click="say({ confirm: [one.job] })">It is right</el-button>
        </li>
      </ul>
      <div class="pair">
        <el-form-item :label="NAMES.weight" :error="refusalFor('weight')">
          <el-input v-model="draft.weight" name="weight" placeholder="unknown" inputmode="decimal" />
        </el-form-item>
        <el-form-item :label="NAMES.claimed" :error="refusalFor('claimed')">
          <el-input v-model="draft.claimed" name="claimed" placeholder="unknown" inputmode="decimal" />
        </el-form-item>
        <el-form-item :label="NAMES.paid" :error="refusalFor('paid')">
          <el-input v-model="draft.paid" name="paid" placeholder="unknown" inputmode="decimal" />
        </el-form-item>
        <el-form-item :label="NAMES.resale" :error="refusalFor('resale')">
          <el-input v-model="draft.resale" name="resale" placeholder="unknown" inputmode="decimal" />
          <small v-if="thing.resale_on" class="muted">said on {{ dayOfTrip(thing.resale_on) }}</small>
        </el-form-item>
        <el-form-item :label="NAMES.system">
          <el-select v-model="draft.system" aria-label="System">
            <el-option v-for="one in vocabulary?.systems" :key="one.key" :value="one.key" :label="one.name" />
          </el-select>
        </el-form-item>
        <el-form-item :label="NAMES.status">
          <el-select v-model="draft.status" aria-label="Status">
            <el-option v-for="(name, key) in STATUSES" :key="key" :value="key" :label="name" />
          </el-select>
        </el-form-item>
        <el-form-item :label="NAMES.acquired">
          <el-select v-model="draft.acquired" aria-label="How I got it">
            <el-option v-for="(name, key) in ACQUIRED" :key="key" :value="key" :label="name" />
          </el-select>
        </el-form-item>
        <el-form-item :label="NAMES.nights" :error="refusalFor('nights')">
          <el-input v-model="draft.nights" name="nights" inputmode="numeric" />
        </el-form-item>
        <el-form-item :label="NAMES.lasts_nights" :error="refusalFor('lasts_nights')">
          <el-input
            v-model="draft.lasts_nights"
            name="lasts_nights"
            placeholder="unknown"
            inputmode="numeric"
          />
        </el-form-item>
        <el-form-item :label="NAMES.need">
          <el-select v-model="draft.need" aria-label="Need or want">
            <el-option v-for="(name, key) in NEEDS" :key="key" :value="key" :label="name" />
          </el-select>
        </el-form-item>
        <el-form-item :label="NAMES.start">
          <el-select v-model="draft.start" aria-label="Starts on a list" placeholder="carried">
            <el-option v-for="(name, key) in STARTS" :key="key" :value="key" :label="name" />
          </el-select>
        </el-form-item>
        <el-form-item :label="NAMES.kept_at" :error="refusalFor('kept_at')">
          <el-input v-model="draft.kept_at" name="kept_at" maxlength="120" />
        </el-form-item>
        <el-form-item :label="NAMES.tags" :error="refusalFor('tags')">
          <el-input v-model="draft.tags" name="tags" placeholder="winter spare" />
        </el-form-item>
      </div>
      <el-form-item :label="NAMES.note" :error="refusalFor('note')">
        <el-input
          v-model="draft.note"
          type="textarea"
          :autosize="{ minRows: 1, maxRows: 5 }"
          name="note"
          maxlength="500"
        />
      </el-form-item>
      <el-checkbox v-model="draft.keep">Keep it: never proposed to go, never taken by a plan</el-checkbox>
      <el-form-item
        v-if="draft.acquired === 'made' || draft.made_hours"
        :label="NAMES.made_hours"
        :error="refusalFor('made_hours')"
      >
        <el-input v-model="draft.made_hours" name="made_hours" inputmode="decimal" placeholder="9" />
      </el-form-item>
      <section>
        <h3>What else is so</h3>
        <el-checkbox-group v-model="draft.marks" class="marks">
          <el-checkbox v-for="mark in marks" :key="mark.key" :value="mark.key">{{ mark.name }}</el-checkbox>
        </el-checkbox-group>
        <el-button v-if="!showsMarks" link type="primary" @click="showsMarks = true"
          >More that can be so</el-button
        >
      </section>
      <section>
        <h3>What one piece does and needs</h3>
        <p class="muted">
          A plan keeps at least as many of each job as the list has today, as far as the trip or other gear
          relies on it.
        </p>
        <JobsEditor v-model:provides="draft.provides" v-model:needs="draft.needs" />
      </section>
      <section>
        <h3>What a trip asks of it</h3>
        <FactsFields v-model="draft.facts" :refusal-for="refusalFor" />
      </section>
      <p v-if="elsewhere" class="caution" role="alert">{{ elsewhere }}</p>
      <div class="acts">
        <el-button type="primary" native-type="submit" :loading="busy" :disabled="clashes.length > 0"
          >Save</el-button
        >
        <el-button v-if="isChanged" @click="(discard(), emit('close'))">Cancel</el-button>
        <el-button link class="remove" @click="emit('remove', thing)">Remove this thing</el-button>
      </div>
      <section v-if="changes?.length">
        <h3>What was done to it</h3>
        <ChangeList :changes="changes" />
      </section>
    </el-form>
  </el-drawer>
</template>

<style scoped>
ul {
  list-style: none;
  margin: var(--s-2) 0 0;
  padding: 0;
}
h3 {
  margin: 0 0 var(--s-2);
  font-size: var(--text);
}
.pair {
  width: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 var(--s-4);
}
.is {
  width: 100%;
  display: flex;
  gap: var(--s-2);
}
.is > :deep(.el-select) {
  flex: 1;
}
.marks {
  display: grid;
}
.marks :deep(.el-checkbox) {
  margin: 0;
  height: 26px;
  white-space: normal;
}
@media (pointer: coarse) {
  .marks :deep(.el-checkbox) {
    height: 44px;
  }
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2);
}
.acts :deep(.remove) {
  color: var(--lingonberry);
}
</style>
