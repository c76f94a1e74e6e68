<script setup lang="ts">
// Who walks, who carries what, what each would lack alone; the even split is one key away. And who may look at the list.
import { computed, ref } from 'vue'
import { vGrid } from '@/controls/grid'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { reason } from '@/controls/messages'
import LinksCard from './LinksCard.vue'
import ListPages from './ListPages.vue'
import { useSheet } from './sheet'
import { useTogether } from './together'
import WalkerCard from './WalkerCard.vue'
import { listed } from '@/quantities/count'

const props = defineProps<{ list: string }>()
const list = useSheet(() => props.list)
const { sheet, error, refetch } = list
const together = useTogether(list)
const { walkers, uneven } = together
const isOwner = computed(() => sheet.value?.role === 'owner')

/** Who would get what. */
const splitWords = computed(() =>
  walkers.value
    .map(({ name }, at) => ({
      name,
      things: uneven.value.filter(({ to }) => to === at).map(({ line }) => line.name),
    }))
    .filter(({ things }) => things.length > 0)
    .map(({ name, things }) => `gives ${name} ${listed(things)}`)
    .join('; '),
)
useKeys('Together', [
  {
    key: 'e',
    does: 'split evenly',
    run: () => {
      if (uneven.value.length) void together.splitEvenly()
    },
  },
  { key: '← → s', does: 'give the thing to who walks beside; say whether it is shared', run: () => {} },
])

const name = ref('')
const nameError = ref('')
/** A name is sent once, however often Enter is pressed; one that is refused stands there again. */
async function invite() {
  const typed = name.value
  if (typed.trim() === '') return
  name.value = ''
  nameError.value = ''
  try {
    await together.add(typed)
  } catch (error) {
    name.value ||= typed
    nameError.value = reason(error)
  }
}
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">Who carries what</h1>
      <p v-if="walkers.length">{{ listed(walkers.map((walker) => walker.name)) }}</p>
      <ListPages v-if="props.list" :list="props.list" />
    </div>
    <p v-if="props.list === ''" class="muted">Make a list first, at the top left.</p>
    <Loaded v-else what="The list" :known="sheet !== undefined" :error="error" :rows="10" @retry="refetch">
      <template v-if="sheet">
        <p v-if="walkers.length" class="split screen-only">
          <template v-if="uneven.length">
            <el-button type="primary" size="small" @click="together.splitEvenly"
              >Split evenly <kbd>e</kbd></el-button
            >
            {{ splitWords }}
          </template>
          <template v-else-if="sheet.split?.moves.length"
            >Shared things are split as evenly as they go{{
              sheet.split.proved ? '' : ', as far as was searched'
            }}.</template
          >
          <template v-else
            >Nothing is shared yet: mark what serves you all with <kbd>s</kbd>, or by its button.</template
          >
        </p>
        <div v-grid class="walkers" data-grid :style="{ '--many': walkers.length }">
          <WalkerCard
            v-for="(walker, at) in walkers"
            :key="walker.id"
            :sheet="sheet"
            :at="at"
            :together="together"
          />
        </div>
        <section v-if="isOwner" class="card invite screen-only">
          <template v-if="!walkers.length">
            <h2>You walk alone on this list</h2>
            <p>
              Name who comes along, or send them a link. Then say what is shared: each one’s load stands
              beside the others’, and the most even split is calculated.
            </p>
          </template>
          <form @submit.prevent="invite">
            <el-form-item label="Who comes along" :error="nameError">
              <el-input
                v-model="name"
                size="small"
                name="walker"
                placeholder="A name, then Enter"
                maxlength="60"
              />
            </el-form-item>
          </form>
        </section>
        <LinksCard v-if="isOwner" class="screen-only" :sheet="sheet" :together="together" />
        <p v-else class="muted">
          {{ sheet.owner }}’s list. Your own gear on it is yours to change.
          <el-button link size="small" @click="refetch()">Look again</el-button>
        </p>
      </template>
    </Loaded>
  </div>
</template>

<style scoped>
.walkers {
  display: grid;
  grid-template-columns: repeat(var(--many), minmax(0, 1fr));
  gap: var(--s-4);
}
kbd {
  color: inherit;
  border-color: currentColor;
  margin-left: var(--s-1);
}
.split {
  margin: 0 0 var(--s-3);
}
.invite {
  max-width: 560px;
  margin: var(--s-3h) 0;
}
.invite form {
  max-width: 320px;
  margin-top: var(--s-3);
}
@media (max-width: 700px) {
  .walkers {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
