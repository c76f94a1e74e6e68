<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { accountQuery } from './api/queries'
import Shell from './shell/Shell.vue'
import SignIn from './shell/SignIn.vue'
import { useDark } from './shell/dark'

useDark()
const { data: account, error, refetch } = useQuery(accountQuery)
</script>

<template>
  <main v-if="error" class="stopped">
    <h1>Kevyt does not answer</h1>
    <p>{{ error.message }}</p>
    <el-button type="primary" @click="refetch()">Try again</el-button>
  </main>
  <SignIn v-else-if="account === null" />
  <Shell v-else-if="account" :key="account.name" />
</template>

<style scoped>
.stopped {
  padding: 20vh var(--s-5);
  display: grid;
  gap: var(--s-4);
  justify-items: center;
}
</style>
