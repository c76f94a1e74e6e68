<script setup lang="ts">
// Units, password, light and dark, sign out.
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { reactive, ref } from 'vue'
import { api, take } from '@/api/client'
import { accountQuery, keys } from '@/api/queries'
import { useDark } from './dark'
import { useMessages } from './messages'
import UnitFields from './UnitFields.vue'

const queries = useQueryClient()
const { data: account } = useQuery(accountQuery)
const { isDark, toggle } = useDark()
const { done } = useMessages()

const open = ref(false)
const refusal = ref('')
const units = reactive({ mass: 'metric' as NonNullable<typeof account.value>['mass'], currency: 'EUR' })
const passwords = reactive({ old_password: '', new_password: '' })

function show() {
  if (account.value) Object.assign(units, { mass: account.value.mass, currency: account.value.currency })
  refusal.value = ''
  open.value = true
}

async function attempt(work: () => Promise<unknown>, said: string) {
  try {
    await work()
    refusal.value = ''
    done(said)
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}

const saveUnits = () =>
  attempt(async () => {
    await take(api.PATCH('/api/account', { body: { ...units, version: account.value?.version ?? 0 } }))
    await queries.invalidateQueries()
  }, 'Units changed.')

const savePassword = () =>
  attempt(async () => {
    await take(api.PUT('/api/account/password', { body: passwords }))
    Object.assign(passwords, { old_password: '', new_password: '' })
  }, 'Password changed. Other sessions are signed out.')

async function signOut() {
  await take(api.DELETE('/api/session'))
  queries.removeQueries({ queryKey: keys.mine })
  queries.setQueryData(keys.account, null)
}
</script>

<template>
  <button class="plain entry" @click="show">
    <i>{{ account?.currency }}</i>Account
  </button>
  <el-dialog v-model="open" :title="`Account ${account?.name}`" width="420">
    <div class="parts">
      <form @submit.prevent="saveUnits">
        <UnitFields v-model:mass="units.mass" v-model:currency="units.currency" />
        <el-button native-type="submit">Save units</el-button>
      </form>
      <form @submit.prevent="savePassword">
        <label
          >Old password
          <el-input v-model="passwords.old_password" type="password" autocomplete="current-password"
        /></label>
        <label
          >New password
          <el-input v-model="passwords.new_password" type="password" autocomplete="new-password"
        /></label>
        <el-button native-type="submit" :disabled="!passwords.old_password || !passwords.new_password"
          >Change password</el-button
        >
      </form>
      <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
      <div class="actions">
        <el-button @click="toggle">{{ isDark ? 'Light' : 'Dark' }}</el-button>
        <el-button type="primary" @click="signOut">Sign out</el-button>
      </div>
    </div>
  </el-dialog>
</template>

<style scoped>
.parts,
form {
  display: grid;
  gap: var(--s-3);
  justify-items: start;
}
.parts {
  gap: var(--s-5);
}
label {
  width: 100%;
}
</style>
