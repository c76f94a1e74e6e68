<script setup lang="ts">
// What is each thing? Those of which nobody has said it, in one pass: Enter takes what the name says and goes on.
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import type { BulkChange, Gear, GearChange } from '@/api/client'
import { useMessages } from '@/controls/messages'
import KindSelect from '@/domain/KindSelect.vue'
import { counted } from '@/quantities/count'

const props = defineProps<{
  things: Gear[]
  change: (thing: Gear, change: GearChange) => Promise<unknown>
  changeSeveral: (things: Gear[], change: Omit<BulkChange, 'things'>) => Promise<unknown>
}>()
const { failed } = useMessages()

/** The most that are asked about on one page. */
const SHOWN = 40
const opened = ref(false)
const named = computed(() => props.things.filter((thing) => thing.proposed_kind))
// What the name says something of comes first.
const shown = computed(() =>
  [...named.value, ...props.things.filter((thing) => !thing.proposed_kind)].slice(0, SHOWN),
)
const list = useTemplateRef<HTMLElement>('list')

async function say(thing: Gear, kind: string) {
  const at = shown.value.findIndex((one) => one.id === thing.id)
  try {
    await props.change(thing, { kind })
  } catch (error) {
    failed(error)
    return
  }
  await nextTick()
  list.value?.querySelectorAll<HTMLElement>('[data-yes]')[at]?.focus()
}

async function sayAll() {
  try {
    await props.changeSeveral(named.value, { remove: false, take_kinds: true })
  } catch (error) {
    failed(error)
  }
}

async function open() {
  opened.value = true
  await nextTick()
  list.value?.querySelector<HTMLElement>('[data-yes]')?.focus()
}
</script>

<template>
  <section class="card kinds" aria-label="What things are">
    <div class="head">
      <h2 v-if="opened">{{ counted(things.length, 'thing') }}: is this what they are?</h2>
      <p v-else>
        Of {{ counted(things.length, 'thing') }} nobody has said what they are. It tells where they count,
        what they do, and what must never be left at home.
      </p>
      <el-button v-if="!opened" @click="open">Look through them</el-button>
      <el-button v-if="opened && named.length > 1" @click="sayAll"
        >Yes to all {{ named.length }} with a name that says it</el-button
      >
      <el-button v-if="opened" link type="primary" @click="opened = false">Later</el-button>
    </div>
    <ul v-if="opened" ref="list" class="rows">
      <li v-for="thing in shown" :key="thing.id">
        <b>{{ thing.name }}</b>
        <span class="acts">
          <KindSelect
            :model-value="''"
            :proposed="thing.proposed_kind ?? undefined"
            :label="`What ${thing.name} is`"
            size="small"
            @update:model-value="(kind: string) => say(thing, kind)"
          />
          <el-button
            data-yes
            size="small"
            :aria-label="thing.proposed_kind ? `Yes: ${thing.name}` : `${thing.name} is none of these`"
            @click="say(thing, thing.proposed_kind ?? 'none')"
            >{{ thing.proposed_kind ? 'Yes' : 'None of these' }}</el-button
          >
        </span>
      </li>
    </ul>
    <p v-if="opened && things.length > SHOWN" class="muted">and {{ things.length - SHOWN }} more</p>
  </section>
</template>

<style scoped>
.kinds {
  margin-bottom: var(--s-3);
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2) var(--s-3);
}
.head h2,
.head p {
  flex: 1 1 300px;
  margin: 0;
}
ul {
  list-style: none;
  margin: var(--s-2) 0 0;
  padding: 0;
}
.acts {
  display: flex;
  gap: var(--s-2);
}
.acts > :deep(.el-select) {
  width: 200px;
}
.acts > :deep(.el-button) {
  min-width: 108px;
}
@media (max-width: 700px) {
  .rows li {
    flex-wrap: wrap;
  }
  .acts > :deep(.el-select) {
    width: 160px;
  }
}
</style>
