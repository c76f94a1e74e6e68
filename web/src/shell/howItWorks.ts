/** How a step works: three sentences, and an example to try. */
export interface HowItWorks {
  name: string
  sentences: [string, string, string]
  example: string
  /** The same in pounds, dollars and Fahrenheit, where it has figures. */
  inPounds?: string
}

/** By the step's part of the address; the longest that fits counts. */
const STEPS: Record<string, HowItWorks> = {
  weigh: {
    name: 'Weigh',
    sentences: [
      'What is least certain comes first: weighing it narrows the total most.',
      'Put a thing on the scale, wait until the reading is steady, and save it; or type what your kitchen scale says.',
      'Several pieces are weighed together and counted, and what will not lie on the scale alone is weighed by subtracting the container.',
    ],
    example:
      'Six stakes on the scale show 84 g: type 84, say that they are 6, and each weighs 14 g, give or take a sixth of a gram.',
    inPounds: 'Six stakes on the scale show 3.0 oz: type 3.0, say that they are 6, and each weighs 0.5 oz.',
  },
  gear: {
    name: 'Gear',
    sentences: [
      'Everything that you own stands here by system, with where each weight comes from.',
      'Type a line and read back what was understood before you press Enter; any figure in the table is changed where it stands.',
      'What a thing is comes from its name: it says where the thing counts, what it does, and what may be proposed.',
    ],
    example: 'quilt 700g -5C 380eur',
    inPounds: 'quilt 24.7oz 20F 380usd',
  },
  list: {
    name: 'List',
    sentences: [
      'Everything that comes along is worn, used up, or on your back; the last is your base weight.',
      'Move a thing between the columns, take it off the list, or count poles and phone by another rule.',
      'With a trip, cautions say what is short for it, each with its figure and the rule behind it.',
    ],
    example:
      'A jacket that you walk in moves to worn: base weight falls, and what you carry in all does not.',
  },
  'list/trip': {
    name: 'Trip',
    sentences: [
      'Say how long, how cold, and how far between water; every figure can be typed in its own units.',
      'What food, water, gas and power come to stands beside it, and what the pack weighs on each day.',
      'What the trip requires follows from it, each with its reason, and is compared with what the list has.',
    ],
    example: 'Low −2 °C asks for R 3.8 under you: a pad of R 4.5 is enough for that figure.',
    inPounds: 'Low 28 °F asks for R 3.8 under you: a pad of R 4.5 is enough for that figure.',
  },
  'list/together': {
    name: 'Together',
    sentences: [
      'Name who walks with you, or send a link: they join with gear of their own.',
      'What is shared is carried by one and serves all.',
      'The most even split says who carries what, so that the loads are as even as can be.',
    ],
    example: 'The tent goes to one, stove and gas to the other: 1.9 kg each.',
    inPounds: 'The tent goes to one, stove and gas to the other: 4 lb 3 oz each.',
  },
  'list/compare': {
    name: 'Compare',
    sentences: [
      'Up to four lists stand side by side: weight, money, warmth, water, load and cautions.',
      'What a list costs is what was paid, and of wished gear what it would; what is owned stands beside it.',
      'From each to the next dearer one, the price of the grams between is told.',
    ],
    example: 'From the heavy tent to the light one: 289 € more and 1 180 g lighter, 24.49 € for 100 g.',
    inPounds: 'From the heavy tent to the light one: $289 more and 2 lb 9.6 oz lighter, $6.94 for 1 oz.',
  },
  swaps: {
    name: 'Swaps',
    sentences: [
      'Name one thing on the list and what could replace it: bought, trimmed, sewn, borrowed, shared, or nothing.',
      'Swaps are ranked by weight saved for the money, those that cost nothing first: the steeper the slope, the better.',
      'Under each stands what else it changes; one switch hides those that lose what the trip asks.',
    ],
    example: 'quilt 545g 262eur for sleeping bag',
    inPounds: 'quilt 19.2oz 262usd for sleeping bag',
  },
  plan: {
    name: 'Plan',
    sentences: [
      'The descent goes from the cheapest set of swaps to the lightest; the flag is the cheapest that reaches the target within the budget.',
      'Drag target or budget, pin what you have decided on, rule out what you do not want, and the plan follows.',
      'It is proved to be the best, or says how far it may be off, and never leaves the list shorter of what the trip asks than now.',
    ],
    example: 'Target 7.3 kg, budget 620 €: eleven swaps for 612 €, in the order in which to buy them.',
    inPounds: 'Target 16 lb, budget $620: eleven swaps for $612, in the order in which to buy them.',
  },
  pack: {
    name: 'Pack',
    sentences: [
      'Tick things off zone by zone, by key or thumb; ticks are kept on this device while there is no network.',
      'What is to charge, fill, buy or weigh before you leave stands beside it.',
      'Put the pack on the scale, and Kevyt says whether the list explains what it shows.',
    ],
    example:
      'The list says 12.4 kg and the scale 12.9: half a kilogram more, and its doubt explains 0.1. Look for what is not on the list.',
    inPounds:
      'The list says 27.3 lb and the scale 28.4: a pound more, and its doubt explains 0.2. Look for what is not on the list.',
  },
  trips: {
    name: 'Trips',
    sentences: [
      'A trip keeps its list as it was on the day, whatever happens to the gear.',
      'After it, say of each thing whether it was used: one key each.',
      'Two trips or more teach what was never used, what was missed, and rates of your own.',
    ],
    example: 'Carried on three trips and never used: camp shoes, 304 g. One key makes a swap of it.',
    inPounds: 'Carried on three trips and never used: camp shoes, 10.7 oz. One key makes a swap of it.',
  },
  year: {
    name: 'Year',
    sentences: [
      'Each list counts for the nights that you carry it in the coming twelve months.',
      'One budget serves them all: every target for the least money, or the most that the money takes off.',
      'A gram that is carried for twelve nights is worth more than one for two, and what replaces gear on five lists is bought once.',
    ],
    example:
      '900 g less on lists of 2, 5 and 3 nights are 9 kg nights; for 200 €, one kilogram less for one night costs 22 €.',
    inPounds:
      '2 lb less on lists of 2, 5 and 3 nights are 20 lb nights; for $200, one pound less for one night costs $10.',
  },
}

/** How the step of an address works. */
export function howItWorks(path: string): HowItWorks | undefined {
  const fits = Object.keys(STEPS).filter((step) => `${path}/`.includes(`/${step}/`))
  fits.sort((a, b) => b.length - a.length)
  return fits[0] ? STEPS[fits[0]] : undefined
}
