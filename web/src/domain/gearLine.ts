import { api, take, takeChanged, type Chip, type Proposal, type Source } from '@/api/client'

/** A line that adds gear, as it was understood. */
export interface Reading {
  text: string
  chips: Chip[]
  proposals: Proposal[]
  source: Source | null
  ready: boolean
}

/** Reads a line without adding anything. */
export async function readLine(text: string, source: Source): Promise<Reading> {
  const answer = await take(api.POST('/api/gear/read', { body: { line: text, source } }))
  return { ...answer, text, source: answer.source ?? null }
}

/** Adds what a line says, with the marks of what is taken of its proposals; onto a list if one is named. */
export const addLine = (text: string, marks: string[], list: string | null, source: Source) =>
  takeChanged(api.POST('/api/gear/line', { body: { line: [text, ...marks].join(' '), list, source } }))
