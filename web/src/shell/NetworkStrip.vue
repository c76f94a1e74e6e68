<script setup lang="ts">
// Without network: since when what is shown stands, and what waits to be sent. What the server did not take is asked about here.
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { keys } from '@/api/queries'
import { offlineSince, lastOnline } from '@/api/network'
import { drop, insist, isToSend, waiting, type Waiting } from '@/api/outbox'
import { counted } from '@/quantities/count'
import { momentOf } from '@/quantities/dates'

const queries = useQueryClient()
const asOf = computed(() => (offlineSince.value ? momentOf(lastOnline()) : ''))
const refused = computed(() => waiting.value.filter((one) => !isToSend(one)))
const toSend = computed(() => waiting.value.filter(isToSend))
const showsAll = ref(false)
const isClash = ({ versionNow }: Waiting) => versionNow !== undefined
const again = async (one: Waiting) => {
  await insist(one)
  await queries.invalidateQueries({ queryKey: keys.mine })
}
</script>

<template>
  <section v-if="offlineSince || waiting.length" class="strip" aria-label="Network">
    <p role="status">
      <template v-if="offlineSince"><b>No network.</b> What you see is as of {{ asOf }}. </template>
      <template v-if="toSend.length"
        >{{
          toSend.length === 1
            ? '1 change waits on this device'
            : `${counted(toSend.length, 'change')} wait on this device`
        }}{{ offlineSince ? ' until it is back' : '' }}.
        <el-button link type="primary" :aria-expanded="showsAll" @click="showsAll = !showsAll">{{
          showsAll ? 'Hide' : 'Show'
        }}</el-button></template
      >
      <template v-else-if="offlineSince"
        >Ticks on Pack, moves on a list, weighings and new gear are kept until it is back.</template
      >
    </p>
    <ul v-if="showsAll && toSend.length" class="rows">
      <li v-for="one in toSend" :key="one.key">
        <span>{{ one.what }}</span>
        <el-button link :aria-label="`Drop: ${one.what}`" @click="drop(one)">Drop</el-button>
      </li>
    </ul>
    <ul v-if="refused.length" class="rows" role="alert">
      <li v-for="one in refused" :key="one.key">
        <span
          ><b>{{ one.what }}</b>
          <small>{{
            isClash(one) ? 'It was changed elsewhere meanwhile, so this was not done.' : one.why
          }}</small></span
        >
        <span class="acts">
          <el-button link type="primary" @click="again(one)">{{
            isClash(one) ? 'Do it all the same' : 'Try again'
          }}</el-button>
          <el-button link @click="drop(one)">Drop it</el-button>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.strip {
  margin: 0 0 var(--s-3);
  padding: var(--s-2) var(--s-3);
  border-left: 4px solid var(--cloudberry);
  background: var(--sheet);
  font-size: var(--text);
}
.strip p {
  margin: 0;
}
small {
  display: block;
}
.acts {
  white-space: nowrap;
}
</style>
