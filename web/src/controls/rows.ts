import { csvFormatRows, tsvFormatRows } from 'd3-dsv'

/** A cell of rows that leave Kevyt; nothing where nothing is known. */
export type Cell = string | number | null | undefined
export type Rows = Cell[][]

/** What a spreadsheet would run as a formula gets an apostrophe in front; a figure may be below zero. */
const guarded = (cell: Cell) => {
  const text = cell == null ? '' : String(cell)
  const isFigure = /^-?[\d.]+$/.test(text)
  return /^\s*[=+\-@＝＋－＠]/.test(text) && !isFigure ? `'${text}` : text
}
const texts = (rows: Rows) => rows.map((row) => row.map(guarded))

/** Rows as a spreadsheet takes them when they are pasted. */
export const asPasted = (rows: Rows) => tsvFormatRows(texts(rows))
/** Rows as a CSV file, with the byte order mark by which spreadsheets know that it is UTF-8. */
export const asCsv = (rows: Rows) => `\uFEFF${csvFormatRows(texts(rows))}\n`

/** Puts rows where they can be pasted from. Browsers let no page do that which came over plain http from another machine. */
export async function copyRows(rows: Rows) {
  const clipboard = navigator.clipboard as Clipboard | undefined
  if (!clipboard)
    throw new Error('Rows can’t be copied over plain http. Save them as CSV, or open Kevyt over https.')
  await clipboard.writeText(asPasted(rows))
}

/** Whether a text is rows of a spreadsheet: parted by tabs, or of several lines. */
export const isRows = (text: string) =>
  text.includes('\t') || text.trim().split(/\r?\n/).filter(Boolean).length > 1

/** Hands a file over to the browser, as a download. */
export function saveFile(name: string, parts: string, type: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([parts], { type }))
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

/** A name as files are named. */
export const fileName = (...parts: string[]) =>
  parts
    .map((part) => part.trim().replace(/[^\p{L}\p{N}]+/gu, '-'))
    .join('-')
    .toLowerCase()

/** What of its look a drawing takes along. */
const LOOK = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linejoin',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'display',
  'visibility',
]

/** A drawing of the page as a file of its own: with its colours and type written into it. */
export function asSvg(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const [from, to] = [
    [drawing, ...drawing.querySelectorAll('*')],
    [copy, ...copy.querySelectorAll('*')],
  ]
  from.forEach((element, at) => {
    const look = getComputedStyle(element)
    const written = LOOK.map((name) => [name, look.getPropertyValue(name)]).filter(([, value]) => value)
    to[at]!.setAttribute('style', written.map(([name, value]) => `${name}:${value}`).join(';'))
  })
  const { width, height } = drawing.getBoundingClientRect()
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(Math.round(width)))
  copy.setAttribute('height', String(Math.round(height)))
  const paper = document.createElementNS('http://www.w3.org/2000/svg', 'rect')
  paper.setAttribute('width', '100%')
  paper.setAttribute('height', '100%')
  paper.setAttribute('fill', getComputedStyle(document.body).backgroundColor)
  copy.prepend(paper)
  return new XMLSerializer().serializeToString(copy)
}
