import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, take, type AccountChange, type AccountSettings } from '@/api/client'
import { accountQuery, keys } from '@/api/queries'
import { inTurn } from '@/api/turn'

/** What the account has settled once for all, and how to settle it otherwise. */
export function useSettings() {
  const queries = useQueryClient()
  const { data: account } = useQuery(accountQuery)
  const change = (some: () => Partial<AccountChange>) =>
    inTurn('account', async () => {
      const { mass, currency, version } = account.value!
      await take(api.PATCH('/api/account', { body: { mass, currency, version, ...some() } }))
      await queries.invalidateQueries({ queryKey: keys.account })
      await queries.invalidateQueries({ queryKey: keys.mine })
    })
  return {
    settings: computed(() => account.value?.settings),
    /** Changes some of them; throws what the server refuses. */
    set: (some: Partial<AccountSettings>) =>
      change(() => ({ settings: { ...account.value!.settings, ...some } })),
    /** As [`set`], of those that are typed and read by the server. */
    typed: (some: Pick<AccountChange, 'body' | 'classes' | 'year_budget'>) => change(() => some),
  }
}
