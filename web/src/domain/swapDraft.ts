import type { Job, JobAmounts, ListLine, Place, Source, Swap, SwapDraft, SwapKind } from '@/api/client'
import { typedFacts, type TypedFacts } from '@/domain/facts'
import type { SOLD } from '@/domain/words'
import { isoDay } from '@/quantities/dates'
import { typedAmount, type Currency } from '@/quantities/money'

/** Where and when a price was seen, as it is typed; an empty day is none. */
export interface SeenDraft {
  place: string
  on: string
  sold: Sold
}
export type Sold = keyof typeof SOLD

/** An entry of the adding side as it is typed. */
export interface AdditionDraft {
  /** The id of a candidate that is there already. */
  candidate: string | null
  name: string
  weight: string
  source: Source
  price: string
  seen: SeenDraft
  /** What a shop knows it by, if its price is followed there. */
  offer: string | null
  qty: number
  place: Place
  provides: JobAmounts
  needs: JobAmounts
  facts: TypedFacts
  /** The key of its kind; empty while nobody has said. */
  kind: string
  /** Jobs whose amounts come from the kind and nobody has confirmed. */
  assumed: string[]
  marks: string[]
}

/** A swap as it is typed. */
export interface Draft {
  /** A new one in one line, as far as it was typed. */
  line: string
  name: string
  kind: SwapKind
  state: Swap['state']
  remove: { line: string; qty: number; from: Place }[]
  add: AdditionDraft[]
  delivery: string
  resale: string
  sells_needed: boolean
  hours: string
  requires: string[]
  excludes: string[]
  /** The versions at which its candidates were read. */
  versions: Record<string, number>
}

export const blankAddition = (): AdditionDraft => ({
  candidate: null,
  name: '',
  weight: '',
  source: 'maker',
  price: '',
  seen: { place: '', on: '', sold: 'new' },
  offer: null,
  qty: 1,
  place: 'carried',
  provides: {},
  needs: {},
  facts: typedFacts(null),
  kind: '',
  assumed: [],
  marks: [],
})

const blank = (): Draft => ({
  line: '',
  name: '',
  kind: 'replace',
  state: 'open',
  remove: [],
  add: [blankAddition()],
  delivery: '',
  resale: '',
  sells_needed: false,
  hours: '',
  requires: [],
  excludes: [],
  versions: {},
})

const orEmpty = (minor: number, currency: Currency) => (minor === 0 ? '' : typedAmount(minor, currency))

function priceOf(low: number | null | undefined, high: number | null | undefined, currency: Currency) {
  if (low == null || high == null) return ''
  const [from, to] = [typedAmount(low, currency), typedAmount(high, currency)]
  return from === to ? from : `${from}-${to}`
}

/** A swap as its fields are typed; a new one if there is none. */
export function draftOf(swap: Swap | null, currency: Currency): Draft {
  if (!swap) return blank()
  return {
    line: '',
    name: swap.name,
    kind: swap.kind,
    state: swap.state,
    remove: swap.remove.map(({ line, qty, from }) => ({ line, qty, from: from ?? 'carried' })),
    add: swap.add.map(({ candidate, qty, place }) => ({
      candidate: candidate.id,
      name: candidate.name,
      weight: candidate.weight?.typed ?? '',
      source: candidate.weight?.source ?? 'maker',
      price: priceOf(candidate.price_low_minor, candidate.price_high_minor, currency),
      seen: {
        place: candidate.seen?.place ?? '',
        on: candidate.seen?.on ?? '',
        sold: (candidate.seen?.sold ?? 'new') as Sold,
      },
      offer: candidate.offer ?? null,
      qty,
      place,
      provides: { ...candidate.provides },
      needs: { ...candidate.needs },
      facts: typedFacts(candidate.facts),
      kind: candidate.kind ?? '',
      assumed: [...(candidate.assumed ?? [])],
      marks: [...(candidate.marks ?? [])],
    })),
    delivery: orEmpty(swap.delivery_minor, currency),
    resale: orEmpty(swap.resale_minor, currency),
    sells_needed: swap.sells_needed,
    hours: swap.tenth_hours === 0 ? '' : String(swap.tenth_hours / 10),
    requires: [...swap.requires],
    excludes: [...swap.excludes],
    versions: Object.fromEntries(swap.add.map(({ candidate }) => [candidate.id, candidate.version])),
  }
}

/** A draft with what a line was read as; what the line doesn't say stays as it was typed. */
export const withLine = (typed: Draft, read: SwapDraft): Draft => ({
  ...typed,
  name: read.name ?? '',
  kind: read.kind,
  remove: (read.remove ?? []).map(({ line, qty, from }) => ({ line, qty, from: from ?? 'carried' })),
  add: (read.add ?? []).map((addition, at) => ({
    ...(typed.add[at] ?? blankAddition()),
    name: addition.name,
    weight: addition.weight ?? '',
    source: addition.source ?? 'maker',
    price: addition.price ?? '',
    qty: addition.qty,
    place: addition.place ?? 'carried',
    provides: { ...addition.provides },
    needs: { ...addition.needs },
    facts: addition.facts ? ({ ...typedFacts(null), ...addition.facts } as TypedFacts) : typedFacts(null),
    kind: addition.kind ?? '',
    assumed: [...(addition.assumed ?? [])],
    marks: [...(addition.marks ?? [])],
  })),
  hours: read.hours || typed.hours,
})

/** A price that was seen in the shop today. */
export const seenInShop = (
  price: number,
  sold: Sold,
  currency: Currency,
): Pick<AdditionDraft, 'price' | 'seen'> => ({
  price: typedAmount(price, currency),
  seen: { place: 'the shop', on: isoDay(), sold },
})

/** Safety jobs, by name, that what comes off does and nothing that goes on does. */
export function lostJobs(draft: Draft, lines: ListLine[], known: Job[]): string[] {
  const { remove = [], add = [] } = sentOf(draft)
  const does = (job: string, provides: JobAmounts | undefined) => (provides?.[job] ?? 0) > 0
  const gone = remove.map(({ line }) => lines.find(({ id }) => id === line)?.gear.provides)
  const isLost = ({ key, safety }: Job) =>
    safety && gone.some((one) => does(key, one)) && !add.some((one) => does(key, one.provides))
  return known.filter(isLost).map(({ name }) => name)
}

/** A draft as it is sent. */
export function sentOf({ line, versions, ...draft }: Draft): SwapDraft {
  void line
  return {
    ...draft,
    name: draft.name.trim() || null,
    remove: draft.kind === 'add' ? [] : draft.remove,
    // What is left out has nothing in its place, whatever was typed before it was.
    add: (draft.kind === 'leave_out' ? [] : draft.add).map((addition) => ({
      ...addition,
      kind: addition.kind || null,
      // An amount that was changed is the walker's own.
      assumed: addition.assumed,
      seen: { ...addition.seen, on: addition.seen.on || null },
      candidate: addition.candidate
        ? { id: addition.candidate, version: versions[addition.candidate] ?? 0 }
        : null,
    })),
  }
}
