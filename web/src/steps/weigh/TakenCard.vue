<script setup lang="ts">
// Today's weighings: each corrected in place, or taken back with one key.
import type { Taken } from '@/api/client'
import EditableCell from '@/controls/EditableCell.vue'
import { vGrid } from '@/controls/grid'
import { useUnits } from '@/domain/units'

defineProps<{ taken: Taken[]; correct: (id: string, total: string) => Promise<unknown> }>()
const emit = defineEmits<{ takeBack: [taken: Taken] }>()

const units = useUnits()

function beside({ weighing, claimed_mg }: Taken) {
  if (weighing.pieces > 1) return `${weighing.pieces} on the pan, ${units.tableText(weighing.unit_mg)} each`
  return claimed_mg == null ? '' : `maker’s figure ${units.tableText(claimed_mg)}`
}
const over = ({ weighing, claimed_mg }: Taken) => (claimed_mg == null ? null : weighing.unit_mg - claimed_mg)
</script>

<template>
  <section class="card">
    <h2>Weighed today</h2>
    <ul v-if="taken.length" v-grid data-grid class="rows">
      <li v-for="one in taken" :key="one.weighing.id" data-line :data-weighing="one.weighing.id">
        <span class="name">{{ one.name }}</span>
        <span class="muted beside">{{ beside(one) }}</span>
        <span class="total">
          <EditableCell
            numeric
            :label="`Weighing of ${one.name}`"
            :typed="one.weighing.typed"
            :spoken="units.tableText(one.weighing.total_mg)"
            :save="(total) => correct(one.weighing.id, total)"
          >
            <b>{{ units.tableText(one.weighing.total_mg) }}</b>
          </EditableCell>
        </span>
        <span class="over" :class="{ caution: (over(one) ?? 0) > 0, spruce: (over(one) ?? 0) < 0 }">{{
          over(one) ? units.signed(over(one)!) : ''
        }}</span>
        <el-button
          link
          data-cell
          tabindex="-1"
          title="Undo this weighing"
          :aria-label="`Undo the weighing of ${one.name}`"
          @click="emit('takeBack', one)"
          >×</el-button
        >
      </li>
    </ul>
    <p v-else class="muted">Nothing yet today. What you weigh stands here, to correct or undo.</p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  align-items: center;
}
li:focus-within {
  background: var(--sunk);
}
.beside {
  flex: 1;
  text-align: right;
}
.total {
  min-width: 84px;
}
.over {
  min-width: 62px;
  text-align: right;
}
@media (max-width: 700px) {
  .beside {
    display: none;
  }
  .name {
    flex: 1;
  }
  .total {
    min-width: 64px;
  }
  .over {
    min-width: 46px;
  }
}
</style>
