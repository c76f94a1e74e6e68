import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { accountQuery, keys } from '@/api/queries'
import { inTurn } from '@/api/turn'

/** Where weights come from that are merely typed: said once, changed at any time. */
export function useTypedWeights() {
  const queries = useQueryClient()
  const { data: account } = useQuery(accountQuery)
  const chosen = computed(() => account.value?.settings.typed_weights ?? null)
  const source = computed(() => chosen.value ?? 'maker')

  const set = (typed_weights: 'maker' | 'weighed') =>
    inTurn('account', async () => {
      const { mass, currency, version } = account.value!
      await take(
        api.PATCH('/api/account', { body: { mass, currency, version, settings: { typed_weights } } }),
      )
      await queries.invalidateQueries({ queryKey: keys.account })
    })

  return {
    /** What counts for a weight that does not say it. */
    source,
    /** Whether the walker has said so. */
    asked: computed(() => chosen.value !== null),
    set,
    /** The other one, from now on. */
    turn: () => set(source.value === 'maker' ? 'weighed' : 'maker'),
  }
}
