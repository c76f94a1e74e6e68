<script setup lang="ts">
// What can be laid on the pan of the simulated scale.
import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'
import { reason } from '@/controls/messages'

const props = defineProps<{ address: string; wanted: string }>()

interface Bench {
  goods: string[]
  pan: string[]
  plugged: boolean
}

const bench = ref<Bench | null>(null)
const chosen = ref('')
const trouble = ref('')

async function ask(deed: unknown) {
  trouble.value = ''
  // The hands are at the scale now: the next Enter takes the reading.
  if (deed && document.activeElement instanceof HTMLElement) document.activeElement.blur()
  try {
    const answer = deed
      ? await fetch(`${props.address}/do`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(deed),
        })
      : await fetch(`${props.address}/state`)
    if (!answer.ok) throw new Error(await answer.text())
    bench.value = (await answer.json()) as Bench
  } catch (error) {
    trouble.value = reason(error)
  }
}
// It has a page of its own, from which things may be put on too.
useIntervalFn(() => ask(null), 1_500, { immediateCallback: true })

const put = (name: string) => ask({ put: { name } })
const offered = () => bench.value?.goods.includes(props.wanted)
</script>

<template>
  <section class="card pan" aria-label="Simulated scale">
    <h2>Simulated scale</h2>
    <p v-if="trouble" class="caution" role="alert">{{ trouble }}</p>
    <div v-if="bench" class="deeds">
      <el-button v-if="offered()" size="small" @click="put(wanted)">Put {{ wanted }} on</el-button>
      <el-select
        v-model="chosen"
        size="small"
        filterable
        default-first-option
        placeholder="put something else on"
        aria-label="Put on the pan"
        @change="(name: string) => (put(name), (chosen = ''))"
      >
        <el-option v-for="name in bench.goods" :key="name" :value="name" :label="name" />
      </el-select>
      <el-button size="small" @click="ask('tare')">Zero</el-button>
      <el-button size="small" @click="ask({ plug: { on: !bench.plugged } })">{{
        bench.plugged ? 'Unplug' : 'Plug in'
      }}</el-button>
    </div>
    <ul v-if="bench?.pan.length" aria-label="On the pan">
      <li v-for="(name, at) in bench.pan" :key="at">
        <el-button size="small" :aria-label="`Take ${name} off`" @click="ask({ take: { name } })"
          >{{ name }} ×</el-button
        >
      </li>
      <li><el-button link type="primary" @click="ask('clear')">Clear the pan</el-button></li>
    </ul>
    <p v-else-if="bench" class="muted">The pan is empty.</p>
  </section>
</template>

<style scoped>
.deeds,
ul {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2);
  list-style: none;
  margin: 0 0 var(--s-2);
  padding: 0;
}
.deeds :deep(.el-button) {
  margin: 0;
}
.deeds :deep(.el-select) {
  width: 180px;
}
</style>
