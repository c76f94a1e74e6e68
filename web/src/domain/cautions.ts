import { listed } from '@/quantities/count'
import type { Caution, Sheet } from '@/api/client'
import { jobIn, jobName } from '@/quantities/jobs'
import { degrees, temperature, volume, type Measures } from '@/quantities/measures'

/** What it takes to say a caution: units, masses in them, the known jobs, the list's things and walkers. */
export interface Saying {
  measures: Measures
  total: (mg: number) => string
  jobs: Map<string, { name: string; unit: string }>
  sheet: Pick<Sheet, 'list' | 'walkers' | 'trip'> & { lines: { name: string }[] }
}

const r = (tenths: number) => (tenths / 10).toFixed(1)
const named = (caution: Caution, { sheet }: Saying) =>
  caution.of.map((at) => sheet.lines[at]?.name ?? '').filter(Boolean)

/** The title of a caution and what stands behind it, with the figure and what it is held against. Nothing is ever called safe. */
export function said(caution: Caution, saying: Saying): { title: string; text: string } {
  const { measures, total, sheet } = saying
  const low = () => temperature(sheet.list.trip?.low_tenth_c ?? 0, measures)
  const { found = 0, against = 0, short = 0, limit } = caution
  const names = named(caution, saying)
  const job = caution.job ? jobName(caution.job, saying.jobs) : ''
  const amount = (of: number) =>
    jobIn(caution.job ?? '', job, saying.jobs.get(caution.job ?? '')?.unit ?? 'count', of, measures)
  const rule = caution.assumed
    ? ` Comfort and limit lie ${degrees((found ?? 0) - (limit ?? found ?? 0), measures)} apart by rule of thumb.`
    : ''
  const isAssumed = (job: string) =>
    (sheet.trip?.cautions ?? []).some((one) => one.id === 'assumed' && one.job === job)
  const warmth = () => {
    const [bag, ...beside] = names
    const system = `${bag}${beside.length ? ` with ${listed(beside)}` : ''}`
    return `Low ${low()}. ${system}: comfort ${temperature(found!, measures)}, limit ${temperature(limit ?? 0, measures)}.${rule}`
  }
  switch (caution.id) {
    case 'cold_night':
      return caution.level === 'unrated'
        ? {
            title: 'Cold night: nothing is rated',
            text: `Low ${low()}, and no bag or quilt that comes along says how warm it is.`,
          }
        : { title: `Cold night: ${degrees(short!, measures)} short`, text: warmth() }
    case 'cold_back':
      return caution.level === 'unrated'
        ? {
            title: 'Cold back: nothing is rated',
            text: `Low ${low()}, and the underquilt doesn’t say how warm it is.`,
          }
        : { title: `Cold back: ${degrees(short!, measures)} short`, text: warmth() }
    case 'cold_ground':
      return {
        title: `Cold ground: R ${r(short!)} short`,
        text: `Low ${low()} asks for R ${r(against!)}; ${names.length ? `${listed(names)} ${names.length > 1 ? 'have' : 'has'} R ${r(found!)}` : 'there is no pad'}.`,
      }
    case 'dry_stretch':
      return {
        title: `Dry stretch: ${volume(short!, measures)} short`,
        text: `It takes ${volume(against!, measures)}; the containers hold ${volume(found!, measures)}.`,
      }
    case 'water_treatment':
      return found === 0
        ? { title: 'No way of treating water', text: 'Nothing on the list treats water.' }
        : { title: 'Only one way of treating water', text: `${listed(names)} can break, freeze or run out.` }
    case 'freezing':
      return {
        title: 'The filter may freeze',
        text: `Low ${low()}. Freezing ruins ${listed(names)} without showing; keep it in the sleeping bag.`,
      }
    case 'load':
      return {
        title: `${total(short!)} over the pack’s load`,
        text: `Heaviest start ${total(found!)}; ${listed(names)} is comfortable to ${total(against!)}${isAssumed('load') ? ' (assumed)' : ''}.`,
      }
    case 'assumed':
      return {
        title: 'Assumed',
        text: `${amount(found!)} of ${listed(names)}: such things usually have it, and nobody has said it of ${names.length > 1 ? 'these' : 'this one'}. ${short == null ? 'Cautions count on it.' : `Without it ${amount(short)} would be short: only this figure keeps that caution away.`}`,
      }
    case 'body_load':
      return {
        title: `${total(short!)} over your share of body weight`,
        text: `Heaviest start ${total(found!)}; the share of body weight set on Trip is ${total(against!)}.`,
      }
    case 'room':
      return {
        title: `${volume(short!, measures)} too much for the pack`,
        text: `Known packed sizes come to ${volume(found!, measures)}; there is room for ${volume(against!, measures)}.`,
      }
    case 'essentials':
      return {
        title: `Missing: ${amount(short!)}`,
        text: 'The trip or the gear asks for it, and nothing on the list does it.',
      }
    case 'animals':
      return {
        title: 'A container is compulsory',
        text: 'None comes along. A bag is not a container; local rules say which ones count.',
      }
    case 'snow':
      return {
        title: 'Snow, and no traction',
        text: 'Nothing carried or worn grips. Axe and traction need practice; ask trained people.',
      }
    case 'flame':
      return {
        title: 'Gas and fire',
        text: `A flight or a fire ban, and along come ${listed(names)}. Airline and local law decide.`,
      }
    case 'shared_gear': {
      const who = sheet.walkers[found ?? 0]?.name ?? 'One of you'
      const lacking = (sheet.trip?.cautions ?? [caution])
        .filter(({ id, found: walker }) => id === caution.id && walker === found)
        .map((one) => jobName(one.job ?? '', saying.jobs))
      return { title: `${who} alone would lack ${listed(lacking)}`, text: 'If you were separated.' }
    }
    case 'made_gear':
      return { title: 'Made at home, no night yet', text: `Try ${listed(names)} close to home first.` }
    case 'untested':
      return { title: 'Not tried yet', text: `Try ${listed(names)} near home before a long trip.` }
    case 'medical':
      return { title: 'Medicine', text: `${listed(names)}: never proposed for leaving out.` }
    case 'rules':
      return {
        title: 'Local rules',
        text: 'Permits, closures, containers, fires and drones: the local authority and the land manager decide.',
      }
  }
}

/** What of the shelf or the candidates would quiet a caution: "Silk liner adds 3 °C", "Foam pad brings R to 5.1". */
export function remedyText(
  caution: Caution,
  remedy: Caution['remedies'][number],
  { measures }: Saying,
): string {
  const { name, found, gain } = remedy
  const from = remedy.gear ? '' : ' (a candidate)'
  switch (caution.id) {
    case 'cold_night':
    case 'cold_back':
      return gain ? `${name}${from} adds ${degrees(gain, measures)}` : `${name}${from} is rated`
    case 'cold_ground':
      return `${name}${from} brings R to ${r(found ?? 0)}`
    case 'dry_stretch':
      return `${name}${from} holds ${volume(gain ?? 0, measures)} more`
    default:
      return `${name}${from}`
  }
}
