<script setup lang="ts">
// Prices that are followed in the shop: news first, each with its course and a key that takes it into the plan.
import { useQuery } from '@tanstack/vue-query'
import { computed, useTemplateRef } from 'vue'
import { api, unwrapChange, type PlanAnswer } from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { offersQuery, vocabularyQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import { draftOf, seenInShop, sentOf, type Sold } from '@/domain/swapDraft'
import { useUnits } from '@/domain/units'
import PricePlot from '@/marks/PricePlot.vue'
import { day, dayOfTrip } from '@/quantities/dates'
import { isUsedGone, offered, offerWords, waitWords, type Offered } from './offers'

const props = defineProps<{ answer: PlanAnswer }>()
const units = useUnits()
const { done, failed } = useMessages()
const cache = useCacheUpdates()
const undo = useUndo()
const isFollowing = computed(() =>
  props.answer.swaps.some((swap) => swap.add.some((one) => one.candidate.offer)),
)
const { data: vocabulary } = useQuery(vocabularyQuery)
const { data, isError } = useQuery(
  computed(() => ({ ...offersQuery(props.answer.list.id), enabled: isFollowing.value })),
)
const offers = computed(() => offered(props.answer, data.value ?? []))
const heading = useTemplateRef<HTMLElement>('heading')
/** Where there is no shop and nothing was ever seen there is nothing to say. */
const isShown = computed(
  () =>
    isFollowing.value &&
    (vocabulary.value?.shop || offers.value.some(({ followed }) => followed.seen.length > 0)),
)
const isNews = computed(() => offers.value.some((offer) => offer.comesIn !== null || isUsedGone(offer)))

const put = useChange(
  ({ swap, at, price, sold }: { swap: Offered['swap']; at: number; price: number; sold: Sold }) => {
    const now = cache.newestSwap(swap)
    const draft = draftOf(now, units.currency.value)
    Object.assign(draft.add[at]!, seenInShop(price, sold, units.currency.value))
    return unwrapChange(
      api.PUT('/api/swaps/{id}', {
        params: { path: { id: now.id }, query: { version: now.version } },
        body: sentOf(draft),
      }),
    )
  },
)
/** What it can be planned with: what a new one costs now, and a used one where that is less than planned. */
const pricesOf = ({
  followed,
  now,
  used,
  planned,
}: Offered): { sold: Sold; words: string; price: number }[] => {
  const sold = followed.seen.at(-1)?.was_minor ? 'sale' : 'new'
  return [
    ...(now !== null && now !== planned ? [{ sold, words: '', price: now } as const] : []),
    ...(used !== null && used < (planned ?? Infinity)
      ? [{ sold: 'used', words: 'used ', price: used } as const]
      : []),
  ]
}
/** Plans with what it costs now. */
async function take({ swap, at, name }: Offered, price: number, sold: Sold) {
  try {
    const written = await withLock(`swap ${swap.id}`, () => put.mutateAsync({ swap, at, price, sold }))
    done(`${name} is planned at ${units.moneyText(price)}.`, undo(written))
    // The button that was pressed may be gone with what it offered.
    heading.value?.focus()
  } catch (error) {
    failed(error)
  }
}
</script>

<template>
  <section v-if="isShown" class="card" :class="{ news: isNews }" aria-label="Followed in the shop">
    <h2 ref="heading" tabindex="-1">{{ isNews ? 'News from the shop' : 'Followed in the shop' }}</h2>
    <p v-if="isError" class="caution">
      The shop’s prices can’t be read now. The plan uses those that you typed.
    </p>
    <div class="rows">
      <div v-for="offer in offers" :key="offer.followed.candidate">
        <span
          >{{ offer.name
          }}<small :class="isUsedGone(offer) ? 'caution' : offer.comesIn !== null ? 'good' : 'muted'">{{
            offerWords(offer, units.moneyText, day)
          }}</small>
          <small v-if="waitWords(offer, units.moneyText, dayOfTrip)" class="muted">{{
            waitWords(offer, units.moneyText, dayOfTrip)
          }}</small>
          <el-button
            v-for="{ sold, words, price } in pricesOf(offer)"
            :key="sold"
            size="small"
            :aria-label="`Plan ${offer.name} with ${words}${units.moneyText(price)}`"
            @click="take(offer, price, sold)"
            >Plan with {{ words }}{{ units.moneyText(price) }}</el-button
          >
        </span>
        <span class="n">
          <b v-if="offer.now !== null" class="price">{{ units.moneyText(offer.now) }}</b>
          <PricePlot v-if="offer.followed.seen.length" :seen="offer.followed.seen" />
        </span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.news {
  border-left: 4px solid var(--spruce);
}
small {
  display: block;
  font-size: var(--text-s);
}
.rows .el-button {
  margin: var(--s-1) var(--s-2) 0 0;
}
.good {
  color: var(--spruce);
  font-weight: 650;
}
.n {
  display: grid;
  justify-items: end;
}
.price {
  color: var(--cloudberry);
}
</style>
