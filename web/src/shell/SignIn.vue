<script setup lang="ts">
// Sign in, sign up, or one click into the demo.
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { reactive, ref } from 'vue'
import { api, unwrap } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import type { MassSystem } from '@/quantities/mass'
import { useSending } from '@/controls/sending'
import UnitFields from '@/domain/UnitFields.vue'

const queries = useQueryClient()
const { data: vocabulary } = useQuery(vocabularyQuery)
const isNew = ref(false)
const { busy, refusal, send } = useSending()
const fields = reactive({ name: '', password: '', mass: 'metric' as MassSystem, currency: 'EUR' })

const enter = (work: () => Promise<unknown>) =>
  send(async () => {
    await work()
    await queries.invalidateQueries()
  })

const submit = () =>
  enter(() =>
    isNew.value
      ? unwrap(api.POST('/api/account', { body: fields }))
      : unwrap(api.POST('/api/session', { body: { name: fields.name, password: fields.password } })),
  )
const demo = (demo: 'fell' | 'mesa') => enter(() => unwrap(api.POST('/api/session/demo', { body: { demo } })))
</script>

<template>
  <main class="door">
    <section class="pitch">
      <svg viewBox="0 0 320 200" aria-hidden="true">
        <path d="M20 180H300V20Z" fill="var(--spruce-soft)" />
        <path d="M20 180H300" stroke="var(--cloudberry)" stroke-width="5" stroke-linecap="round" />
        <path d="M20 180L300 20" stroke="var(--spruce)" stroke-width="5" stroke-linecap="round" />
        <text x="160" y="197" text-anchor="middle" font-size="12" fill="var(--cloudberry)">money</text>
        <text x="292" y="112" text-anchor="end" font-size="12" fill="var(--spruce)">grams</text>
      </svg>
      <h1>How many grams does your money buy?</h1>
      <p>
        Weigh your gear, name what could replace it, and see which swaps bring your base weight down to its
        target for the least money: calculated exactly, and proved.
      </p>
      <template v-if="vocabulary?.demo">
        <el-button size="large" type="primary" :loading="busy" @click="demo('fell')"
          >Look around in the demo</el-button
        >
        <el-button link type="primary" :disabled="busy" @click="demo('mesa')">
          Look around in pounds, ounces and dollars
        </el-button>
      </template>
    </section>
    <section class="card">
      <h2>{{ isNew ? 'New account' : 'Sign in' }}</h2>
      <el-form label-position="top" @submit.prevent="submit">
        <el-form-item :label="isNew ? 'Name, 3 to 60 characters without spaces' : 'Name'">
          <el-input v-model="fields.name" name="name" autocomplete="username" />
        </el-form-item>
        <el-form-item :label="isNew ? 'Password, at least 10 characters' : 'Password'">
          <el-input
            v-model="fields.password"
            name="password"
            type="password"
            :autocomplete="isNew ? 'new-password' : 'current-password'"
          />
        </el-form-item>
        <UnitFields v-if="isNew" v-model:mass="fields.mass" v-model:currency="fields.currency" />
        <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
        <el-button native-type="submit" :loading="busy">{{ isNew ? 'Create account' : 'Sign in' }}</el-button>
      </el-form>
      <p v-if="vocabulary?.sign_up === false" class="muted">
        New accounts are made by the operator of this server.
      </p>
      <el-button v-else link type="primary" @click="isNew = !isNew">
        {{ isNew ? 'I have an account' : 'I am new here' }}
      </el-button>
    </section>
  </main>
</template>

<style scoped>
.door {
  min-height: var(--door, 100vh);
  display: grid;
  grid-template-columns: minmax(0, 440px) minmax(0, 360px);
  gap: calc(3 * var(--s-5));
  align-content: center;
  align-items: center;
  justify-content: center;
  padding: var(--s-5);
}
.pitch {
  display: grid;
  gap: var(--s-4);
  justify-items: start;
}
.pitch svg {
  width: 320px;
  max-width: 100%;
}
h1 {
  font-size: var(--text-title);
  line-height: 1.15;
}
.pitch p {
  font-size: var(--text-field);
  color: var(--ink-2);
}
.card {
  padding: var(--s-5);
  display: grid;
  gap: var(--s-4);
  justify-items: start;
}
h2 {
  font-size: var(--text-l);
  margin: 0;
}
form {
  width: 100%;
}
@media (max-width: 800px) {
  .door {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--s-5);
  }
}
</style>
