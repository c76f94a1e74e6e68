import type { After, Place, Sheet, SheetLine } from '@/api/client'

/** The places of the equation, in its order, with what they are called and the key that moves there. */
export const PLACES: { place: Place; name: string; key: string; short: string }[] = [
  { place: 'carried', name: 'On my back', key: 'c', short: 'back' },
  { place: 'used_up', name: 'Used up', key: 'u', short: 'used' },
  { place: 'worn', name: 'On me', key: 'm', short: 'me' },
  { place: 'apart', name: 'Apart', key: 'a', short: 'apart' },
  { place: 'left', name: 'Stays home', key: 'x', short: 'home' },
]
export const nameOf = (place: Place) => PLACES.find((one) => one.place === place)!.name

/** Pieces of one line in one place. */
export interface Block {
  /** Of the line and the place. */
  key: string
  line: SheetLine
  place: Place
  pieces: number
  /** All of them; null where nobody knows. */
  mg: number | null
}

export const ORDERS = ['heaviest', 'system'] as const
export type Order = (typeof ORDERS)[number]

/** What stands in a place: heaviest first, unknown ones at the end; or in the order of the list, which is by system. */
export function blocks(lines: SheetLine[], place: Place, order: Order): Block[] {
  const all = lines
    .filter((line) => line[place] > 0)
    .map((line) => ({
      key: `${line.id} ${place}`,
      line,
      place,
      pieces: line[place],
      mg: line.weight ? line.weight.unit_mg * line[place] : null,
    }))
  return order === 'heaviest' ? all.sort((a, b) => (b.mg ?? -1) - (a.mg ?? -1)) : all
}

const SUMS: Record<Place, (keyof Sheet['totals'])[]> = {
  carried: ['base_mg', 'pack_mg', 'everything_mg'],
  used_up: ['pack_mg', 'everything_mg'],
  worn: ['everything_mg'],
  apart: ['apart_mg'],
  left: [],
}

/** A sheet with some pieces moved, and its sums with them: what is shown in the same frame, until the server has added up. */
export function moved(sheet: Sheet, id: string, from: Place, to: Place, pieces: number): Sheet {
  const line = sheet.lines.find((one) => one.id === id)
  if (!line || from === to) return sheet
  const totals = { ...sheet.totals }
  if (line.walker === sheet.me) {
    const mg = (line.weight?.unit_mg ?? 0) * pieces
    for (const sum of SUMS[from]) totals[sum] -= mg
    for (const sum of SUMS[to]) totals[sum] += mg
  }
  const after = { ...line, [from]: line[from] - pieces, [to]: line[to] + pieces }
  return { ...sheet, totals, lines: sheet.lines.map((one) => (one.id === id ? after : one)) }
}

/** A piece of the ruler. */
export interface Span {
  key: string
  name: string
  system: string
  mg: number
}

/** What is on the back, end to end by system, as spans of the ruler. */
export const spans = (lines: SheetLine[], me: number): Span[] =>
  blocks(
    lines.filter((line) => line.walker === me),
    'carried',
    'system',
  )
    .filter((block) => block.mg !== null && block.mg > 0)
    .map(({ line, pieces, mg }) => ({
      key: line.id,
      name: pieces > 1 ? `${line.name} × ${pieces}` : line.name,
      system: line.system,
      mg: mg!,
    }))

/** What is on the back after some swaps, as spans of the ruler. */
export const carriedAfter = ({ carried }: Pick<After, 'carried'>): Span[] =>
  carried.flatMap(({ id, name, system, pieces, mg }) =>
    mg ? [{ key: id, name: pieces > 1 ? `${name} × ${pieces}` : name, system, mg }] : [],
  )

/** One difference between two lists: what a thing weighs on the back of each; null where it is not on it. */
export interface Difference {
  name: string
  here: number | null
  there: number | null
}

/** Things that weigh something else on the back of one than of the other, the largest difference first. */
export function differences(here: Span[], there: Span[]): Difference[] {
  const of = (spans: Span[]) => new Map(spans.map((span) => [span.name.replace(/ × \d+$/, ''), span.mg]))
  const [a, b] = [of(here), of(there)]
  return [...new Set([...a.keys(), ...b.keys()])]
    .map((name) => ({ name, here: a.get(name) ?? null, there: b.get(name) ?? null }))
    .filter(({ here, there }) => here !== there)
    .sort((x, y) => Math.abs((y.there ?? 0) - (y.here ?? 0)) - Math.abs((x.there ?? 0) - (x.here ?? 0)))
}
