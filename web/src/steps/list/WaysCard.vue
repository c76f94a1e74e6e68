<script setup lang="ts">
// The same pack, counted by every way; one of them can be taken for the list's own, and new ones made.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import type { Place, Sheet, Way } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { reason } from '@/controls/messages'
import { useDialog } from '@/controls/route'
import { useUnits } from '@/domain/units'
import { nameOf, PLACES } from './equation'
import { wayName } from '@/domain/words'

const props = defineProps<{ sheet: Sheet; canChange: boolean; saveWays: (ways: Way[]) => Promise<void> }>()
const emit = defineEmits<{ count: [way: string, name: string] }>()
const units = useUnits()
const rows = computed(() => [
  { way: '', name: 'As laid out', base: props.sheet.totals.base_mg },
  ...props.sheet.ways.map(({ way, base_mg }) => ({ way, name: wayName(way), base: base_mg })),
])
const own = computed(() => new Set(props.sheet.list.ways.map((way) => way.key)))

/** What the tags are of, on which rules differ. */
const TAGS: Record<string, string> = {
  poles: 'Walking poles (tag poles)',
  pocket: 'Phone, keys, knife (tag pocket)',
  container: 'Food container (tag container)',
  gas_can: 'Shell of a gas can (tag gas_can)',
  consumables: 'Soap, sunscreen, paper (tag consumables)',
  section_only: 'Axe, traction for a section (tag section_only)',
}
const { data: vocabulary } = useQuery(vocabularyQuery)
const usual = computed(() => vocabulary.value?.rules.places ?? [])

const isMaking = useDialog('rule')
const name = ref('')
const places = ref<Record<string, Place | ''>>({})
const refusal = ref('')
watch(
  [isMaking, usual],
  () => {
    refusal.value = ''
    name.value = ''
    places.value = Object.fromEntries(usual.value.map(({ tag, place }) => [tag, place]))
  },
  { immediate: true },
)
async function save() {
  const switches = usual.value.flatMap(({ tag }) =>
    places.value[tag] ? [{ tag, place: places.value[tag] }] : [],
  )
  try {
    await props.saveWays([...props.sheet.list.ways, { key: name.value.trim(), places: switches }])
    isMaking.value = false
  } catch (error) {
    refusal.value = reason(error)
  }
}
</script>

<template>
  <section class="card ways" aria-label="Counting rules">
    <h2>The same pack, counted {{ rows.length }} ways</h2>
    <ul>
      <li v-for="row in rows" :key="row.way" :class="{ on: row.way === '' }">
        <el-button
          v-if="canChange && row.way"
          link
          class="take"
          data-print
          :title="`Count it this way: ${row.name}`"
          @click="emit('count', row.way, row.name)"
          ><span class="visually-hidden">Count it this way: </span>{{ row.name
          }}<span v-if="row.way === sheet.list.way" class="muted">, for new things too</span></el-button
        >
        <span v-else>{{ row.name }}</span>
        <span class="right">
          <el-button
            v-if="canChange && own.has(row.way)"
            link
            size="small"
            :aria-label="`Remove the way ${row.name}`"
            @click="saveWays(sheet.list.ways.filter((way) => way.key !== row.way))"
            >×</el-button
          >
          <b>{{ units.total(row.base).figure }}</b>
        </span>
      </li>
    </ul>
    <p v-if="canChange" class="muted hint screen-only">
      Choose one to count it this way.
      <el-button link size="small" @click="isMaking = true">Counting rule of your own …</el-button>
    </p>
    <el-dialog v-model="isMaking" title="A counting rule" width="min(26.25rem, 94vw)">
      <el-form label-position="top" @submit.prevent="save">
        <el-form-item label="Name" :error="refusal">
          <el-input v-model="name" name="way" maxlength="60" placeholder="As my club counts" />
        </el-form-item>
        <el-form-item v-for="{ tag } in usual" :key="tag" :label="TAGS[tag] ?? tag">
          <el-select v-model="places[tag]" :aria-label="TAGS[tag] ?? tag">
            <el-option value="" label="as laid out" />
            <el-option
              v-for="{ place } in PLACES"
              :key="place"
              :value="place"
              :label="nameOf(place).toLowerCase()"
            />
          </el-select>
        </el-form-item>
        <el-button type="primary" native-type="submit" :disabled="name.trim() === ''">Save</el-button>
      </el-form>
    </el-dialog>
  </section>
</template>

<style scoped>
.ways {
  padding: var(--s-2h) var(--s-3h);
}
h2 {
  font-size: var(--text);
  margin: 0 0 var(--s-1h);
}
.hint {
  margin: var(--s-1) 0 0;
  font-size: var(--text-s);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  padding: var(--s-0h) 0;
  border-bottom: 1px solid var(--line);
}
li.on {
  color: var(--lake);
  font-weight: 650;
}
.right {
  flex: none;
}
.take {
  margin: 0;
  padding: 0;
  border: 0;
  height: auto;
  line-height: inherit;
  min-width: 0;
  font-weight: 400;
}
.take:hover {
  text-decoration: underline;
}
b {
  font-weight: 650;
}
</style>
