<script setup lang="ts">
// One thing that goes on: what it is, weighs, costs and does.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import type { JobAmounts, Offer } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import FactsFields from '@/domain/FactsFields.vue'
import JobsEditor from '@/domain/JobsEditor.vue'
import KindSelect from '@/domain/KindSelect.vue'
import { useProposedKind } from '@/domain/proposedKind'
import { PLACES, SAYABLE, SOLD, SOURCES } from '@/domain/words'
import { useUnits } from '@/domain/units'
import { seenInShop, type AdditionDraft, type Sold } from '@/domain/swapDraft'
import ShopFinder from './ShopFinder.vue'

const addition = defineModel<AdditionDraft>({ required: true })
const props = defineProps<{
  at: number
  refusalFor: (field: string) => string
  /** What is counted of what it replaces, in what that does. */
  takesOver: JobAmounts
}>()
const emit = defineEmits<{ remove: [] }>()
const opened = ref(false)
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const isFinding = ref(false)
/** What it was followed by, until that was stopped here. */
const followed = ref<string | null>(null)
function stopFollowing() {
  followed.value = addition.value.offer
  addition.value.offer = null
}
/** An offer as it would be typed. */
function take(offer: Offer, price: number, sold: Sold) {
  addition.value.name = offer.name
  addition.value.weight = `${offer.weight_mg / 1000} g`
  addition.value.source = 'maker'
  Object.assign(addition.value, seenInShop(price, sold, units.currency.value))
  addition.value.offer = offer.code
  if (addition.value.kind === '' && offer.kind) choose(offer.kind)
  if (Object.keys(addition.value.provides).length === 0) addition.value.provides = { ...props.takesOver }
  isFinding.value = false
}
/** The kind that the name says, while none is chosen: taken by its chip, or when the swap is saved. */
const proposed = useProposedKind(
  () => addition.value.name,
  () => addition.value.kind === '',
)
/** Another kind does other things: what they are is filled in from it when the swap is saved, unless it is said here. */
function choose(kind: string) {
  Object.assign(addition.value, { kind, provides: {}, needs: {}, marks: [], assumed: [] })
}
/** An amount that is changed is no longer assumed. */
function setProvides(provides: JobAmounts) {
  const before = addition.value.provides
  addition.value.assumed = addition.value.assumed.filter((job) => provides[job] === before[job])
  addition.value.provides = provides
}
const assumed = computed(() =>
  addition.value.assumed.map((key) => vocabulary.value?.jobs.find((job) => job.key === key)?.name ?? key),
)
const marks = computed(() =>
  addition.value.marks.map((key) => vocabulary.value?.marks.find((mark) => mark.key === key)?.name ?? key),
)
const showJobs = computed(
  () =>
    opened.value ||
    Object.keys(addition.value.provides).length + Object.keys(addition.value.needs).length > 0,
)
</script>

