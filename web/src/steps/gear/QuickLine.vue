<script setup lang="ts">
// One line adds gear as it is typed; what was understood is read back before Enter.
import { computed, ref, useTemplateRef } from 'vue'
import { focusTitle } from '@/controls/focus'
import { useKeys } from '@/controls/keys'
import KindSelect from '@/domain/KindSelect.vue'
import { lineExamples } from '@/domain/examples'
import { useLists } from '@/domain/lists'
import { useUnits } from '@/domain/units'
import { SOURCES } from '@/domain/words'
import { useQuickLine } from './quickLine'

const props = defineProps<{ list: string }>()
const { current } = useLists(() => props.list)
const ontoList = ref(true)
const quick = useQuickLine(() => (ontoList.value && current.value) || null)
const units = useUnits()
const example = computed(() => lineExamples(units))
const { line, reading, trouble, refused, adding, chosen, typedWeights } = quick
const field = useTemplateRef<{ focus: () => void; blur: () => void }>('field')
const kinds = useTemplateRef<{ focus: () => void }>('kinds')

const NAMES: Record<string, string> = {
  name: 'name',
  count: 'count',
  mass: 'weight',
  price: 'paid',
  acquired: 'got it',
  source: 'source',
  system: 'system',
  does: 'does',
  needs: 'needs',
  rating: 'warmth',
  start: 'on a list',
  made: 'made in',
}
// What it is stands in a box of its own.
const chips = computed(() => (reading.value?.chips ?? []).filter((chip) => chip.kind !== 'kind'))
const kind = computed(() => reading.value?.kind ?? null)

/** The line has the focus again once it is said what the thing is. */
function choose(key: string) {
  void quick.choose(key)
  field.value?.focus()
}

/** Alt and a letter change what is read, without leaving the line. By the place of the key: Alt writes other letters on some. */
function keys(event: Event | KeyboardEvent) {
  if (!(event instanceof KeyboardEvent) || !event.altKey) return
  if (event.code === 'KeyS') void quick.turnSource()
  else if (event.code === 'KeyK') kinds.value?.focus()
  else return
  event.preventDefault()
}

useKeys('Gear', [{ key: 'a', does: 'add gear by a line', run: () => field.value?.focus() }])
</script>

<template>
  <form class="quick" @submit.prevent="quick.enter">
    <div class="line">
      <el-input
        ref="field"
        v-model="line"
        data-rows
        size="large"
        aria-label="Add gear by a line"
        :placeholder="example.gear"
        autocomplete="off"
        maxlength="400"
        name="gear-line"
        @input="quick.typed"
        @keydown.esc="focusTitle"
        @keydown="keys"
      />
      <el-checkbox v-if="current" v-model="ontoList" class="onto">onto {{ current.name }}</el-checkbox>
      <el-button native-type="submit" type="primary" :disabled="line.trim() === ''"
        >Add <kbd>Enter</kbd></el-button
      >
    </div>
    <div class="chips" aria-live="polite">
      <template v-for="(chip, at) in chips" :key="at">
        <span v-if="chip.kind === 'refused'" class="refused" role="alert"
          ><u>{{ chip.text }}</u> not understood. {{ chip.meaning }}</span
        >
        <span v-else class="read"
          ><small>{{ NAMES[chip.kind] }}</small> {{ units.meaning(chip) }}</span
        >
      </template>
      <el-button
        v-if="reading?.source === 'maker' || reading?.source === 'weighed'"
        size="small"
        class="proposed"
        :title="
          typedWeights.asked.value
            ? 'Where weights come from that you type'
            : 'Are these the maker’s figures, or off your own scale? Say it once; every line can differ.'
        "
        @click="quick.turnSource"
        ><small>source</small>&nbsp;{{ SOURCES[reading.source] }} <kbd>Alt</kbd><kbd>S</kbd></el-button
      >
      <span v-else-if="reading?.source" class="read"
        ><small>source</small> {{ SOURCES[reading.source] }}</span
      >
      <span v-if="reading" class="read kind"
        ><small>is</small>
        <KindSelect
          ref="kinds"
          :model-value="chosen ?? kind?.key ?? ''"
          label="What it is"
          size="small"
          @update:model-value="choose"
        /><kbd>Alt</kbd><kbd>K</kbd></span
      >
      <span v-if="kind?.brings.length" class="muted">{{ kind.brings.join(' · ') }}</span>
      <span v-if="reading && !reading.ready && !chips.some((chip) => chip.kind === 'refused')" class="muted"
        >a name is missing</span
      >
      <span v-if="trouble" class="caution" role="alert">{{ trouble }}</span>
      <span v-if="adding > 0" class="muted" role="status">adding {{ adding }} …</span>
      <span v-if="!reading && !trouble && adding === 0" class="muted hint">
        In any order: a name, a weight (<template v-for="([typed, what], at) in example.weights" :key="typed"
          ><template v-if="at">, </template><b>{{ typed }}</b
          >{{ what && ` ${what}` }}</template
        >), a price (<template v-for="(typed, at) in example.prices" :key="typed"
          ><template v-if="at">, </template><b>{{ typed }}</b></template
        >), <b>x2</b>, <b>worn</b>, <b>used up</b>, and what it says of itself:
        <template v-for="(typed, at) in example.facts" :key="typed"
          ><template v-if="at">, </template><b>{{ typed }}</b></template
        >.
      </span>
    </div>
    <ul v-if="refused.length" class="rows returned" aria-label="Lines that could not be added">
      <li v-for="one in refused" :key="one.text">
        <span
          ><b>{{ one.text }}</b> <span class="caution">{{ one.why }}</span></span
        >
        <span class="acts">
          <el-button size="small" @click="(quick.takeUp(one), field?.focus())">Edit</el-button>
          <el-button size="small" link @click="quick.discard(one)">Discard</el-button>
        </span>
      </li>
    </ul>
  </form>
