import type { PlanAnswer } from '@/api/client'

export type Sure = NonNullable<PlanAnswer['sure']>
export type SureLevel = Sure['levels'][number]

/** How sure one may ask a plan to be: so many chances in a hundred that the scale agrees, or `null` for even at worst. */
export const LEVELS: { percent: number | null; name: string }[] = [
  { percent: 50, name: '5 in 10' },
  { percent: 80, name: '8 in 10' },
  { percent: 90, name: '9 in 10' },
  { percent: null, name: 'even at worst' },
]

/** The first step of the descent that is so sure, if one is. */
export const levelOf = (sure: Sure | null | undefined, percent: number | null) =>
  sure?.levels.find((level) => (level.at_least_percent ?? null) === percent)

/** What a set has that another has not, and the other way round. */
export const differences = (set: number[], other: number[]) => ({
  more: set.filter((swap) => !other.includes(swap)),
  less: other.filter((swap) => !set.includes(swap)),
})
