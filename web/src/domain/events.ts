import type { Entry, Event, ListField, ThingField } from '@/api/client'
import { counted, listed } from '@/quantities/count'
import type { Units } from './units'
import { PLACE_NAMES, wayName } from './words'

/** What the change log tells, in words. */

type Of<Code extends Event['code']> = Extract<Event, { code: Code }>
type InMass = Pick<Units, 'tableText'>

const THING_FIELDS: Record<ThingField, string> = {
  weight: 'how its weight is known',
  system: 'system',
  count: 'count',
  price: 'price',
  worth: 'worth',
  status: 'status',
  kept_at: 'where it is kept',
  note: 'note',
  tags: 'tags',
  nights: 'nights',
  lasts: 'how long it lasts',
  claimed: 'maker’s figure',
  jobs: 'what it does',
  facts: 'warmth, water or gas',
  kind: 'kind',
  need: 'need or want',
  keep: 'whether it is kept',
  start: 'where it starts on a list',
  made_hours: 'hours of making',
  assumed: 'assumed figures',
}

const LIST_FIELDS: Record<ListField, string> = {
  name: 'name',
  note: 'note',
  target: 'target',
  budget: 'budget',
  hour_rate: 'what an hour of work costs',
  requires: 'what it must do',
  trip: 'trip conditions',
  ways: 'counting rules',
  year_nights: 'nights in the year',
  archived: 'archive',
  counting: 'weights the plan counts on',
  rank_by: 'how swaps are ranked',
  target_of: 'what the target is of',
  purse: 'money a month',
  meet: 'what the plan also meets',
  selling: 'what selling takes',
}

const MARKS: Record<Of<'thing_judged'>['marks'][number], string> = {
  wished: 'wished for',
  failed: 'failed',
  too_cold: 'too cold',
  too_heavy: 'too heavy',
  lent: 'lent',
  lost: 'lost',
}

const SET = { open: 'left to the plan', pinned: 'pinned', ruled_out: 'ruled out' }

const used = (is: boolean | null | undefined) => (is == null ? 'not judged' : is ? 'used' : 'not used')