</template>

<style scoped>
.quick {
  margin-bottom: var(--s-3);
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2) var(--s-3);
}
.line > :deep(.el-input) {
  flex: 1 1 280px;
  min-width: 0;
  font-size: var(--text-l);
  font-weight: 500;
}
.onto {
  max-width: 260px;
  margin: 0;
  overflow: hidden;
}
.onto :deep(.el-checkbox__label) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.line :deep(kbd),
.chips :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: var(--s-1);
}
.chips {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--s-1) var(--s-2);
  min-height: 30px;
  padding-top: var(--s-1h);
  font-size: var(--text-m);
}
.read {
  border: 1px solid var(--line-strong);
  border-radius: 2px;
  background: var(--sheet);
  padding: 0 var(--s-2);
  font-weight: 600;
  overflow-wrap: anywhere;
}
small {
  font-weight: 400;
  font-size: var(--text-xs);
  color: var(--ink-2);
}
.chips :deep(.proposed) {
  border-style: dashed;
  height: 22px;
  padding: 0 var(--s-2);
  font-size: var(--text-m);
  font-weight: 600;
  margin: 0;
}
.kind {
  display: inline-flex;
  align-items: center;
  gap: var(--s-1);
  padding-right: var(--s-1);
}
.kind :deep(.el-select) {
  width: 190px;
}
.kind :deep(.el-select__wrapper) {
  min-height: 20px;
  padding-block: 0;
  box-shadow: none;
}
.refused {
  color: var(--lingonberry);
}
.refused u {
  font-weight: 650;
  text-decoration-style: wavy;
  text-underline-offset: 3px;
}
.returned {
  list-style: none;
  margin: 0;
  padding: 0;
}
.acts {
  white-space: nowrap;
}
/* On a phone the line stays where it can be reached; which list it goes onto is asked while it is typed. */
@media (max-width: 700px) {
  .quick {
    display: contents;
  }
  .line {
    position: sticky;
    top: 64px;
    z-index: 9;
    margin-inline: calc(-1 * var(--s-3));
    padding: var(--s-2) var(--s-3);
    background: var(--paper);
    border-bottom: 1px solid var(--line);
  }
  .line > :deep(.el-input) {
    flex: 1 1 200px;
  }
  .onto {
    order: 1;
  }
  .line:not(:focus-within) .onto {
    display: none;
  }
  .chips {
    margin-bottom: var(--s-2);
  }
}
</style>
