/** A count as typed: digits alone. Whether so many can be is for the server to say. */
export function countOf(typed: string, accepted: string): number {
  const text = typed.trim()
  if (/^\d{1,6}$/.test(text)) return Number(text)
  throw new Error(`"${text}" is not read as a count. Type ${accepted}.`)
}

/** A number of things in words: `1 list`, `54 things`. */
export const counted = (number: number, one: string) => `${number} ${one}${number === 1 ? '' : 's'}`
