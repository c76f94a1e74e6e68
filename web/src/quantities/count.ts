/** A count as typed: digits alone. Whether so many can be is for the server to say. */
export function countOf(typed: string, accepted: string): number {
  const text = typed.trim()
  if (/^\d{1,6}$/.test(text)) return Number(text)
  throw new Error(`"${text}" is not read as a count. Type ${accepted}.`)
}

const plural = new Intl.PluralRules('en-GB')
const list = new Intl.ListFormat('en-GB', { type: 'conjunction' })

/** A number of things in words: `1 list`, `54 things`. */
export const counted = (number: number, one: string) =>
  `${number} ${one}${plural.select(number) === 'one' ? '' : 's'}`

/** Names as a sentence lists them: `a`, `a and b`, `a, b and c`. */
export const listed = (names: Iterable<string>) => list.format(names)
