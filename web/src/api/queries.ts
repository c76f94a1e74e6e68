import { queryOptions, useMutation, useQueryClient } from '@tanstack/vue-query'
import { api, Problem, take, type Account, type Changed, type Gear } from './client'

/** Keys: everything of an account's stands under `mine`, so that one change refreshes all that it may touch. */
export const keys = {
  account: ['account'] as const,
  vocabulary: ['vocabulary'] as const,
  mine: ['mine'] as const,
  gear: ['mine', 'gear'] as const,
  weigh: (list: string) => ['mine', 'weigh', list] as const,
  kits: ['mine', 'kits'] as const,
  changes: (gear: string) => ['mine', 'changes', gear] as const,
  weighings: (gear: string) => ['mine', 'weighings', gear] as const,
  lists: ['mine', 'lists'] as const,
  list: (id: string) => ['mine', 'list', id] as const,
  plan: (id: string) => ['mine', 'plan', id] as const,
}

/** Who is signed in; null if nobody is. */
export const accountQuery = queryOptions({
  queryKey: keys.account,
  queryFn: async (): Promise<Account | null> => {
    try {
      return await take(api.GET('/api/account'))
    } catch (error) {
      if (error instanceof Problem && error.status === 401) return null
      throw error
    }
  },
  staleTime: Infinity,
})

export const vocabularyQuery = queryOptions({
  queryKey: keys.vocabulary,
  queryFn: () => take(api.GET('/api/vocabulary')),
  staleTime: Infinity,
})

const PAGE = 5000

/** The beginning of today on the walker's clock. */
const startOfDay = () => new Date(new Date().setHours(0, 0, 0, 0)).toISOString()

/** What the Weigh step shows for a list; for all gear at hand if none is named. */
export const weighQuery = (list: string) =>
  queryOptions({
    queryKey: keys.weigh(list),
    queryFn: () =>
      take(api.GET('/api/weigh', { params: { query: { list: list || undefined, since: startOfDay() } } })),
  })

export const kitsQuery = queryOptions({ queryKey: keys.kits, queryFn: () => take(api.GET('/api/kits')) })

/** What was done, newest first; to one thing if one is named. */
export const changesQuery = (gear: string) =>
  queryOptions({
    queryKey: keys.changes(gear),
    queryFn: () =>
      gear
        ? take(api.GET('/api/gear/{id}/changes', { params: { path: { id: gear } } }))
        : take(api.GET('/api/changes', { params: { query: { limit: 200 } } })),
  })

export const weighingsQuery = (gear: string) =>
  queryOptions({
    queryKey: keys.weighings(gear),
    queryFn: () => take(api.GET('/api/gear/{id}/weighings', { params: { path: { id: gear } } })),
  })

/** All gear, page by page. Shallow: things are replaced, never changed, and following each field of thousands is slow. */
export const gearQuery = queryOptions({
  queryKey: keys.gear,
  shallow: true,
  queryFn: async () => {
    const items: Gear[] = []
    for (;;) {
      const page = await take(
        api.GET('/api/gear', { params: { query: { limit: PAGE, offset: items.length } } }),
      )
      items.push(...page.items)
      if (items.length >= page.total || page.items.length === 0) return items
    }
  },
})

export const listsQuery = queryOptions({ queryKey: keys.lists, queryFn: () => take(api.GET('/api/lists')) })

export const listQuery = (id: string) =>
  queryOptions({
    queryKey: keys.list(id),
    queryFn: () => take(api.GET('/api/lists/{id}', { params: { path: { id } } })),
  })

export const planQuery = (id: string) =>
  queryOptions({
    queryKey: keys.plan(id),
    queryFn: () => take(api.GET('/api/lists/{id}/plan', { params: { path: { id } } })),
  })

/** A change of the account's data: after it, all that is shown of the account is asked for again. */
export function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const queries = useQueryClient()
  return useMutation<Output, Problem, Input>({
    mutationFn: change,
    onSettled: () => queries.invalidateQueries({ queryKey: keys.mine }),
  })
}

/** Takes a change of the log back. */
export function useUndo() {
  const undo = useChange((change: string) =>
    take(api.POST('/api/changes/{id}/undo', { params: { path: { id: change } } })),
  )
  /** What undoes a change, for the message that reports it; nothing if nothing was changed. */
  return ({ change }: Pick<Changed<unknown>, 'change'>) =>
    change ? () => undo.mutateAsync(change) : undefined
}
