<script setup lang="ts">
// Things weighed together: the kit's own weighing beside its parts.
import { computed, reactive, ref } from 'vue'
import type { Kit, KitDraft, Queued } from '@/api/client'
import Choices from '@/controls/Choices.vue'
import { reason } from '@/controls/messages'
import { useDialog } from '@/controls/route'
import { useUnits } from '@/domain/units'

const props = defineProps<{
  kits: Kit[]
  queue: Queued[]
  marked: string | undefined
  save: (draft: KitDraft) => Promise<unknown>
}>()
const emit = defineEmits<{ mark: [id: string]; drop: [kit: Kit] }>()

const units = useUnits()
const making = useDialog('kit')
const refusal = ref('')
const draft = reactive({ name: '', parts: [] as string[] })

const things = computed(() =>
  props.queue.map(({ gear }) => ({
    id: gear.id,
    name: gear.count > 1 ? `${gear.name} × ${gear.count}` : gear.name,
  })),
)

function make() {
  Object.assign(draft, { name: '', parts: [] })
  refusal.value = ''
  making.value = true
}

async function store() {
  const counts = new Map(props.queue.map(({ gear }) => [gear.id, gear.count]))
  try {
    await props.save({
      name: draft.name,
      parts: draft.parts.map((gear) => ({ gear, count: counts.get(gear) ?? 1 })),
    })
    making.value = false
  } catch (error) {
    refusal.value = reason(error)
  }
}

function told(kit: Kit) {
  if (kit.contradicts) return 'its parts weigh more than it does: weigh it again'
  const parts = `parts ${kit.unknown ? 'at least ' : ''}${units.tableText(kit.parts_mg)}`
  if (!kit.own) return `${parts}, not weighed together`
  const derived = kit.parts.find((part) => part.weight?.source === 'derived')
  if (derived) return `${derived.name} calculated: ${units.tableText(derived.weight!.unit_mg)}`
  const counts = kit.own_counts ? '' : ', the parts count: they are newer'
  return kit.difference_mg == null
    ? `${parts}${counts}`
    : `${parts}, ${units.signed(kit.difference_mg)}${counts}`
}
defineExpose({ make })
</script>

<template>
  <section class="card">
    <header>
      <h2>Kits</h2>
      <el-button link type="primary" @click="make">New kit <kbd>k</kbd></el-button>
    </header>
    <ul v-if="kits.length" class="rows">
      <li v-for="kit in kits" :key="kit.id" :class="{ marked: kit.id === marked }">
        <el-button link class="kit" :aria-pressed="kit.id === marked" @click="emit('mark', kit.id)">
          <span class="both">
            <b>{{ kit.name }}</b>
            <span class="muted">{{ told(kit) }}</span>
          </span>
        </el-button>
        <span class="figure">{{ kit.own ? units.tableText(kit.own.total_mg) : '?' }}</span>
        <el-button link :aria-label="`Remove the kit ${kit.name}`" @click="emit('drop', kit)">×</el-button>
      </li>
    </ul>
    <p v-else class="muted">
      Weigh a quilt in its bag, or six stakes at once: one unknown part of a weighed kit is calculated.
    </p>
    <el-dialog v-model="making" title="New kit" width="min(27.5rem, 94vw)">
      <el-form label-position="top" @submit.prevent="store">
        <el-form-item label="Name">
          <el-input v-model="draft.name" name="kit-name" placeholder="sleep set" maxlength="120" />
        </el-form-item>
        <el-form-item label="Things" :error="refusal">
          <Choices v-model="draft.parts" :options="things" label="Things of the kit" />
        </el-form-item>
        <el-button type="primary" native-type="submit">Make the kit</el-button>
      </el-form>
    </el-dialog>
  </section>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  align-items: center;
}
li.marked {
  background: var(--lake-soft);
}
li :deep(.kit) {
  flex: 1;
  min-width: 0;
  justify-content: flex-start;
  height: auto;
  white-space: normal;
  text-align: left;
  font-weight: 400;
}
.both {
  line-height: 1.3;
  overflow-wrap: anywhere;
}
li b {
  display: block;
  font-weight: 600;
  color: var(--ink);
}
li .muted {
  font-size: var(--text-m);
}
</style>
