import { reactive } from 'vue'
import type { JobAmounts, Place, Source, Swap, SwapKind } from '@/api/client'
import { typedAmount, type Currency } from '@/quantities/money'

/** An entry of the adding side as it is typed. */
export interface AdditionDraft {
  candidate: { id: string; version: number } | null
  name: string
  weight: string
  source: Source
  price: string
  qty: number
  place: Place
  provides: JobAmounts
  needs: JobAmounts
}

/** A swap as it is typed. */
export interface Draft {
  name: string
  kind: SwapKind
  state: Swap['state']
  remove: { line: string; qty: number; from: Place }[]
  add: AdditionDraft[]
  delivery: string
  resale: string
  hours: string
  requires: string[]
  excludes: string[]
}

export const blankAddition = (): AdditionDraft => ({
  candidate: null,
  name: '',
  weight: '',
  source: 'maker',
  price: '',
  qty: 1,
  place: 'carried',
  provides: {},
  needs: {},
})

const blank = (): Draft => ({
  name: '',
  kind: 'replace',
  state: 'open',
  remove: [],
  add: [blankAddition()],
  delivery: '',
  resale: '',
  hours: '',
  requires: [],
  excludes: [],
})

const orEmpty = (minor: number, currency: Currency) => (minor === 0 ? '' : typedAmount(minor, currency))

function priceOf(low: number | null | undefined, high: number | null | undefined, currency: Currency) {
  if (low == null || high == null) return ''
  const [from, to] = [typedAmount(low, currency), typedAmount(high, currency)]
  return from === to ? from : `${from}-${to}`
}

/** A swap as its fields are typed; a new one if there is none. */
export function draftOf(swap: Swap | null, currency: Currency): Draft {
  if (!swap) return reactive(blank())
  return reactive({
    name: swap.name,
    kind: swap.kind,
    state: swap.state,
    remove: swap.remove.map(({ line, qty, from }) => ({ line, qty, from: from ?? 'carried' })),
    add: swap.add.map(({ candidate, qty, place }) => ({
      candidate: { id: candidate.id, version: candidate.version },
      name: candidate.name,
      weight: candidate.weight?.typed ?? '',
      source: candidate.weight?.source ?? 'maker',
      price: priceOf(candidate.price_low_minor, candidate.price_high_minor, currency),
      qty,
      place,
      provides: { ...candidate.provides },
      needs: { ...candidate.needs },
    })),
    delivery: orEmpty(swap.delivery_minor, currency),
    resale: orEmpty(swap.resale_minor, currency),
    hours: swap.tenth_hours === 0 ? '' : String(swap.tenth_hours / 10),
    requires: [...swap.requires],
    excludes: [...swap.excludes],
  })
}