<template>
  <fieldset>
    <legend class="visually-hidden">New item {{ at + 1 }}</legend>
    <div class="top">
      <el-form-item label="New item" :error="refusalFor(`add[${at}].name`)">
        <el-input v-model="addition.name" placeholder="soft bottle, 1 l" :name="`add-${at}-name`" />
      </el-form-item>
      <el-form-item label="Count" :error="refusalFor(`add[${at}].qty`)">
        <el-input-number
          v-model="addition.qty"
          :min="1"
          :max="1000"
          :controls="false"
          aria-label="Count"
          inputmode="numeric"
        />
      </el-form-item>
      <el-button link aria-label="Remove this item from the swap" @click="emit('remove')">×</el-button>
    </div>
    <el-button
      v-if="vocabulary?.shop"
      link
      type="primary"
      class="find"
      :aria-expanded="isFinding"
      @click="isFinding = !isFinding"
      >Find it in the shop …</el-button
    >
    <ShopFinder v-if="isFinding" @take="take" />
    <p v-if="addition.offer" class="muted followed">
      Its price is followed in the shop ({{ addition.offer }}).
      <el-button link type="primary" @click="stopFollowing">Stop following</el-button>
    </p>
    <p v-else-if="followed" class="muted followed">
      Its price is no longer followed once this is saved.
      <el-button link type="primary" @click="addition.offer = followed">Follow it again</el-button>
    </p>
    <el-form-item label="What it is" :error="refusalFor(`add[${at}].kind`)">
      <KindSelect
        :model-value="addition.kind"
        :proposed="proposed?.key"
        label="What it is"
        @update:model-value="choose"
      />
      <el-button v-if="proposed" size="small" class="chip" @click="choose(proposed.key)"
        >{{ proposed.name }}?</el-button
      >
    </el-form-item>
    <p v-if="marks.length" class="muted">{{ marks.join(' · ') }}</p>
    <p v-if="assumed.length" class="muted assumed">
      Assumed, as such things usually are: {{ assumed.join(', ') }}.
      <el-button link type="primary" @click="addition.assumed = []">They are right</el-button>
    </p>
    <div class="figures">
      <el-form-item label="Weight of one" :error="refusalFor(`add[${at}].weight`)">
        <el-input
          v-model="addition.weight"
          placeholder="38 g"
          :name="`add-${at}-weight`"
          inputmode="decimal"
        />
      </el-form-item>
      <el-form-item label="Source">
        <el-select v-model="addition.source" aria-label="Source of the weight">
          <el-option v-for="source in SAYABLE" :key="source" :value="source" :label="SOURCES[source]" />
        </el-select>
      </el-form-item>
      <el-form-item label="Price of one" :error="refusalFor(`add[${at}].price`)">
        <el-input
          v-model="addition.price"
          placeholder="4.50 or 4-6"
          :name="`add-${at}-price`"
          inputmode="decimal"
        />
      </el-form-item>
      <el-form-item label="Counts as">
        <el-select v-model="addition.place" aria-label="Counts as">
          <el-option v-for="(name, key) in PLACES" :key="key" :value="key" :label="name" />
        </el-select>
      </el-form-item>
    </div>
    <div v-if="addition.price.trim() || addition.seen.place" class="seen">
      <el-form-item label="Seen at" :error="refusalFor(`add[${at}].seen.place`)">
        <el-input
          v-model="addition.seen.place"
          placeholder="which shop, which fair"
          :name="`add-${at}-seen-place`"
          maxlength="120"
        />
      </el-form-item>
      <el-form-item label="On" :error="refusalFor(`add[${at}].seen.on`)">
        <el-date-picker
          v-model="addition.seen.on"
          type="date"
          value-format="YYYY-MM-DD"
          format="D MMM YYYY"
          :name="`add-${at}-seen-on`"
          aria-label="Day on which the price was seen"
          placeholder="day"
        />
      </el-form-item>
      <el-form-item label="Sold as">
        <el-select v-model="addition.seen.sold" aria-label="Sold as">
          <el-option v-for="(name, key) in SOLD" :key="key" :value="key" :label="name" />
        </el-select>
      </el-form-item>
    </div>
    <p
      v-for="field in ['provides', 'needs']"
      v-show="refusalFor(`add[${at}].${field}`)"
      :key="field"
      class="caution"
      role="alert"
    >
      {{ refusalFor(`add[${at}].${field}`) }}
    </p>
    <el-button v-if="!showJobs" link type="primary" class="jobs" @click="opened = true"
      >What it does and needs</el-button
    >
    <JobsEditor
      v-else
      v-model:needs="addition.needs"
      :provides="addition.provides"
      @update:provides="setProvides"
    />
    <FactsFields v-if="showJobs" v-model="addition.facts" :refusal-for="refusalFor" :path="`add[${at}].`" />
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  border-left: 3px solid var(--spruce);
  margin: 0;
  padding: 0 0 0 var(--s-3);
  min-width: 0;
}
.top {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 64px 24px;
  gap: var(--s-2);
}
.top > :deep(.el-button) {
  align-self: center;
  margin-top: var(--s-1);
}
.top :deep(.el-input-number) {
  width: 64px;
}
.figures {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 0 var(--s-2);
}
.seen {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 148px 104px;
  gap: 0 var(--s-2);
}
.seen :deep(.el-date-editor) {
  width: 100%;
}
@media (max-width: 700px) {
  .figures {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  .seen {
    grid-template-columns: minmax(0, 1fr) 104px;
  }
  .seen > :first-child {
    grid-column: 1 / -1;
  }
}
.jobs {
  justify-self: start;
}
.chip {
  margin-top: var(--s-1h);
}
</style>
