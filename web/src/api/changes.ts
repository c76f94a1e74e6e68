import { useMutation, useQueryClient, type QueryClient, type QueryKey } from '@tanstack/vue-query'
import {
  api,
  unwrapChange,
  type Changed,
  type FullList,
  type Gear,
  type ListLine,
  type Mark,
  type PackList,
  type PlanAnswer,
  type Problem,
  type Sheet,
  type Swap,
  type TripLine,
  type TripSaid,
  type TripThing,
  type WalkedTrip,
} from './client'
import { offlineSince } from './network'
import { keys } from './queries'

/** What is shown of the account, brought up to date from the answer to a change before the rest is asked for again. */
export class CacheUpdates {
  constructor(private readonly queries: QueryClient) {}

  private set<T>(key: QueryKey, next: (shown: T) => T) {
    this.queries.setQueriesData<T>({ queryKey: key }, (shown) => (shown === undefined ? shown : next(shown)))
  }

  /** A thing as it is now, in the inventory and on every list. */
  thing(thing: Gear) {
    this.set<Gear[]>(keys.gear, (gear) => replaced(gear, thing))
    this.set<FullList>(['mine', 'list'], (list) => ({
      ...list,
      lines: list.lines.map((line) => (line.gear.id === thing.id ? { ...line, gear: thing } : line)),
    }))
  }

  /** The versions that things have now: what else of them has changed is read anew. */
  versions(things: { id: string; version: number }[]) {
    const of = new Map(things.map(({ id, version }) => [id, version]))
    this.set<Gear[]>(keys.gear, (gear) =>
      gear.map((thing) => ({ ...thing, version: of.get(thing.id) ?? thing.version })),
    )
  }

  thingGone(id: string) {
    this.set<Gear[]>(keys.gear, (gear) => gear.filter((thing) => thing.id !== id))
    this.set<FullList>(['mine', 'list'], (list) => ({
      ...list,
      lines: list.lines.filter((line) => line.gear.id !== id),
    }))
  }

  /** A list as it is now: its name, its question. */
  list(list: PackList) {
    this.set<PackList[]>(keys.lists, (lists) => replaced(lists, list))
    this.set<FullList>(keys.list(list.id), (full) => ({ ...full, list }))
    this.set<Sheet>(keys.sheet(list.id), (sheet) => ({ ...sheet, list }))
  }

  listGone(id: string) {
    this.set<PackList[]>(keys.lists, (lists) => lists.filter((list) => list.id !== id))
  }

  line(list: string, line: ListLine) {
    this.set<FullList>(keys.list(list), (full) => ({ ...full, lines: replaced(full.lines, line) }))
    const { id, version, carried, worn, used_up, apart, left } = line
    this.set<Sheet>(keys.sheet(list), (sheet) => ({
      ...sheet,
      lines: sheet.lines.map((one) =>
        one.id === id ? { ...one, version, carried, worn, used_up, apart, left } : one,
      ),
    }))
  }

  lineGone(list: string, id: string) {
    this.set<FullList>(keys.list(list), (full) => ({
      ...full,
      lines: full.lines.filter((line) => line.id !== id),
    }))
    this.set<Sheet>(keys.sheet(list), (sheet) => ({
      ...sheet,
      lines: sheet.lines.filter((line) => line.id !== id),
    }))
  }

  /** A swap as it is now; one that is new stands in the ranking once it has been ranked. */
  swap(swap: Swap) {
    this.set<PlanAnswer>(keys.plan(swap.list), (answer) => ({
      ...answer,
      swaps: answer.swaps.map((other) => (other.id === swap.id ? swap : other)),
      unavailable: answer.unavailable.map((other) => (other.id === swap.id ? swap : other)),
    }))
  }

  /** A trip as it is now. */
  trip(trip: TripLine) {
    this.set<WalkedTrip>(keys.trip(trip.id), (walked) => ({ ...walked, trip }))
  }

  tripThing(trip: string, thing: TripThing) {
    this.set<WalkedTrip>(keys.trip(trip), (walked) => ({ ...walked, things: replaced(walked.things, thing) }))
  }

