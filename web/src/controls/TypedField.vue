<script setup lang="ts">
// A figure as it is typed, with or without its unit; the server reads it. What is refused stays typed, with the reason under it.
import { onBeforeUnmount, ref, watch } from 'vue'
import { reason, useMessages } from '@/controls/messages'

const props = defineProps<{
  label: string
  /** What stands there, as it could have been typed. */
  text: string
  unit?: string
  placeholder?: string
  save: (typed: string) => Promise<unknown>
}>()
const typed = ref(props.text)
const refusal = ref('')
/** What was typed and is on its way, or there. */
const sent = ref<string | null>(null)
watch(
  () => props.text,
  (text) => {
    if (refusal.value === '') typed.value = text
    sent.value = null
  },
)
const { failed } = useMessages()
let isGone = false
onBeforeUnmount(() => (isGone = true))
async function commit() {
  if (typed.value === (sent.value ?? props.text)) return (refusal.value = '')
  sent.value = typed.value
  try {
    await props.save(typed.value)
    refusal.value = ''
  } catch (error) {
    sent.value = null
    refusal.value = reason(error)
    if (isGone) failed(error)
  }
  return undefined
}
</script>

<template>
  <el-form-item :label="label" :error="refusal">
    <el-input v-model="typed" size="small" :placeholder="placeholder" @change="commit">
      <template v-if="unit" #suffix>{{ unit }}</template>
    </el-input>
  </el-form-item>
</template>
