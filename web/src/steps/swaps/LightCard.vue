<script setup lang="ts">
// Where light is to be had: what is heavy for its kind, as places to look for swaps, most grams first. What light ones weigh and cost is
// typical, until somebody says what they have found.
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive, ref } from 'vue'
import { api, unwrapChange, type Changed, type Lighter, type Swap } from '@/api/client'
import { useUndo } from '@/api/changes'
import { keys, lighterQuery } from '@/api/queries'
import { reason, useMessages } from '@/controls/messages'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { lighterLine } from './lighter'

const props = defineProps<{ list: string; swaps: Swap[] }>()
/** A swap is begun by a line, its figures a guess. */
const emit = defineEmits<{ begin: [line: string] }>()
const units = useUnits()
const queries = useQueryClient()
const { data } = useQuery(computed(() => ({ ...lighterQuery(props.list), enabled: props.list !== '' })))
// Something of which there are swaps already is looked at there.
const all = computed(() => {
  const swapped = new Set(props.swaps.flatMap((swap) => swap.remove.map(({ line }) => line)))
  return (data.value ?? []).filter((one) => !swapped.has(one.line))
})
/** Made up in euros; near enough where a unit of money is about as much. */
const hasPrices = computed(() => ['EUR', 'USD', 'GBP', 'CHF'].includes(units.currency.value.code))
const weighs = (mg: number, minor: number | null | undefined) =>
  `${units.tableText(mg)}${minor == null ? '' : ` and cost ${units.moneyText(minor)}`}`
const typical = ({ mg, euros }: Lighter['light']) =>
  weighs(mg, hasPrices.value ? euros * 10 ** units.currency.value.decimals : null)
const light = ({ light, own }: Lighter) => (own ? weighs(own.mg, own.minor) : typical(light))
const begin = (one: Lighter) => emit('begin', lighterLine(one, units.currency.value, hasPrices.value))

/** The kind whose figures are typed. */
const edited = ref<string | null>(null)
const typed = reactive({ weight: '', price: '' })
const refusal = ref('')
function edit({ kind, light, own }: Lighter) {
  edited.value = kind
  refusal.value = ''
  typed.weight = `${(own?.mg ?? light.mg) / 1000} g`
  const minor = own ? own.minor : null
  typed.price = minor == null ? '' : String(minor / 10 ** units.currency.value.decimals)
}
const { done } = useMessages()
const undoOf = useUndo()
async function changeFigures(report: string, write: () => Promise<Changed<unknown>>) {
  try {
    const changed = await write()
    edited.value = null
    await queries.invalidateQueries({ queryKey: keys.mine })
    done(report, undoOf(changed))
  } catch (error) {
    refusal.value = reason(error)
  }
}
const path = (kind: string) => ({ params: { path: { kind } } })
const save = (kind: string) =>
  changeFigures('Your own figures kept.', () =>
    unwrapChange(api.PUT('/api/typical/{kind}', { ...path(kind), body: { ...typed } })),
  )
const reset = (kind: string) =>
  changeFigures('Typical figures again.', () => unwrapChange(api.DELETE('/api/typical/{kind}', path(kind))))
</script>

<template>
  <section v-if="all.length" class="card" aria-label="Where light is to be had">
    <h2>Where light is to be had</h2>
    <p class="muted">
      Typical figures, to say where to look. A light one may be less warm, smaller or less durable.
    </p>
    <ul class="rows">
      <li v-for="one in all" :key="one.line">
        <span
          ><b>{{ one.name }}</b> {{ units.tableText(one.unit_mg)
          }}<small class="muted"
            >{{ one.kind_name }}: light ones {{ one.own ? 'that you found weigh' : 'weigh about' }}
            {{ light(one) }}, usual ones {{ typical(one.usual) }}.
            <el-button
              v-if="edited !== one.kind"
              link
              type="primary"
              size="small"
              :aria-label="`Change what a light ${one.kind_name} weighs and costs`"
              @click="edit(one)"
              >Change</el-button
            ></small
          >
          <form v-if="edited === one.kind" class="own" @submit.prevent="save(one.kind)">
            <el-input v-model="typed.weight" size="small" aria-label="What a light one weighs" />
            <el-input
              v-model="typed.price"
              size="small"
              :aria-label="`What a light one costs, in ${units.currency.value.code}`"
              :placeholder="units.currency.value.code"
            />
            <el-button size="small" type="primary" native-type="submit">Save</el-button>
            <el-button v-if="one.own" size="small" @click="reset(one.kind)">Use the typical figure</el-button>
            <el-button size="small" link @click="edited = null">Cancel</el-button>
            <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
          </form>
        </span>
        <span class="right">
          <Figure v-bind="units.table(-one.saving_mg)" size="text" tone="spruce" />
          <el-button size="small" :aria-label="`Begin a swap for ${one.name}`" @click="begin(one)"
            >Begin a swap</el-button
          >
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
small {
  display: block;
  font-size: var(--text-s);
}
small :deep(.el-button) {
  font-size: var(--text-s);
  vertical-align: baseline;
}
.right {
  display: grid;
  justify-items: end;
  align-content: start;
  gap: var(--s-1);
}
.own {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-1h);
  margin-top: var(--s-1h);
}
.own :deep(.el-input) {
  width: 84px;
}
.own :deep(.el-button) {
  margin: 0;
}
.own p {
  flex-basis: 100%;
  margin: 0;
}
</style>
