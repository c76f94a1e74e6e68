<script setup lang="ts">
// Who is there: nobody, somebody with an account, or a reader with the link to a list.
import { useQuery } from '@tanstack/vue-query'
import { defineAsyncComponent, getCurrentInstance } from 'vue'
import { accountQuery } from './api/queries'
import SignIn from './shell/SignIn.vue'
import { useDark } from './shell/dark'

useDark()
const { data: account, error, refetch } = useQuery(accountQuery)

/** A list that is read by a link has a frame of its own and asks for no account. */
const secret = /^\/shared\/([0-9a-f]{64})\/?$/.exec(window.location.pathname)?.[1]
const SharedList = defineAsyncComponent(() => import('./public/SharedList.vue'))

const app = getCurrentInstance()?.appContext.app
/** The frame and the way around in it: nobody at the door waits for them. It reads the list off the address: there has to be one. */
const Shell = defineAsyncComponent(async () => {
  const [{ router }, shell] = await Promise.all([import('./router'), import('./shell/Shell.vue')])
  app?.use(router)
  await router.isReady()
  return shell
})
</script>

<template>
  <SharedList v-if="secret" :secret="secret" :account="account" />
  <main v-else-if="error && account === undefined" class="stopped">
    <h1>Can't reach the server</h1>
    <p>{{ error.message }}</p>
    <el-button type="primary" @click="refetch()">Try again</el-button>
  </main>
  <SignIn v-else-if="account === null" />
  <Shell v-else-if="account" :key="account.name" />
  <main v-else class="stopped waiting"><p role="status">Waiting for the server …</p></main>
</template>

<style scoped>
.stopped {
  padding: 20vh var(--s-5);
  display: grid;
  gap: var(--s-4);
  justify-items: center;
}
/* Seen where it takes more than a moment. */
.waiting {
  animation: appear 1s step-end;
}
@keyframes appear {
  from {
    opacity: 0;
  }
}
</style>
