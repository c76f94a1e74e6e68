import type { ObjectDirective } from 'vue'
import { focusTitle } from './focus'

// A table is one stop of the Tab key; arrows, Home, End and the page keys move within it. Every cell that can be reached has `data-cell`.

const MOVES: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  Home: [0, -Infinity],
  End: [0, Infinity],
  PageUp: [-10, 0],
  PageDown: [10, 0],
}

const CONTROLS = 'button, a[href], input, select, textarea'
const FOCUSABLE = `${CONTROLS}, [tabindex]`

/** What of a cell takes the focus: the cell itself, or the control in it. */
const control = (cell: HTMLElement) =>
  cell.matches(FOCUSABLE) ? cell : (cell.querySelector<HTMLElement>(CONTROLS) ?? cell)

const cellOf = (target: EventTarget | null) =>
  target instanceof HTMLElement ? target.closest<HTMLElement>('[data-cell]') : null

function walk(event: KeyboardEvent) {
  const move = MOVES[event.key]
  const cell = cellOf(event.target)
  if (event.key === 'Escape' && cell && !(event.target instanceof HTMLInputElement)) {
    event.stopPropagation()
    focusTitle()
    return
  }
  const typing = event.target instanceof HTMLInputElement && event.target.type !== 'checkbox'
  if (!move || !cell || typing || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  event.stopPropagation()
  step(cell, ...move)
}

/** Moves the focus from a cell by rows and columns. */
export function step(cell: HTMLElement, down: number, right: number) {
  const grid = cell.closest('table, [data-grid]')
  const rows = [...(grid?.querySelectorAll('tr, [data-line]') ?? [])]
    .map((row) => [...row.querySelectorAll<HTMLElement>('[data-cell]')].filter(isShown))
    .filter((cells) => cells.length > 0)
  const row = rows.findIndex((cells) => cells.includes(cell))
  const column = rows[row]?.indexOf(cell) ?? 0
  // Up and down pass by what has no cell in the column, such as the head of a group, while something further on has one.
  const has = (at: number) => (rows[at]?.length ?? 0) > column
  const next = clamp(row + down, rows.length)
  let at = next
  while (down !== 0 && rows[at] && !has(at)) at += Math.sign(down)
  const target = rows[at] ?? rows[next]
  if (target) control(target[clamp(column + right, target.length)]!).focus()
}

const clamp = (at: number, length: number) => Math.min(Math.max(0, at), length - 1)

/** Whether a cell is drawn: some columns are left out on a phone. */
const isShown = (cell: HTMLElement) => typeof cell.checkVisibility !== 'function' || cell.checkVisibility()

const watching = new WeakMap<HTMLElement, MutationObserver>()

/** Makes `cell` the one that Tab stops at. */
function stopAt(grid: HTMLElement, cell: HTMLElement) {
  for (const other of grid.querySelectorAll<HTMLElement>('[data-cell]')) {
    const at = control(other)
    if (at.tabIndex !== -1 && other !== cell) at.tabIndex = -1
  }
  control(cell).tabIndex = 0
}

function tidy(grid: HTMLElement) {
  const cells = [...grid.querySelectorAll<HTMLElement>('[data-cell]')]
  const stops = cells.filter((cell) => control(cell).tabIndex !== -1)
  const kept = stops.find((cell) => cell.contains(document.activeElement)) ?? stops[0] ?? cells[0]
  if (kept && (stops.length !== 1 || control(kept).tabIndex !== 0)) stopAt(grid, kept)
}

/** Makes a table one stop of the Tab key, with arrows inside. */
export const vGrid: ObjectDirective<HTMLElement> = {
  mounted(grid) {
    if (grid instanceof HTMLTableElement) grid.setAttribute('role', 'grid')
    grid.addEventListener('keydown', walk)
    grid.addEventListener('focusin', (event) => {
      const cell = cellOf(event.target)
      if (cell) stopAt(grid, cell)
    })
    // Rows come and go while the table is scrolled.
    const observer = new MutationObserver(() => tidy(grid))
    observer.observe(grid, { childList: true, subtree: true })
    watching.set(grid, observer)
    tidy(grid)
  },
  updated: tidy,
  unmounted(grid) {
    watching.get(grid)?.disconnect()
  },
}
