<script setup lang="ts">
// The account deleted by its owner, once the password is said again. Nothing brings it back but the file that is offered first.
import { nextTick, ref, useTemplateRef } from 'vue'
import { api, unwrap } from '@/api/client'
import { dropAll } from '@/api/outbox'
import { resetToSignIn } from '@/api/session'
import { useSending } from '@/controls/sending'

const asked = ref(false)
const password = ref('')
const { busy, refusal, send } = useSending()
const field = useTemplateRef<{ focus(): void }>('field')
const button = useTemplateRef<{ $el: HTMLElement }>('button')

/** Whoever uses the keyboard goes on where they are asked, and where they were. */
async function ask(whether: boolean) {
  asked.value = whether
  password.value = ''
  await nextTick()
  if (whether) field.value?.focus()
  else button.value?.$el.focus()
}

const remove = () =>
  send(async () => {
    await unwrap(api.DELETE('/api/account', { body: { password: password.value } }))
    dropAll()
    await resetToSignIn()
  })
</script>

<template>
  <el-button v-if="!asked" ref="button" link @click="ask(true)">Delete account …</el-button>
  <el-form v-else label-position="top" class="delete" @submit.prevent="remove">
    <h3>Delete account</h3>
    <p>
      All gear, weighings, lists, swaps, plans and trips of this account are deleted now, and links that you
      shared stop working. It can’t be undone.
      <a class="link" href="/api/files/account.json" download>Save all of it as a file</a> first: an account
      can be restored from it.
    </p>
    <el-form-item label="Password">
      <el-input
        ref="field"
        v-model="password"
        type="password"
        name="delete-password"
        autocomplete="current-password"
      />
    </el-form-item>
    <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
    <div class="actions">
      <el-button native-type="submit" :disabled="!password" :loading="busy">Delete everything</el-button>
      <el-button @click="ask(false)">Keep the account</el-button>
    </div>
  </el-form>
</template>

<style scoped>
.delete {
  display: grid;
  gap: var(--s-3);
  justify-items: start;
  width: 100%;
}
.delete :deep(.el-form-item) {
  width: 100%;
}
h3,
p {
  margin: 0;
}
h3 {
  font-size: var(--text);
}
</style>
