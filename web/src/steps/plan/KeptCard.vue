<script setup lang="ts">
// Plans kept by name; two of them compared thing by thing: grams, money, cautions and jobs.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import type { PlanAnswer } from '@/api/client'
import { afterQuery } from '@/api/queries'
import { reason } from '@/controls/messages'
import { useDialog } from '@/controls/route'
import AfterCautions from '@/domain/AfterCautions.vue'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { compared, useKept, type Compared } from './kept'

const props = defineProps<{ answer: PlanAnswer; planned: number[] }>()
const units = useUnits()
const { kept, keep, remove } = useKept(() => props.answer.list.id)
const all = computed(() => compared(props.answer, props.planned, kept.value))
const name = ref('')
const refusal = ref('')
async function save() {
  refusal.value = ''
  try {
    await keep(name.value, all.value[0]!.swaps)
    name.value = ''
  } catch (error) {
    refusal.value = reason(error)
  }
}

/** What is said under a plan's money: what is spent is of every plan. */
const inAll = computed(() => {
  const spent = props.answer.spent_minor
  return spent ? `in all, ${units.moneyText(spent)} of it spent` : 'in all'
})
const isOpen = useDialog('plans')
const left = ref('now')
const right = ref('')
const pick = (key: string) => all.value.find((one) => one.key === key) ?? all.value[0]!
const sides = computed(() => [pick(left.value), pick(right.value)] as [Compared, Compared])
function compare(plan: Compared) {
  left.value = 'now'
  right.value = plan.key
  isOpen.value = true
}
const after = (side: 0 | 1) =>
  useQuery(
    computed(() => ({
      ...afterQuery(props.answer.list.id, sides.value[side].swaps),
      enabled: isOpen.value,
    })),
  ).data
const afters = [after(0), after(1)] as const
const rows = computed(() => {
  const [one, other] = sides.value.map((side) => new Set(side.swaps))
  return props.answer.swaps
    .map((swap, at) => ({
      swap,
      ranked: props.answer.ranking.find((row) => row.swap === at),
      in: [one!.has(swap.id), other!.has(swap.id)] as const,
    }))
    .filter((row) => row.in[0] || row.in[1])
    .sort((a, b) => Number(a.in[0] && a.in[1]) - Number(b.in[0] && b.in[1]))
})
</script>

<template>
  <section class="card" aria-label="Kept plans">
    <h2>Kept plans</h2>
    <div v-if="kept.length" class="rows">
      <div v-for="plan in all.slice(1)" :key="plan.key">
        <span
          >{{ plan.name
          }}<small class="muted"
            >{{ units.moneyText(plan.net) }} to come<template v-if="plan.done"
              >, {{ plan.done }} done</template
            ><template v-if="plan.gone">, {{ plan.gone }} not possible any more</template></small
          ></span
        >
        <span class="acts">
          <el-button link type="primary" @click="compare(plan)">Compare</el-button>
          <el-button link :aria-label="`Remove ${plan.name}`" @click="remove(plan.kept!)">×</el-button>
        </span>
      </div>
    </div>
    <el-form @submit.prevent="save">
      <el-form-item :error="refusal">
        <div class="keep">
          <el-input
            v-model="name"
            name="plan-name"
            maxlength="120"
            placeholder="Keep this plan as …"
            aria-label="Keep this plan as"
          />
          <el-button native-type="submit" :disabled="name.trim() === ''">Keep</el-button>
        </div>
      </el-form-item>
    </el-form>
    <el-dialog v-model="isOpen" title="Two plans side by side" width="min(56.25rem, 96vw)">
      <div class="sides">
        <div v-for="(side, at) in sides" :key="at" class="side">
          <el-select
            :model-value="at === 0 ? left : sides[1].key"
            :aria-label="at === 0 ? 'One plan' : 'The other plan'"
            @update:model-value="(key: string) => (at === 0 ? (left = key) : (right = key))"
          >
            <el-option v-for="one in all" :key="one.key" :value="one.key" :label="one.name" />
          </el-select>
          <div class="figures">
            <div v-if="afters[at]!.value">
              <Figure v-bind="units.total(afters[at]!.value!.base_after_mg)" size="large" tone="spruce" />
              <span class="muted">base</span>
            </div>
            <div>
              <Figure v-bind="units.money(side.net + answer.spent_minor)" size="large" tone="money" />
              <span class="muted">{{ inAll }}</span>
            </div>
          </div>
          <AfterCautions v-if="afters[at]!.value" :after="afters[at]!.value!" :list="answer.list" />
        </div>
      </div>
      <table class="things">
        <thead>
          <tr>
            <th>Swap</th>
            <th class="n">Saves</th>
            <th class="n">Costs</th>
            <th v-for="(side, at) in sides" :key="at" class="n">{{ side.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.swap.id" :class="{ muted: row.in[0] && row.in[1] }">
            <td>{{ row.swap.name }}</td>
            <td class="n">{{ units.tableText(row.ranked?.saving_mg ?? 0) }}</td>
            <td class="n">{{ units.moneyText(row.ranked?.net_minor ?? 0) }}</td>
            <td v-for="(is, at) in row.in" :key="at" class="n">{{ is ? 'in' : '–' }}</td>
          </tr>
        </tbody>
      </table>
    </el-dialog>
  </section>
</template>

<style scoped>
small {
  display: block;
  font-size: var(--text-s);
}
.acts {
  white-space: nowrap;
}
.rows {
  margin-bottom: var(--s-2);
}
:deep(.el-form-item) {
  margin-bottom: 0;
}
.keep {
  display: flex;
  gap: var(--s-2);
  width: 100%;
}
.sides {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: var(--s-4);
}
.side {
  display: grid;
  gap: var(--s-3);
  align-content: start;
}
.figures {
  display: flex;
  gap: var(--s-5);
}
.figures > div {
  display: grid;
  justify-items: start;
}
.things {
  width: 100%;
  border-collapse: collapse;
  margin-top: var(--s-4);
}
.things th,
.things td {
  text-align: left;
  padding: var(--s-1) var(--s-2) var(--s-1) 0;
  border-bottom: 1px solid var(--line);
}
.things th {
  color: var(--ink-2);
  font-weight: 400;
  font-size: var(--text-m);
}
.things .n {
  text-align: right;
}
</style>
