import type { Gear, Vocabulary } from '@/api/client'

export type Need = Gear['need']
export type Start = NonNullable<Gear['start']>

export const NEEDS: Record<Need, string> = { need: 'need', want: 'want', undecided: 'undecided' }
export const nextNeed = (need: Need): Need =>
  need === 'need' ? 'want' : need === 'want' ? 'undecided' : 'need'

export const STARTS: Record<Start, string> = {
  carried: 'carried',
  worn: 'worn',
  worn_one: 'one worn, the others carried',
  used_up: 'used up',
  apart: 'counted apart',
}

/** The name of a kind; its key where the server has no other word for it. */
export const kindName = (vocabulary: Vocabulary | undefined, key: string | null | undefined) =>
  key ? (vocabulary?.kinds.find((one) => one.key === key)?.name ?? key) : ''
