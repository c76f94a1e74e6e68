import { tsvParseRows } from 'd3-dsv'

/** How bare figures of pasted rows are written on a line: the account's table unit, and its currency. */
export interface Bare {
  mass: string
  currency: string
}

const isFigure = (cell: string) => /^[~<≈]?\s*[\d.,\s]+$/.test(cell)
const hasFigure = (cell: string) => /\d/.test(cell)
const WEIGHT = /\d\s*(g|kg|oz|lb)\b/i
const plain = (name: string) => name.trim().toLowerCase()
const HEADER = /^(item|name|gear|thing|old|new|for|replaces?|weight|price|cost|g|oz|low|high|swap)\b/i

/**
 * Rows of a spreadsheet as lines of swaps: `quilt 545g 262eur for sleeping bag`. What comes off is the cell that names something on the
 * list, or else the first; the first bare figure is the weight, the next the price, one more its upper end.
 */
export function swapLines(text: string, onList: string[], { mass, currency }: Bare): string[] {
  const rows = tsvParseRows(text.replace(/\r\n?/g, '\n')).map((row) => row.map((cell) => cell.trim()))
  const filled = rows.filter((row) => row.some(Boolean))
  const [first, ...rest] = filled
  const isHeader =
    first?.length && first.every((cell) => cell === '' || (HEADER.test(cell) && !hasFigure(cell)))
  const names = new Set(onList.map(plain))
  return (isHeader ? rest : filled).map((row) => {
    const cells = row.filter(Boolean)
    if (cells.length === 1) return cells[0]!
    const words = cells.filter((cell) => !hasFigure(cell) || names.has(plain(cell)))
    const old = words.find((cell) => names.has(plain(cell))) ?? (words.length > 1 ? words[0] : undefined)
    const bare = cells.filter(isFigure)
    // A weight with its unit leaves bare figures to be prices.
    const isWeighed = cells.some((cell) => cell !== old && WEIGHT.test(cell))
    const [weight, low, high] = isWeighed ? ['', ...bare] : bare
    const said = cells.filter((cell) => cell !== old && !bare.includes(cell))
    const price = low && (high ? `${low}-${high}${currency}` : `${low}${currency}`)
    const parts = [...said, weight && `${weight}${mass}`, price].filter(Boolean)
    return old ? `${parts.join(' ')} for ${old}` : parts.join(' ')
  })
}