const WORDS: { [Code in Event['code']]: (event: Of<Code>, units: InMass) => string } = {
  sentence: ({ text }) => text,

  thing_added: ({ thing }) => `${thing} added.`,
  thing_renamed: ({ from, to }) => `${from} renamed to ${to}.`,
  thing_reweighed: ({ thing, from_mg, to_mg }, { tableText }) => {
    const mass = (mg: number | null | undefined) => (mg == null ? 'unknown' : tableText(mg))
    return `Weight of ${thing}: ${mass(from_mg)} to ${mass(to_mg)}.`
  },
  thing_changed: ({ thing, fields }) => `${thing}: ${fieldsOf(fields, THING_FIELDS)} changed.`,
  thing_removed: ({ thing }) => `${thing} removed.`,
  things_changed: ({ things }) => `${counted(things, 'thing')} changed.`,
  things_removed: ({ things }) => `${counted(things, 'thing')} removed.`,
  gear_file_read: ({ added, changed, refused }) =>
    `A gear file read: ${added} added, ${changed} changed, ${refused} refused.`,
  backup_restored: ({ things, lists }) =>
    `A backup restored: ${counted(things, 'thing')}, ${counted(lists, 'list')}.`,

  weighed: ({ weighed, mass_mg }, { tableText }) => `${weighed} weighed: ${tableText(mass_mg)}.`,
  weighed_by_taking_away: ({ things, left_mg }, { tableText }) =>
    `${counted(things, 'thing')} weighed by taking away; ${tableText(left_mg)} left over.`,
  weighing_corrected: ({ weighed, mass_mg }, { tableText }) =>
    `A weighing of ${weighed} corrected to ${tableText(mass_mg)}.`,
  weighing_removed: ({ weighed, mass_mg }, { tableText }) =>
    `A weighing of ${weighed} removed: ${tableText(mass_mg)}.`,
  kit_made: ({ kit, things }) => `${kit} made a kit of ${counted(things, 'thing')}.`,
  kit_changed: ({ kit }) => `${kit} changed.`,
  kit_taken_apart: ({ kit }) => `The kit ${kit} taken apart.`,

  list_made: ({ list }) => `List ${list} made.`,
  list_changed: ({ list, fields }) => `List ${list}: ${fieldsOf(fields, LIST_FIELDS)} changed.`,
  list_counted_by: ({ list, way }) => `List ${list} counted another way: ${wayName(way)}.`,
  list_removed: ({ list }) => `List ${list} removed.`,
  line_changed: ({ thing, list, pieces }) => {
    const places = pieces.map((of) => `${of.pieces} ${PLACE_NAMES[of.place]}`)
    return `${thing} on ${list}: ${places.length ? listed(places) : 'no pieces'}.`
  },
  line_removed: ({ thing, list }) => `${thing} taken off ${list}.`,
  earlier_bases_changed: ({ list }) => `Earlier base weights of ${list} changed.`,
  caution_acknowledged: ({ list }) => `A caution acknowledged on ${list}.`,
  caution_raised_again: ({ list }) => `A caution shown again on ${list}.`,
  proposal_dismissed: ({ thing, list }) => `A proposal about ${thing} dismissed on ${list}.`,
  walker_added: ({ walker, list }) => `${walker} walks on ${list}.`,
  walker_changed: ({ walker, list }) => `${walker} on ${list} changed.`,
  walker_removed: ({ walker, list }) => `${walker} is off ${list}.`,
  link_made: ({ list }) => `Link to ${list} made.`,
  link_revoked: ({ list }) => `Link to ${list} revoked.`,
  list_joined: ({ list }) => `Joined ${list}.`,
  carried_by_others: ({ things, list }) => `${counted(things, 'thing')} on ${list} carried by another.`,

  swap_made: ({ swap }) => `Swap ${swap} made.`,
  swap_changed: ({ swap }) => `Swap ${swap} changed.`,
  swap_set: ({ swap, state }) => `Swap ${swap} ${SET[state]}.`,
  swap_removed: ({ swap }) => `Swap ${swap} removed.`,
  swap_done: ({ swap }) => `${swap} done.`,
  swap_not_done: ({ swap }) => `${swap} no longer done.`,
  plan_kept: ({ plan }) => `Plan ${plan} kept.`,
  plan_removed: ({ plan }) => `Plan ${plan} removed.`,

  trip_added: ({ trip }) => `Trip ${trip} added.`,
  trip_changed: ({ trip }) => `Trip ${trip} changed.`,
  trip_kept: ({ trip }) => `The list of ${trip} kept as it is.`,
  trip_removed: ({ trip }) => `Trip ${trip} removed.`,
  thing_judged: ({ thing, trip, used: is, marks }) =>
    `${thing} on ${trip}: ${[used(is), ...marks.map((mark) => MARKS[mark])].join(', ')}.`,
  thing_wished: ({ thing, trip }) => `${thing} wished for on ${trip}.`,
  wish_removed: ({ thing }) => `${thing} no longer wished for.`,
  lesson_dismissed: () => 'A lesson of trips dismissed.',

  settings_changed: () => 'Settings changed.',
  typical_changed: ({ kind }) => `What a light ${kind} weighs changed.`,
}

/** Fields that were changed, in words; where the change log names none, it says so. */
function fieldsOf<Field extends string>(fields: Field[], names: Record<Field, string>): string {
  return fields.length ? listed(fields.map((field) => names[field])) : 'nothing that is shown'
}

const TURNS = { done: '', undone: 'Undone: ', done_again: 'Done again: ' }

/** An entry of the change log in a sentence. */
export function entryWords({ event, turn }: Entry, units: InMass): string {
  const words = WORDS[event.code] as (event: Event, units: InMass) => string
  return `${TURNS[turn]}${words(event, units)}`
}
