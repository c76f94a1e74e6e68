<script setup lang="ts">
// What the scale shows of the packed pack, typed or taken from the live scale, against the list.
import { computed } from 'vue'
import type { Packing, PackingNotes } from '@/api/client'
import { useMessages } from '@/controls/messages'
import TypedField from '@/controls/TypedField.vue'
import LoadedPack from '@/domain/LoadedPack.vue'
import { useScale } from '@/domain/scale'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { readingWords } from './words'

const props = defineProps<{ packing: Packing; note: (notes: PackingNotes) => Promise<unknown> }>()
const units = useUnits()
const { failed } = useMessages()
const found = computed(() => props.packing.reconciled ?? null)
const words = computed(() => found.value && readingWords(found.value, props.packing, units))

const { name, reading, trouble, simulated, connections, connectSimulated, leave } = useScale()
const shows = computed(() => (reading.value?.state === 'steady' ? (reading.value.mass_mg ?? null) : null))
async function taken() {
  try {
    await props.note({ reading: `${shows.value! / 1000} g` })
  } catch (error) {
    failed(error)
  }
}
</script>

<template>
  <section class="card" aria-label="On the scale">
    <h2>On the scale</h2>
    <el-form label-position="top" class="two" @submit.prevent>
      <TypedField
        label="It shows"
        :text="packing.reading"
        placeholder="13.46"
        :save="(reading) => note({ reading })"
      />
      <TypedField
        label="You without the pack"
        :text="packing.of_me"
        placeholder="if you stand on it too"
        :save="(of_me) => note({ of_me })"
      />
    </el-form>
    <p v-if="simulated || connections.length" class="live">
      <template v-if="name">
        <span class="muted"
          >{{ name }}: {{ reading?.mass_mg != null ? units.tableText(reading.mass_mg) : 'nothing yet'
          }}{{ reading && reading.state !== 'steady' ? `, ${reading.state}` : '' }}</span
        >
        <el-button size="small" :disabled="shows === null || shows === 0" @click="taken"
          >Take this reading</el-button
        >
        <el-button link size="small" @click="leave">Disconnect</el-button>
      </template>
      <template v-else>
        <el-button v-if="simulated" link type="primary" size="small" @click="connectSimulated"
          >Listen to the simulated scale</el-button
        >
        <el-button
          v-for="{ over, connect } in connections"
          :key="over"
          link
          type="primary"
          size="small"
          @click="connect"
          >Listen to a {{ over }} scale</el-button
        >
      </template>
      <span v-if="trouble" class="caution">{{ trouble }}</span>
    </p>
    <template v-if="found && words">
      <div class="figures">
        <Figure v-bind="units.total(found.listed_mg + found.difference_mg)" size="large" />
        <span class="muted"
          >the list says
          <LoadedPack :loaded="found.listed" :names="packing.things.map((thing) => thing.name)"
        /></span>
        <b :class="found.explained === 'likely' ? 'spruce' : 'caution'">{{
          found.difference_mg === 0 ? 'no difference' : units.signed(found.difference_mg)
        }}</b>
      </div>
      <p v-if="!packing.things.some((thing) => thing.is_in)" class="muted">
        Nothing is ticked, so it is compared with all that is on the list.
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
.live {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-1) var(--s-2);
  margin-bottom: var(--s-2);
}
.live :deep(.el-button) {
  margin: 0;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: var(--s-3);
}
.figures b {
  font-size: var(--text-xl);
}
</style>
