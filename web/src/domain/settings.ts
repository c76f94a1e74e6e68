import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, unwrapChange, type AccountChange, type AccountSettings } from '@/api/client'
import { useUndo } from '@/api/changes'
import { accountQuery, keys } from '@/api/queries'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'

/** The settings of the account, and how to change them; each change is reported and can be undone. */
export function useSettings() {
  const queries = useQueryClient()
  const { data: account } = useQuery(accountQuery)
  const { done } = useMessages()
  const undoOf = useUndo()
  const change = (report: string, some: () => Partial<AccountChange>) =>
    withLock('account', async () => {
      const { mass, currency, version } = account.value!
      const body = { mass, currency, version, ...some() }
      try {
        const changed = await unwrapChange(api.PATCH('/api/account', { body }))
        await queries.invalidateQueries({ queryKey: keys.mine })
        done(report, undoOf(changed))
      } finally {
        // Refused because another tab was quicker, the next try is over what stands now.
        await queries.invalidateQueries({ queryKey: keys.account })
      }
    })
  return {
    settings: computed(() => account.value?.settings),
    /** Changes some of them; throws what the server refuses. */
    set: (some: Partial<AccountSettings>, report = 'Settings changed.') =>
      change(report, () => ({ settings: { ...account.value!.settings, ...some } })),
    /** As [`set`], of those that are typed and read by the server. */
    typed: (some: Pick<AccountChange, 'body' | 'classes' | 'year_budget'>, report = 'Settings changed.') =>
      change(report, () => some),
    /** Changes what weights and money are shown in. */
    setUnits: (units: Pick<AccountChange, 'mass' | 'currency'>) => change('Units changed.', () => units),
  }
}
