<script setup lang="ts">
// One thing that goes on: what it is, weighs, costs and does.
import { ref } from 'vue'
import JobsEditor from '@/shell/JobsEditor.vue'
import type { AdditionDraft } from './draft'

const addition = defineModel<AdditionDraft>({ required: true })
defineProps<{ at: number; refusalFor: (field: string) => string }>()
const emit = defineEmits<{ remove: [] }>()
const showJobs = ref(
  Object.keys(addition.value.provides).length + Object.keys(addition.value.needs).length > 0,
)
</script>

<template>
  <fieldset>
    <legend class="visually-hidden">What goes on, {{ at + 1 }}</legend>
    <div class="top">
      <label
        >What goes on
        <el-input v-model="addition.name" placeholder="soft bottle, 1 l" :name="`add-${at}-name`"
      /></label>
      <label class="qty"
        >Count <el-input-number v-model="addition.qty" :min="1" :max="1000" :controls="false"
      /></label>
      <button
        class="plain muted"
        type="button"
        aria-label="Remove this from the swap"
        @click="emit('remove')"
      >
        ×
      </button>
    </div>
    <div class="figures">
      <label
        >Weight of one <el-input v-model="addition.weight" placeholder="38 g" :name="`add-${at}-weight`"
      /></label>
      <label>
        Known from
        <el-select v-model="addition.source" aria-label="Known from">
          <el-option value="maker" label="maker" />
          <el-option value="weighed" label="weighed" />
          <el-option value="estimate" label="guess" />
        </el-select>
      </label>
      <label
        >Price of one <el-input v-model="addition.price" placeholder="4.50 or 4-6" :name="`add-${at}-price`"
      /></label>
      <label>
        Counts as
        <el-select v-model="addition.place" aria-label="Counts as">
          <el-option value="carried" label="carried" />
          <el-option value="worn" label="worn" />
          <el-option value="used_up" label="used up" />
        </el-select>
      </label>
    </div>
    <p
      v-for="field in ['name', 'weight', 'price', 'qty', 'provides', 'needs']"
      v-show="refusalFor(`add[${at}].${field}`)"
      :key="field"
      class="caution"
      role="alert"
    >
      {{ refusalFor(`add[${at}].${field}`) }}
    </p>
    <button v-if="!showJobs" class="plain link" type="button" @click="showJobs = true">
      What it does and needs
    </button>
    <JobsEditor v-else v-model:provides="addition.provides" v-model:needs="addition.needs" />
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  border-left: 3px solid var(--spruce);
  margin: 0;
  padding: 0 0 0 var(--s-3);
  display: grid;
  gap: var(--s-2);
}
.top {
  display: grid;
  grid-template-columns: 1fr 64px 20px;
  gap: var(--s-2);
  align-items: end;
}
.top button {
  padding: 6px;
}
.qty :deep(.el-input-number) {
  width: 64px;
}
.figures {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr 1fr;
  gap: var(--s-2);
}
label {
  font-size: 12px;
  color: var(--ink-2);
}
</style>
