import type { Sheet } from '@/api/client'
import { counted } from '@/quantities/count'

/** How much comes along, in a sentence: things, weights that nobody weighed, and by how much the base weight is likely off. */
export function alongWords({ lines, me, totals, doubt }: Sheet, fineText: (mg: number) => string): string {
  const mine = lines.filter((line) => line.walker === me)
  if (mine.length === 0) return ''
  const home = mine.filter(
    (line) => line.left > 0 && line.carried + line.worn + line.used_up + line.apart === 0,
  ).length
  const makers = mine.filter((line) => line.weight?.source === 'maker').length
  const { unknown } = totals
  const weights = [
    makers === 1 ? '1 weight is the maker’s figure' : makers ? `${makers} weights are makers’ figures` : '',
    unknown === 1 ? 'one is unknown' : unknown ? `${unknown} are unknown` : '',
  ].filter(Boolean)
  const likely = Math.max(doubt.likely_below_mg, doubt.likely_above_mg)
  return [
    `${counted(mine.length - home, 'thing')} come${mine.length - home === 1 ? 's' : ''} along${home ? `, ${home} stay${home === 1 ? 's' : ''} home` : ''}.`,
    weights.length ? `${weights.join(', ')}.`.replace(/^./, (first) => first.toUpperCase()) : '',
    likely > 500 ? `Base ±${fineText(likely)} or so.` : '',
  ]
    .filter(Boolean)
    .join(' ')
}
