<script setup lang="ts">
// What Kevyt proposes of its own, each with its reason: taken up as a swap with one key, or silenced for good.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, unwrapChange, type Proposed } from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { proposalsQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import { proposalWhy, proposed } from '@/domain/reasons'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'

const props = defineProps<{ list: string }>()
const units = useUnits()
const { done, failed } = useMessages()
const undo = useUndo()
const { data } = useQuery(computed(() => ({ ...proposalsQuery(props.list), enabled: props.list !== '' })))
const all = computed(() => data.value ?? [])

const body = (one: Proposed) => ({ params: { path: { id: props.list } }, body: { key: one.key } })
const takeUp = useChange((one: Proposed) =>
  unwrapChange(api.POST('/api/lists/{id}/proposals/take', body(one))),
)
const silence = useChange((one: Proposed) =>
  unwrapChange(api.POST('/api/lists/{id}/proposals/silence', body(one))),
)
async function act(one: Proposed, what: 'take' | 'silence') {
  try {
    const { change } = await withLock<{ change: string | null }>(`proposals ${props.list}`, () =>
      what === 'take' ? takeUp.mutateAsync(one) : silence.mutateAsync(one),
    )
    done(
      what === 'take'
        ? `${proposed(one)} is a swap now.`
        : `${proposed(one)} is not proposed again on this list.`,
      undo({ change }),
    )
  } catch (error) {
    failed(error)
  }
}
defineExpose({ takeFirst: () => all.value[0] && act(all.value[0], 'take') })
</script>

<template>
  <section v-if="all.length" class="card" aria-label="Proposals">
    <h2>Kevyt proposes <kbd>a</kbd></h2>
    <ul class="rows">
      <li v-for="one in all" :key="one.key">
        <span
          ><b>{{ proposed(one) }}</b
          ><small class="muted">{{ proposalWhy(one.why) }}</small></span
        >
        <span class="right">
          <Figure v-bind="units.table(one.saving_mg)" size="text" />
          <span class="acts">
            <el-button size="small" :aria-label="`Make a swap: ${proposed(one)}`" @click="act(one, 'take')"
              >Make a swap</el-button
            >
            <el-button
              link
              size="small"
              :aria-label="`Dismiss: ${proposed(one)}`"
              @click="act(one, 'silence')"
              >Dismiss</el-button
            >
          </span>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
small {
  display: block;
  font-size: var(--text-s);
}
.right {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  gap: var(--s-1);
}
.acts {
  display: flex;
  gap: var(--s-1);
}
</style>
