import type { Ranked } from '@/api/client'
import { degrees, volume, type Measures } from '@/quantities/measures'

/** Something that a swap gains or loses beside grams. */
export interface Gain {
  text: string
  isLost: boolean
}

/** What a swap changes of warmth, of the ground's R and of drinking water, in words. */
export function gainsOf(
  row: Pick<Ranked, 'warmth_tenth_c' | 'ground_tenth_r' | 'water_ml' | 'loses'>,
  measures: Measures,
  jobName: (job: string) => string,
): Gain[] {
  const { warmth_tenth_c: warmth, ground_tenth_r: ground = 0, water_ml: water = 0 } = row
  const all: Gain[] = []
  if (warmth)
    all.push({
      text: `${degrees(Math.abs(warmth), measures)} ${warmth > 0 ? 'warmer' : 'colder'}`,
      isLost: warmth < 0,
    })
  if (ground)
    all.push({ text: `R ${ground > 0 ? '+' : '−'}${(Math.abs(ground) / 10).toFixed(1)}`, isLost: ground < 0 })
  if (water)
    all.push({
      text: `water ${water > 0 ? '+' : '−'}${volume(Math.abs(water), measures)}`,
      isLost: water < 0,
    })
  const told = (job: string) =>
    (job === 'warmth' && warmth) ||
    (['ground', 'ground_insulation'].includes(job) && ground) ||
    (job === 'water_carried' && water)
  const lost = (row.loses ?? []).filter((job) => !told(job))
  return [...all, ...lost.map((job) => ({ text: shortOf(job, jobName), isLost: true }))]
}

/** That a swap leaves the trip shorter of something than it is today. */
function shortOf(job: string, jobName: (job: string) => string): string {
  if (job === 'warmth') return 'the night is colder'
  if (job === 'ground') return 'colder from below'
  if (job === 'load') return 'over the pack’s load'
  return `short of ${jobName(job)}`
}

/** Whether a swap by itself loses nothing that the trip asks. */
export const losesNothing = (row: Pick<Ranked, 'loses'>) => (row.loses ?? []).length === 0
