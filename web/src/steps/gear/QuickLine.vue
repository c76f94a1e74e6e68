<script setup lang="ts">
// One line adds gear as it is typed; what was understood is read back before Enter.
import { useDebounceFn } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'
import { api, take, takeChanged, type Chip, type Source } from '@/api/client'
import { useChange, useUndo } from '@/api/queries'
import { useKeys } from '@/shell/keys'
import { useLists } from '@/shell/lists'
import { useMessages } from '@/shell/messages'
import { useTypedWeights } from '@/shell/typedWeights'

const { current } = useLists()
const { done } = useMessages()

const line = ref('')
const chips = ref<Chip[]>([])
const ready = ref(false)
/** Where the weight comes from as it was read; null without one. */
const source = ref<Source | null>(null)
const typedWeights = useTypedWeights()
const refusal = ref('')
const ontoList = ref(true)
const field = useTemplateRef<HTMLInputElement>('field')

const NAMES: Record<string, string> = {
  job: 'does',
  gift: 'paid',
  count: 'count',
  mass: 'weight',
  price: 'paid',
  system: 'system',
  name: 'name',
}

let asked = 0
const read = useDebounceFn(async () => {
  const number = ++asked
  if (line.value.trim() === '') return
  try {
    const answer = await take(
      api.POST('/api/gear/read', { body: { line: line.value, source: typedWeights.source.value } }),
    )
    if (number !== asked) return
    chips.value = answer.chips
    ready.value = answer.ready
    source.value = answer.source ?? null
    refusal.value = ''
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}, 120)

function typed() {
  if (line.value.trim() === '') chips.value = []
  void read()
}

const undo = useUndo()
const add = useChange((text: string) =>
  takeChanged(
    api.POST('/api/gear/line', {
      body: {
        line: text,
        list: ontoList.value ? (current.value?.id ?? null) : null,
        source: typedWeights.source.value,
      },
    }),
  ),
)

async function enter() {
  if (line.value.trim() === '') return
  try {
    const added = await add.mutateAsync(line.value)
    const onto = ontoList.value && current.value ? `, carried on ${current.value.name}` : ''
    done(`${added.value.name} added${onto}.`, undo(added))
    line.value = ''
    chips.value = []
    refusal.value = ''
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}

/** Says that typed weights come from the other of scale and maker, from now on. */
async function turnSource() {
  try {
    await typedWeights.turn()
    await read()
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}

useKeys('Gear', [{ key: 'a', does: 'add gear by a line', run: () => field.value?.focus() }])
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <form class="quick" @submit.prevent="enter">
    <div class="line">
      <input
        ref="field"
        v-model="line"
        aria-label="Add gear by a line"
        placeholder="rain shell 212g 149eur #rain"
        autocomplete="off"
        maxlength="400"
        @input="typed"
        @keydown.esc="field?.blur()"
        @keydown.alt.s.prevent="turnSource"
      />
      <label v-if="current" class="onto"
        ><input v-model="ontoList" type="checkbox" /> onto {{ current.name }}</label
      >
      <el-button native-type="submit" type="primary" :disabled="line.trim() === ''"
        >Add <kbd>Enter</kbd></el-button
      >
    </div>
    <div class="chips" aria-live="polite">
      <template v-for="(chip, at) in chips" :key="at">
        <span v-if="chip.kind === 'refused'" class="refused" role="alert"
          ><u>{{ chip.text }}</u> {{ chip.meaning }}</span
        >
        <span v-else class="read"
          ><small>{{ NAMES[chip.kind] }}</small> {{ chip.meaning }}</span
        >
      </template>
      <span v-if="chips.length && source === 'estimate'" class="read"><small>from</small> a guess</span>
      <button
        v-else-if="chips.length && source"
        type="button"
        class="plain read source"
        :title="
          typedWeights.asked.value
            ? 'Where weights come from that you type'
            : 'Are these the maker’s figures, or off your own scale? Say it once; every line can differ.'
        "
        @click="turnSource"
      >
        <small>from</small> {{ source === 'maker' ? 'the maker' : 'your own scale' }} <kbd>Alt</kbd
        ><kbd>S</kbd>
      </button>
      <span v-if="chips.length && !ready && !chips.some((chip) => chip.kind === 'refused')" class="muted"
        >a name is missing</span
      >
      <span v-if="refusal" class="caution" role="alert">{{ refusal }}</span>
      <span v-if="chips.length === 0 && !refusal" class="muted">
        In any order: a name, a weight (<b>~310g</b> guessed, <b>claimed 388g</b> the maker’s,
        <b>weighed 402g</b>), a price (<b>15-20eur</b>, <b>used 80eur</b>, <b>29eur/3</b> for three,
        <b>gift</b>), <b>x2</b>, <b>#sleep</b> the system, <b>!light</b> a job.
      </span>
    </div>
  </form>
</template>

<style scoped>
.quick {
  margin-bottom: var(--s-3);
}
.line {
  display: flex;
  align-items: center;
  gap: var(--s-3);
}
.line > input {
  font: 500 17px var(--font);
  flex: 1;
  min-width: 0;
  height: 40px;
  padding: 0 var(--s-3);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
}
.line > input::placeholder {
  color: var(--ink-2);
  font-weight: 400;
}
.onto {
  white-space: nowrap;
  color: var(--ink-2);
  font-size: 13px;
}
.line :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: 4px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px var(--s-3);
  min-height: 30px;
  padding-top: 6px;
  font-size: 13px;
}
.read {
  border: 1px solid var(--line-strong);
  border-radius: 2px;
  background: var(--sheet);
  padding: 0 8px;
  font-weight: 600;
}
.read small {
  font-weight: 400;
  color: var(--ink-2);
}
.source {
  color: inherit;
  border-style: dashed;
}
.refused {
  color: var(--lingonberry);
}
.refused u {
  font-weight: 650;
  text-decoration-style: wavy;
  text-underline-offset: 3px;
}
@media (max-width: 700px) {
  .onto {
    display: none;
  }
}
</style>
