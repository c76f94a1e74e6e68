<script setup lang="ts">
// Units, password, light and dark, sign out, delete.
import { useQuery } from '@tanstack/vue-query'
import { reactive, ref, watch } from 'vue'
import { api, unwrap, type Session } from '@/api/client'
import { counted } from '@/quantities/count'
import { day } from '@/quantities/dates'
import { dropAll, waiting } from '@/api/outbox'
import { accountQuery } from '@/api/queries'
import { resetToSignIn } from '@/api/session'
import DeleteAccount from './DeleteAccount.vue'
import { useDark } from './dark'
import { reason, useMessages } from '@/controls/messages'
import { useDialog } from '@/controls/route'
import { useSettings } from '@/domain/settings'
import { useTypedWeights } from '@/domain/typedWeights'
import UnitFields from '@/domain/UnitFields.vue'

const { data: account } = useQuery(accountQuery)
const { isDark, toggle } = useDark()
const { done } = useMessages()

const open = useDialog('account')
const refusal = ref('')
const units = reactive({ mass: 'metric' as NonNullable<typeof account.value>['mass'], currency: 'EUR' })
const passwords = reactive({ old_password: '', new_password: '' })

const typedWeights = useTypedWeights()
const sessions = ref<Session[]>([])
const loadSessions = async () => (sessions.value = await unwrap(api.GET('/api/sessions')))

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
      await unwrap(api.DELETE('/api/sessions/{id}', { params: { path: { id: session.id } } }))
      await loadSessions()
    },
    `${device(session)} is signed out.`,
  )

async function attempt(work: () => Promise<unknown>, message = '') {
  try {
    await work()
    refusal.value = ''
    if (message) done(message)
  } catch (error) {
    refusal.value = reason(error)
  }
}

watch(
  open,
  (is) => {
    if (!is) return
    if (account.value) Object.assign(units, { mass: account.value.mass, currency: account.value.currency })
    refusal.value = ''
    isLosing.value = false
    void attempt(loadSessions)
  },
  { immediate: true },
)

const { setUnits } = useSettings()
const saveUnits = () => attempt(() => setUnits(units))

const savePassword = () =>
  attempt(async () => {
    await unwrap(api.PUT('/api/account/password', { body: passwords }))
    Object.assign(passwords, { old_password: '', new_password: '' })
    await loadSessions()
  }, 'Password changed. Other sessions are signed out.')

/** What waits for the network would be lost: it is asked once whether that is meant. */
const isLosing = ref(false)
const signOut = () => {
  if (waiting.value.length > 0 && !isLosing.value) return (isLosing.value = true)
  return attempt(async () => {
    await unwrap(api.DELETE('/api/session'))
    dropAll()
    await resetToSignIn()
  })
}
</script>

<template>
  <el-button link class="entry" @click="open = true"
    ><i>{{ account?.currency }}</i
    >Account</el-button
  >
  <el-dialog v-model="open" :title="`Account ${account?.name}`" width="min(26.25rem, 94vw)">
    <div class="parts">
      <el-form label-position="top" @submit.prevent="saveUnits">
        <UnitFields v-model:mass="units.mass" v-model:currency="units.currency" />
        <el-button native-type="submit">Save units</el-button>
      </el-form>
      <div class="typed">
        <h3>Weights that you type are</h3>
        <el-radio-group
          :model-value="typedWeights.source.value"
          aria-label="Weights that you type are"
          @change="(from) => attempt(() => typedWeights.set(from as 'maker' | 'weighed'))"
        >
          <el-radio value="maker">the maker’s figures</el-radio>
          <el-radio value="weighed">weighed by me</el-radio>
        </el-radio-group>
      </div>
      <el-form label-position="top" @submit.prevent="savePassword">
        <el-form-item label="Old password">
          <el-input v-model="passwords.old_password" type="password" autocomplete="current-password" />
        </el-form-item>
        <el-form-item label="New password">
          <el-input v-model="passwords.new_password" type="password" autocomplete="new-password" />
        </el-form-item>
        <el-button native-type="submit" :disabled="!passwords.old_password || !passwords.new_password"
          >Change password</el-button
        >
      </el-form>
      <div class="sessions">
        <h3>Signed in</h3>
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
      <p v-if="isLosing" class="caution" role="alert">
        {{ counted(waiting.length, 'change') }} of yours {{ waiting.length === 1 ? 'has' : 'have' }} not
        reached the server and would be lost. Stay until the network is back, or sign out all the same.
      </p>
      <div class="actions">
        <el-button @click="toggle">{{ isDark ? 'Light' : 'Dark' }}</el-button>
        <el-button type="primary" @click="signOut">{{
          isLosing ? 'Sign out and lose them' : 'Sign out'
        }}</el-button>
      </div>
      <DeleteAccount />
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
form :deep(.el-form-item),
.sessions,
.typed {
  width: 100%;
}
h3 {
  margin: 0 0 var(--s-2);
  font-size: var(--text);
}
.sessions ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
