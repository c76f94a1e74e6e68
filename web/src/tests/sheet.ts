import type { Caution, Sheet, SheetLine, Trip } from '@/api/client'

/** A line of a list, with what a test does not care about left plain. */
export const sheetLine = (name: string, grams: number | null, some: Partial<SheetLine> = {}) =>
  ({
    id: name,
    version: 1,
    gear: `gear of ${name}`,
    name,
    system: 'other',
    weight: grams === null ? null : { unit_mg: grams * 1_000, typed: `${grams} g`, source: 'weighed' },
    low_mg: grams === null ? null : grams * 1_000,
    high_mg: grams === null ? null : grams * 1_000,
    count: 9,
    carried: 0,
    worn: 0,
    used_up: 0,
    apart: 0,
    left: 0,
    provides: {},
    mine: true,
    shared: false,
    heavy: false,
    walker: 0,
    ...some,
  }) as SheetLine

export const caution = (some: Partial<Caution>) =>
  ({
    level: 'amber',
    measure: 'none',
    source: 'a rule of thumb',
    of: [],
    assumed: false,
    remedies: [],
    ...some,
  }) as Caution

export const trip = (some: Partial<Trip> = {}) =>
  ({
    days: 2,
    first_day_meals: 3,
    last_day_meals: 3,
    resupply_days: [],
    food: { mg_per_day: 700_000 },
    stretch_m: 8_000,
    pace_m_per_hour: 4_000,
    water_ml_per_hour: null,
    camp_ml: 0,
    start_ml: 1_000,
    stretch_day: 1,
    boil_ml_per_day: 0,
    gas_mg_per_l: 12_000,
    devices: [],
    low_tenth_c: -20,
    high_tenth_c: 120,
    snow: false,
    container_compulsory: false,
    flight: false,
    fire_ban: false,
    requires: {},
    ...some,
  }) as Trip

/** A pack as it is loaded, of nothing in particular. */
export const LOADED = { total_mg: 2_700_000, unknown: 0, parts: [{ part: 'water', mass_mg: 1_000_000 }] }

/** A list as the server would give it; its sums are not calculated here. */
export const sheetOf = (lines: SheetLine[], some: Partial<Sheet> = {}) =>
  ({
    list: {
      id: 'list',
      version: 1,
      name: 'Week',
      note: '',
      requires: {},
      trip: null,
      way: '',
      ways: [],
      archived: false,
      hour_minor: 0,
      terms: { target_of: 'base' },
      target_mg: null,
      budget_minor: null,
    },
    role: 'owner',
    owner: 'anna',
    lines,
    me: 0,
    totals: { base_mg: 1_400_000, pack_mg: 1_700_000, everything_mg: 1_800_000, apart_mg: 0, unknown: 0 },
    doubt: { likely_below_mg: 0, likely_above_mg: 0, worst_below_mg: 0, worst_above_mg: 0 },
    kits: [],
    ways: [],
    heavy_few_mg: 1_000_000,
    class: 1,
    loaded: LOADED,
    trip: null,
    walkers: [],
    split: null,
    links: [],
    ...some,
  }) as unknown as Sheet
