<script setup lang="ts">
import { useRouteQuery } from '@/shell/route'
import { computed, ref, useTemplateRef } from 'vue'
import type { Gear } from '@/api/client'
import { useKeys } from '@/shell/keys'
import { useUnits } from '@/shell/units'
import { useGear } from './gear'
import GearDrawer from './GearDrawer.vue'
import GearTable from './GearTable.vue'
import QuickLine from './QuickLine.vue'

const filter = useRouteQuery('find')
const { gear, isPending, error, systems, vocabulary, change, removeThing } = useGear(filter)
const units = useUnits()
const opened = ref<Gear | null>(null)
const finder = useTemplateRef<HTMLInputElement>('finder')
useKeys('Gear', [{ key: '/', does: 'find gear', run: () => finder.value?.focus() }])

const summary = computed(() => {
  const all = gear.value ?? []
  const unknown = all.filter((thing) => !thing.weight).length
  const mg = all.reduce((sum, thing) => sum + (thing.weight?.unit_mg ?? 0) * thing.count, 0)
  const paid = all.reduce((sum, thing) => sum + (thing.paid_minor ?? 0) * thing.count, 0)
  const missing =
    unknown === 0 ? '' : unknown === 1 ? ' One weight is unknown.' : ` ${unknown} weights are unknown.`
  return `${all.length} things, ${unknown ? 'at least ' : ''}${units.totalText(mg)}, ${units.moneyText(paid)} paid.${missing}`
})
</script>

<template>
  <div>
    <div class="head">
      <h1>What do I own</h1>
      <p v-if="gear?.length">{{ summary }}</p>
      <input
        v-if="gear?.length"
        ref="finder"
        v-model="filter"
        class="find"
        type="search"
        placeholder="Find  /"
        aria-label="Find gear"
      />
    </div>
    <QuickLine />
    <p v-if="error" class="caution" role="alert">{{ error.message }}</p>
    <GearTable
      v-else-if="systems.length"
      :systems="systems"
      :vocabulary="vocabulary"
      :change="change"
      @open="(thing) => (opened = thing)"
      @remove="removeThing"
    />
    <p v-else-if="gear?.length" class="muted">Nothing here has “{{ filter }}” in its name.</p>
    <div v-else-if="!isPending" class="empty card">
      <h2>Start with the heavy few</h2>
      <p>
        Pack, shelter and sleep insulation are most of a base weight. Type these three into the line above,
        each with its weight and what you paid, and you have a figure to work on in a minute.
      </p>
      <p class="muted">
        pack 1680g 240eur #pack &nbsp;·&nbsp; two-skin tent 1910g 320eur #shelter &nbsp;·&nbsp; sleeping bag
        1120g 130eur #sleep
      </p>
    </div>
    <GearDrawer :thing="opened" :vocabulary="vocabulary" :change="change" @close="opened = null" />
  </div>
</template>

<style scoped>
.find {
  margin-left: auto;
  font: inherit;
  height: 30px;
  width: 180px;
  padding: 0 var(--s-3);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
}
</style>
