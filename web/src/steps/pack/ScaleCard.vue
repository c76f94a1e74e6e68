<script setup lang="ts">
// What the scale shows of the packed pack, against the list.
import { computed } from 'vue'
import type { Packing } from '@/api/client'
import TypedField from '@/controls/TypedField.vue'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { readingWords } from './words'

const props = defineProps<{
  packing: Packing
  reading: string
  ofMe: string
  read: (reading: string, ofMe: string) => Promise<unknown>
}>()
const units = useUnits()
const found = computed(() => props.packing.reconciled ?? null)
const words = computed(() => found.value && readingWords(found.value, props.packing, units))
</script>

<template>
  <section class="card" aria-label="On the scale">
    <h2>On the scale</h2>
    <el-form label-position="top" class="two" @submit.prevent>
      <TypedField
        label="It shows"
        :text="reading"
        placeholder="13.46 kg"
        :save="(typed) => read(typed, ofMe)"
      />
      <TypedField
        label="Of that, you alone"
        :text="ofMe"
        placeholder="if you stand on it too"
        :save="(typed) => read(reading, typed)"
      />
    </el-form>
    <template v-if="found && words">
      <div class="figures">
        <Figure v-bind="units.total(found.listed_mg + found.difference_mg)" size="large" />
        <span class="muted">the list says {{ units.totalText(found.listed_mg) }}</span>
        <b :class="found.explained === 'likely' ? 'spruce' : 'caution'">{{
          found.difference_mg === 0 ? 'no difference' : units.signed(found.difference_mg)
        }}</b>
      </div>
      <p v-if="!packing.things.some((thing) => thing.is_in)" class="muted">
        Nothing is ticked, so it is set against all that is on the list.
      </p>
      <p class="muted">{{ words.verdict }}</p>
      <ul v-if="words.causes.length" class="rows">
        <li v-for="cause in words.causes" :key="cause.name">
          <span
            >{{ cause.name }} <small class="muted">{{ cause.why }}</small></span
          >
          <span class="n">{{ cause.could }}</span>
        </li>
      </ul>
    </template>
    <p v-else class="muted">Hang the pack on a scale, or stand on one with it, and type what it shows.</p>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--s-3);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: var(--s-3);
}
.figures b {
  font-size: 20px;
}
.spruce {
  color: var(--spruce);
}
</style>
