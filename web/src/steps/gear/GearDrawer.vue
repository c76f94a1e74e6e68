<script setup lang="ts">
// All about a thing: what does not fit a cell, its jobs, its weighings and what was done to it.
import { useQuery } from '@tanstack/vue-query'
import { computed, reactive, ref, watch } from 'vue'
import type { Gear, GearChange, JobAmounts, Vocabulary } from '@/api/client'
import { changesQuery, weighingsQuery } from '@/api/queries'
import WeighingPlot from '@/marks/WeighingPlot.vue'
import { day } from '@/quantities/dates'
import { jobText } from '@/quantities/jobs'
import JobsEditor from '@/shell/JobsEditor.vue'
import { useUnits } from '@/shell/units'
import ChangeList from './ChangeList.vue'
import { ACQUIRED, STATUSES } from './gear'

const props = defineProps<{
  thing: Gear | null
  vocabulary: Vocabulary | undefined
  change: (thing: Gear, change: GearChange) => Promise<unknown>
}>()
const emit = defineEmits<{ close: [] }>()

const units = useUnits()
const id = computed(() => props.thing?.id ?? '')
const enabled = computed(() => id.value !== '')
const { data: weighings } = useQuery(
  computed(() => ({ ...weighingsQuery(id.value), enabled: enabled.value })),
)
const { data: changes } = useQuery(computed(() => ({ ...changesQuery(id.value), enabled: enabled.value })))

const draft = reactive({
  system: 'other',
  status: 'owned' as Gear['status'],
  acquired: 'new' as Gear['acquired'],
  kept_at: '',
  tags: '',
  nights: 0,
  claimed: '',
})
const provides = ref<JobAmounts>({})
const needs = ref<JobAmounts>({})
const refusal = ref('')

watch(id, () => {
  const thing = props.thing
  if (!thing) return
  const { system, status, acquired, nights } = thing
  Object.assign(draft, { system, status, acquired, nights })
  draft.kept_at = thing.kept_at ?? ''
  draft.tags = (thing.tags ?? []).join(' ')
  draft.claimed = thing.claimed?.typed ?? ''
  provides.value = { ...thing.provides }
  needs.value = { ...thing.needs }
  refusal.value = ''
})

const offered = computed(() => {
  const system = props.vocabulary?.systems.find((known) => known.key === draft.system)
  return (system?.suggestions ?? [])
    .filter(({ job, needed }) => !(needed ? needs.value : provides.value)[job])
    .map((one) => {
      const job = props.vocabulary?.jobs.find((known) => known.key === one.job)
      const text = jobText(job?.name ?? one.job, job?.unit ?? 'count', one.amount)
      return { ...one, text: one.needed ? `needs ${text}` : text }
    })
})
function takeUp({ job, amount, needed }: (typeof offered.value)[number]) {
  const side = needed ? needs : provides
  side.value = { ...side.value, [job]: amount }
}

async function save() {
  const thing = props.thing
  if (!thing) return
  const { claimed, ...fields } = draft
  try {
    await props.change(thing, {
      ...fields,
      provides: provides.value,
      needs: needs.value,
      ...(claimed === (thing.claimed?.typed ?? '') ? {} : { claimed: claimed.trim() || null }),
    })
    emit('close')
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <el-drawer
    :model-value="thing !== null"
    :title="thing?.name"
    size="min(460px, 100vw)"
    @close="emit('close')"
  >
    <form class="drawer-form" @submit.prevent="save">
      <section v-if="weighings?.length" aria-label="Weighings">
        <h2>Weighings</h2>
        <WeighingPlot :weighings="weighings" :claimed="thing?.claimed?.unit_mg ?? null" />
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
              <span class="muted">±{{ units.fineText(one.half_width_mg) }}</span></b
            >
          </li>
        </ul>
      </section>
      <div class="pair">
        <label>
          System
          <el-select v-model="draft.system" aria-label="System">
            <el-option
              v-for="known in vocabulary?.systems"
              :key="known.key"
              :value="known.key"
              :label="known.name"
            />
          </el-select>
        </label>
        <label>
          Status
          <el-select v-model="draft.status" aria-label="Status">
            <el-option v-for="(name, key) in STATUSES" :key="key" :value="key" :label="name" />
          </el-select>
        </label>
        <label>
          Come by
          <el-select v-model="draft.acquired" aria-label="Come by">
            <el-option v-for="(name, key) in ACQUIRED" :key="key" :value="key" :label="name" />
          </el-select>
        </label>
        <label
          >Maker’s figure, each <el-input v-model="draft.claimed" name="claimed" placeholder="unknown"
        /></label>
        <label>Kept at <el-input v-model="draft.kept_at" name="kept_at" maxlength="120" /></label>
        <label
          >Nights of use <el-input v-model.number="draft.nights" name="nights" inputmode="numeric"
        /></label>
      </div>
      <label>Tags <el-input v-model="draft.tags" name="tags" placeholder="winter spare" /></label>
      <section>
        <h2>What one piece does and needs</h2>
        <p class="muted">A plan never drops a job that the trip or other gear relies on.</p>
        <p v-if="offered.length" class="offered">
          <span class="muted">usual here:</span>
          <button
            v-for="one in offered"
            :key="one.job + one.needed"
            type="button"
            class="plain chip"
            @click="takeUp(one)"
          >
            + {{ one.text }}
          </button>
        </p>
        <JobsEditor v-model:provides="provides" v-model:needs="needs" />
      </section>
      <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
      <el-button type="primary" native-type="submit">Save</el-button>
      <section v-if="changes?.length">
        <h2>What was done to it</h2>
        <ChangeList :changes="changes" />
      </section>
    </form>
  </el-drawer>
</template>

<style scoped>
ul {
  list-style: none;
  margin: var(--s-2) 0 0;
  padding: 0;
}
.pair {
  width: 100%;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s-3) var(--s-4);
}
.offered {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: baseline;
}
</style>
