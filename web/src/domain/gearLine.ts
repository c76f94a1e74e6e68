import { api, orLater, unwrap, unwrapChange, type Chip, type LineKind, type Source } from '@/api/client'

/** A line that adds gear, as it was understood. */
export interface Reading {
  text: string
  chips: Chip[]
  /** What it is, which is taken with the line. */
  kind: LineKind | null
  source: Source | null
  ready: boolean
}

/** Reads a line without adding anything. */
export async function readLine(text: string, source: Source): Promise<Reading> {
  const answer = await unwrap(api.POST('/api/gear/read', { body: { line: text, source } }))
  return { ...answer, text, kind: answer.kind ?? null, source: answer.source ?? null }
}

/** Adds what a line says; onto a list if one is named. */
export const addLine = (line: string, list: string | null, source: Source) =>
  unwrapChange(api.POST('/api/gear/line', { body: { line, list, source }, ...orLater(`Add “${line}”`) }))
