import type { Caution, Fate, Acquired, GearStatus, Place, Source, SwapKind } from '@/api/client'

/** What the words of the job are called on the screen, once for every step. */

export const STATUSES: Record<GearStatus, string> = {
  owned: 'owned',
  lent: 'lent',
  for_sale: 'for sale',
  sold: 'sold',
  given: 'given away',
  worn_out: 'worn out',
  wished: 'wished for',
}

/** What becomes of a thing that a swap takes off. */
export const FATES: Record<Exclude<Fate, 'trimmed'>, string> = {
  kept: 'kept at home',
  elsewhere: 'kept for another list',
  sold: 'sold',
  given: 'given away',
  worn_out: 'worn out',
}

export const ACQUIRED: Record<Acquired, string> = {
  new: 'bought new',
  used: 'bought used',
  sale: 'bought in a sale',
  gift: 'a gift',
  made: 'made; the price is the material’s',
  borrowed: 'borrowed or hired; the price is the fee',
}

/** How a thing is sold whose price was seen. */
export const SOLD = { new: 'new', used: 'used', sale: 'in a sale' } as const

/** Where a weight comes from; null where there is none. */
export const SOURCES: Record<Source, string> = {
  weighed: 'weighed',
  maker: 'maker’s',
  estimate: 'estimate',
  derived: 'calculated',
}
/** Those that somebody can say. */
export const SAYABLE = ['weighed', 'maker', 'estimate'] as const

/** Places that a swap takes off from or puts on. */
export const PLACES: Record<Exclude<Place, 'apart' | 'left'>, string> = {
  carried: 'carried',
  worn: 'worn',
  used_up: 'used up',
}

export const KINDS: Record<SwapKind, string> = {
  replace: 'replace',
  leave_out: 'leave out',
  trim: 'trim',
  make: 'make',
  combine: 'one for several',
  share: 'share',
  borrow: 'borrow or hire',
  add: 'add',
}

/** What cautions are about, in a word or two. */
export const CAUTIONS: Record<Caution['id'], string> = {
  animals: 'animals',
  assumed: 'an assumed figure',
  body_load: 'load for the body',
  cold_back: 'cold back',
  cold_ground: 'cold ground',
  cold_night: 'cold night',
  dry_stretch: 'dry stretch',
  essentials: 'something essential is missing',
  flame: 'flame',
  freezing: 'filter may freeze',
  load: 'load of the pack',
  made_gear: 'made gear',
  medical: 'medicine',
  room: 'room in the pack',
  rules: 'local rules',
  shared_gear: 'shared gear',
  snow: 'snow',
  untested: 'not tried yet',
  water_treatment: 'water treatment',
}

/** Places of a line in the middle of a sentence. */
export const PLACE_NAMES: Record<Place, string> = {
  carried: 'on my back',
  worn: 'on me',
  used_up: 'used up',
  apart: 'apart',
  left: 'staying home',
}

/** The counting rules that are built in, as people call them; of one's own, the name. */
const WAYS: Record<string, string> = {
  as_laid_out: 'As laid out',
  usual: 'As most count',
  all_on_the_back: 'All on the back',
  container_apart: 'Container apart',
  consumables_used_up: 'Soap and paper used up',
}
export const wayName = (way: string) => WAYS[way] ?? way
