<script setup lang="ts">
// Units, password, light and dark, sign out.
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { reactive, ref } from 'vue'
import { api, take, type Session } from '@/api/client'
import { day } from '@/quantities/dates'
import { accountQuery, keys } from '@/api/queries'
import { useDark } from './dark'
import { useMessages } from './messages'
import { useTypedWeights } from './typedWeights'
import UnitFields from './UnitFields.vue'

const queries = useQueryClient()
const { data: account } = useQuery(accountQuery)
const { isDark, toggle } = useDark()
const { done } = useMessages()

const open = ref(false)
const refusal = ref('')
const units = reactive({ mass: 'metric' as NonNullable<typeof account.value>['mass'], currency: 'EUR' })
const passwords = reactive({ old_password: '', new_password: '' })

const typedWeights = useTypedWeights()
const sessions = ref<Session[]>([])
const loadSessions = async () => (sessions.value = await take(api.GET('/api/sessions')))

/** What somebody calls the program and the machine that a session is on. */
function device(session: Session) {
  const known = (words: string[]) => words.find((word) => session.device.includes(word))
  const browser = known(['Firefox', 'Edg', 'Chrome', 'Safari'])?.replace('Edg', 'Edge') ?? 'A browser'
  const machine = known(['Android', 'iPhone', 'iPad', 'Windows', 'Macintosh', 'Linux'])
  return machine ? `${browser} on ${machine.replace('Macintosh', 'a Mac')}` : browser
}

const endSession = (session: Session) =>
  attempt(
    async () => {
      await take(api.DELETE('/api/sessions/{id}', { params: { path: { id: session.id } } }))
      await loadSessions()
    },
    `${device(session)} is signed out.`,
  )

function show() {
  if (account.value) Object.assign(units, { mass: account.value.mass, currency: account.value.currency })
  refusal.value = ''
  open.value = true
  void attempt(loadSessions)
}

async function attempt(work: () => Promise<unknown>, message = '') {
  try {
    await work()
    refusal.value = ''
    if (message) done(message)
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
    await loadSessions()
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
  <el-dialog v-model="open" :title="`Account ${account?.name}`" width="min(420px, 94vw)">
    <div class="parts">
      <form @submit.prevent="saveUnits">
        <UnitFields v-model:mass="units.mass" v-model:currency="units.currency" />
        <el-button native-type="submit">Save units</el-button>
      </form>
      <div class="typed">
        <h2>Weights that you type come from</h2>
        <el-radio-group
          :model-value="typedWeights.source.value"
          aria-label="Weights that you type come from"
          @change="(from) => attempt(() => typedWeights.set(from as 'maker' | 'weighed'), 'Saved.')"
        >
          <el-radio value="maker">the maker</el-radio>
          <el-radio value="weighed">my own scale</el-radio>
        </el-radio-group>
      </div>
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
      <div class="sessions">
        <h2>Signed in</h2>
        <ul class="rows">
          <li v-for="session in sessions" :key="session.id">
            <span
              >{{ device(session) }}
              <span class="muted">{{
                session.here ? 'this one' : `last used ${day(session.seen_at)}`
              }}</span></span
            >
            <el-button v-if="!session.here" size="small" @click="endSession(session)">Sign out</el-button>
          </li>
        </ul>
      </div>
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
form,
label,
.sessions,
.typed {
  width: 100%;
}
.sessions ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
