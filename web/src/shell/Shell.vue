<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import AccountMenu from './AccountMenu.vue'
import Beam from './Beam.vue'
import { useKeyListener, useKeys } from './keys'
import KeysHelp from './KeysHelp.vue'
import { useMessages } from './messages'
import Messages from './Messages.vue'

// The steps are numbered as the work goes; those that are not built yet have no entry.
const steps = [
  { number: '1', name: 'Weigh', to: '/weigh' },
  { number: '2', name: 'Gear', to: '/gear' },
  { number: '3', name: 'List', to: '/list' },
  { number: '4', name: 'Swaps', to: '/swaps' },
  { number: '5', name: 'Plan', to: '/plan' },
]

const router = useRouter()
const help = ref(false)
const { undoLast } = useMessages()
useKeyListener()
useKeys('Anywhere', [
  ...steps.map((step) => ({
    key: step.number,
    does: `go to ${step.name}`,
    run: () => void router.push(step.to),
  })),
  { key: 'z', does: 'undo what the last message reports', run: undoLast },
  { key: '?', does: 'show the keys', run: () => (help.value = !help.value) },
])
</script>

<template>
  <div>
    <nav aria-label="Steps">
      <div class="mark">
        <svg width="34" height="26" viewBox="0 0 34 26" aria-hidden="true">
          <path
            d="M2 24H32V3Z"
            fill="none"
            stroke="currentColor"
            stroke-width="2.5"
            stroke-linejoin="round"
          />
        </svg>
        <b>kevyt</b>
      </div>
      <RouterLink v-for="step in steps" :key="step.to" :to="step.to" active-class="on">
        <i>{{ step.number }}</i>{{ step.name }}
      </RouterLink>
      <button class="plain entry last" @click="help = true"><i>?</i>Keys</button>
      <AccountMenu />
    </nav>
    <Beam />
    <main>
      <RouterView />
    </main>
    <Messages />
    <KeysHelp v-model="help" />
  </div>
</template>

<style scoped>
nav {
  position: fixed;
  left: 0;
  top: 0;
  bottom: 0;
  width: 84px;
  z-index: 11;
  background: var(--rail);
  color: var(--rail-ink);
  display: flex;
  flex-direction: column;
  padding: 14px 0 10px;
}
.mark {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 2px;
  margin-bottom: 18px;
}
.mark b {
  font-size: 14px;
  letter-spacing: 0.06em;
  font-weight: 600;
}
nav a,
nav :deep(.entry) {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 1px;
  padding: 9px 0;
  width: 100%;
  color: var(--rail-2);
  font-size: 13px;
  text-decoration: none;
  border-left: 3px solid transparent;
  border-right: 3px solid transparent;
}
nav a:hover,
nav :deep(.entry:hover) {
  color: var(--rail-ink);
}
nav i,
nav :deep(i) {
  font-style: normal;
  font-size: 11px;
}
nav a.on {
  color: var(--rail-ink);
  border-left-color: #e3a24a;
  background: rgb(255 255 255 / 6%);
  font-weight: 600;
}
.last {
  margin-top: auto;
}
main {
  margin-left: 84px;
  padding: 92px var(--s-5) var(--s-5);
}
@media (max-width: 700px) {
  nav {
    top: auto;
    right: 0;
    width: auto;
    flex-direction: row;
    padding: 0;
  }
  .mark,
  .last {
    display: none;
  }
  main {
    margin-left: 0;
    padding: 76px var(--s-3) 84px;
  }
}
</style>
