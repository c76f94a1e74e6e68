<script setup lang="ts">
// Weighing by taking away, as far as it has come: the pieces, what is left, the unexplained difference.
import { ref } from 'vue'
import { useUnits } from '@/domain/units'
import { counted } from '@/quantities/count'

defineProps<{
  started: boolean
  pieces: number[]
  things: { name: string; count: number }[]
  leftOver: number | null
  /** Whether more than a step is left, so that saving has to say that it stays there. */
  leftOn: boolean
  container: number
  refusal: string
}>()
const emit = defineEmits<{ back: []; save: [leave: boolean]; stop: []; container: [typed: string] }>()
const units = useUnits()
const typed = ref('')
</script>

<template>
  <section class="card" aria-label="Take away">
    <h2>Take away one by one</h2>
    <template v-if="!started">
      <p>
        Put everything on the scale<template v-if="container">
          in its container ({{ units.tableText(container) }})</template
        >
        and take the reading. Then take things off one at a time, and take the reading after each.
      </p>
      <form class="container" @submit.prevent="emit('container', typed)">
        <el-input
          v-model="typed"
          size="small"
          placeholder="container, such as 44 g"
          aria-label="Weight of the container"
          inputmode="decimal"
        />
        <el-button size="small" native-type="submit">Subtract container</el-button>
      </form>
    </template>
    <template v-else>
      <p v-if="things.length === 0">
        Now mark what you take off in the queue, take it off, and take the reading.
      </p>
      <ul v-else class="rows">
        <li v-for="(thing, at) in things" :key="at">
          <span
            >{{ thing.name }}<template v-if="thing.count > 1"> × {{ thing.count }}</template></span
          >
          <b>{{ units.tableText(pieces[at] ?? 0) }}</b>
        </li>
        <li>
          <span class="muted">left on the scale; once all is off, the unexplained difference</span>
          <b :class="{ caution: leftOver }">{{ units.tableText(leftOver ?? 0) }}</b>
        </li>
      </ul>
    </template>
    <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
    <div class="deeds">
      <el-button v-if="leftOn && things.length" @click="emit('save', true)"
        >Save {{ things.length }}; {{ units.tableText(leftOver ?? 0) }} stays there</el-button
      >
      <el-button v-else type="primary" :disabled="things.length === 0" @click="emit('save', false)"
        >Save {{ counted(things.length, 'weighing') }} <kbd>s</kbd></el-button
      >
      <el-button :disabled="!started" @click="emit('back')">Put the last back <kbd>u</kbd></el-button>
      <el-button @click="emit('stop')">Stop</el-button>
    </div>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.deeds,
.container {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2);
  margin-top: var(--s-3);
}
.container :deep(.el-input) {
  width: 190px;
}
.deeds :deep(.el-button) {
  margin: 0;
}
.deeds :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: var(--s-1);
}
</style>
