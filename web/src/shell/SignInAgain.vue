<script setup lang="ts">
// The session has ended: the password, on the spot, and what was being done goes on.
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref, useTemplateRef, watch } from 'vue'
import { api, unwrap } from '@/api/client'
import { accountQuery, keys } from '@/api/queries'
import { ended } from '@/api/session'
import { useSending } from '@/controls/sending'

const queries = useQueryClient()
const emit = defineEmits<{ leave: [] }>()
const { data: account } = useQuery(accountQuery)
const password = ref('')
const { busy, refusal, send } = useSending()
const field = useTemplateRef<{ focus: () => void }>('field')
watch(ended, () => {
  password.value = ''
  refusal.value = ''
})

const enter = () =>
  send(async () => {
    await unwrap(
      api.POST('/api/session', { body: { name: account.value?.name ?? '', password: password.value } }),
    )
    ended.value?.(true)
    // What is read from here on is kept on the device again.
    await queries.invalidateQueries({ queryKey: keys.account })
  })

function leave() {
  ended.value?.(false)
  emit('leave')
}
</script>

<template>
  <el-dialog
    :model-value="ended !== null"
    title="Your session has ended"
    width="min(23.75rem, 94vw)"
    :show-close="false"
    :close-on-click-modal="false"
    :close-on-press-escape="false"
    :z-index="3200"
    @opened="field?.focus()"
  >
    <el-form label-position="top" @submit.prevent="enter">
      <p class="muted">Type the password of {{ account?.name }}, and what you were doing goes on.</p>
      <el-form-item label="Password" :error="refusal">
        <el-input
          ref="field"
          v-model="password"
          type="password"
          name="password-again"
          autocomplete="current-password"
        />
      </el-form-item>
      <el-button type="primary" native-type="submit" :loading="busy">Sign in</el-button>
      <el-button @click="leave">Sign out</el-button>
    </el-form>
  </el-dialog>
</template>
