/** Walks a table with the arrows: every cell that can be reached has `data-cell`. */
export function walk(event: KeyboardEvent) {
  const moves: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  }
  const move = moves[event.key]
  const cell = event.target instanceof HTMLElement ? event.target.closest<HTMLElement>('[data-cell]') : null
  if (!move || !cell || event.target instanceof HTMLInputElement) return
  event.preventDefault()
  event.stopPropagation()
  step(cell, ...move)
}

/** Moves the focus from a cell by rows and columns. */
export function step(cell: HTMLElement, down: number, right: number) {
  const table = cell.closest('table')
  const rows = [...(table?.querySelectorAll('tr') ?? [])]
    .map((row) => [...row.querySelectorAll<HTMLElement>('[data-cell]')])
    .filter((cells) => cells.length > 0)
  const row = rows.findIndex((cells) => cells.includes(cell))
  const column = rows[row]?.indexOf(cell) ?? 0
  const target = rows[row + down]
  target?.[Math.min(Math.max(0, column + right), target.length - 1)]?.focus()
}
