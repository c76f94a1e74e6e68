<script setup lang="ts">
// Changes the chosen things at once.
import { ref } from 'vue'
import type { BulkChange, Gear, GearStatus, Vocabulary } from '@/api/client'
import { reason } from '@/controls/messages'
import { NEEDS, type Need } from '@/domain/kinds'
import { STATUSES } from '@/domain/words'

const props = defineProps<{
  things: Gear[]
  vocabulary: Vocabulary | undefined
  change: (things: Gear[], change: Omit<BulkChange, 'things'>) => Promise<unknown>
}>()
const emit = defineEmits<{ clear: [] }>()

const tag = ref('')
const refusal = ref('')

async function ask(change: Partial<Omit<BulkChange, 'things'>>) {
  refusal.value = ''
  try {
    await props.change(props.things, { remove: false, ...change })
    if (change.remove) emit('clear')
    tag.value = ''
  } catch (error) {
    refusal.value = reason(error)
  }
}
</script>

<template>
  <div class="several" role="toolbar" aria-label="Change the chosen things">
    <b>{{ things.length }} chosen</b>
    <el-select
      :model-value="''"
      size="small"
      placeholder="system"
      aria-label="System of the chosen"
      @change="(system: string) => ask({ system })"
    >
      <el-option
        v-for="system in vocabulary?.systems"
        :key="system.key"
        :value="system.key"
        :label="system.name"
      />
    </el-select>
    <el-select
      :model-value="''"
      size="small"
      placeholder="status"
      aria-label="Status of the chosen"
      @change="(status: GearStatus) => ask({ status })"
    >
      <el-option v-for="(name, key) in STATUSES" :key="key" :value="key" :label="name" />
    </el-select>
    <el-select
      :model-value="''"
      size="small"
      placeholder="need or want"
      aria-label="Need or want, of the chosen"
      @change="(need: Need) => ask({ need })"
    >
      <el-option v-for="(name, key) in NEEDS" :key="key" :value="key" :label="name" />
    </el-select>
    <form @submit.prevent="tag.trim() && ask({ add_tags: tag })">
      <el-input v-model="tag" size="small" placeholder="tag" aria-label="Tag the chosen" />
    </form>
    <el-button v-if="tag.trim()" link type="primary" @click="ask({ add_tags: tag })">Add tag</el-button>
    <el-button v-if="tag.trim()" link type="primary" @click="ask({ remove_tags: tag })">Remove tag</el-button>
    <el-button size="small" @click="ask({ remove: true })">Remove</el-button>
    <el-button link type="primary" @click="emit('clear')">Clear selection</el-button>
    <span v-if="refusal" class="caution" role="alert">{{ refusal }}</span>
  </div>
</template>

<style scoped>
.several {
  position: sticky;
  top: var(--beam-height);
  z-index: 4;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2) var(--s-3);
  padding: var(--s-1h) var(--s-3);
  margin-bottom: var(--s-2);
  background: var(--lake-soft);
  border-radius: var(--radius);
}
.several :deep(.el-select) {
  width: 130px;
}
.several :deep(.el-button) {
  margin: 0;
}
.several form {
  width: 130px;
}
</style>