  /** What is said of a thing of a trip, before the server has heard of it. */
  saidOf(trip: string, id: string, said: TripSaid) {
    const { marks, ...rest } = said
    const marked = (known: Mark[]) => {
      const all = new Set(known)
      for (const [mark, is] of Object.entries(marks ?? {}) as [Mark, boolean][]) {
        if (is) all.add(mark)
        else all.delete(mark)
      }
      return [...all]
    }
    this.set<WalkedTrip>(keys.trip(trip), (walked) => ({
      ...walked,
      things: walked.things.map((one) =>
        one.id === id ? { ...one, ...rest, marks: marked(one.marks) } : one,
      ),
    }))
  }

  newestTrip(id: string): TripLine | undefined {
    return this.queries.getQueryData<WalkedTrip>(keys.trip(id))?.trip
  }

  /** The newest that is known of a thing, by its id. */
  newest(thing: Gear): Gear {
    const gear = this.queries.getQueryData<Gear[]>(keys.gear)
    return gear?.find((other) => other.id === thing.id) ?? thing
  }

  /** The newest versions that are known of things. */
  newestOf(things: Gear[]): { id: string; version: number }[] {
    const gear = this.queries.getQueryData<Gear[]>(keys.gear) ?? []
    const known = new Map(gear.map(({ id, version }) => [id, version]))
    return things.map(({ id, version }) => ({ id, version: known.get(id) ?? version }))
  }

  /** The newest that is known of a list; answers that hold it come in any order. */
  newestList(id: string): PackList | undefined {
    const known = [
      this.queries.getQueryData<PackList[]>(keys.lists)?.find((list) => list.id === id),
      this.queries.getQueryData<FullList>(keys.list(id))?.list,
      this.queries.getQueryData<Sheet>(keys.sheet(id))?.list,
      this.queries.getQueryData<PlanAnswer>(keys.plan(id))?.list,
    ]
    return known.reduce((newest, list) => (list && list.version > (newest?.version ?? -1) ? list : newest))
  }

  newestLine(list: string, line: ListLine): ListLine {
    const full = this.queries.getQueryData<FullList>(keys.list(list))
    return full?.lines.find((other) => other.id === line.id) ?? line
  }

  newestSwap(swap: Swap): Swap {
    const answer = this.queries.getQueryData<PlanAnswer>(keys.plan(swap.list))
    return answer?.swaps.find((other) => other.id === swap.id) ?? swap
  }
}

/** With the newer one in the place of the one that has its id; at the end if there is none. */
function replaced<T extends { id: string }>(all: T[], one: T): T[] {
  return all.some((other) => other.id === one.id)
    ? all.map((other) => (other.id === one.id ? one : other))
    : [...all, one]
}

export const useCacheUpdates = () => new CacheUpdates(useQueryClient())

/**
 * A change of the account's data. Its answer is shown at once, by `show`; all else that is shown of the account is asked for again behind
 * it, and nobody waits for that.
 */
export function useChange<Input, Output>(
  change: (input: Input) => Promise<Output>,
  show?: (cache: CacheUpdates, output: Output, input: Input) => void,
) {
  const queries = useQueryClient()
  const cache = new CacheUpdates(queries)
  return useMutation<Output, Problem, Input>({
    mutationFn: change,
    // What was asked for before the change must not be shown after it.
    onMutate: () => queries.cancelQueries({ queryKey: keys.mine }),
    onSuccess: (output, input) => show?.(cache, output, input),
    // Without network there is nothing newer to be had.
    onSettled: () => offlineSince.value || void queries.invalidateQueries({ queryKey: keys.mine }),
  })
}

/** Takes a change of the log back. */
export function useUndo() {
  const queries = useQueryClient()
  const undo = useChange(
    (change: string) =>
      unwrapChange(api.POST('/api/changes/{id}/undo', { params: { path: { id: change } } })),
    // It may have been settings.
    () => void queries.invalidateQueries({ queryKey: keys.account }),
  )
  type Undo = () => Promise<Undo | undefined>
  /** What undoes a change, for the message that reports it, and gives what does it again; nothing if nothing was changed. */
  const undoOf = ({ change }: Pick<Changed<unknown>, 'change'>): Undo | undefined =>
    change ? async () => undoOf(await undo.mutateAsync(change)) : undefined
  return undoOf
}
