import { computed } from 'vue'
import type { Figure, Trip } from '@/api/client'
import { useUnits } from '@/domain/units'
import type { ListSheet } from './sheet'

/** Ways of saying what a day's food weighs. */
export const FOODS = { weight: 'by weight', energy: 'by energy', meals: 'packed meals' } as const
export type FoodKind = keyof typeof FOODS

export const foodKind = ({ food }: Pick<Trip, 'food'>): FoodKind =>
  'mg_per_day' in food ? 'weight' : 'mg_per_meal' in food ? 'meals' : 'energy'

/** Figures of a trip written as they could have been typed, in the account's units, and how they are written. */
export function useTripFigures() {
  const units = useUnits()
  const metric = computed(() => units.measures.value === 'metric')
  const per = (held: number, one: number) => String(Number((held / one).toFixed(2)))
  return {
    far: (metres: number) => per(metres, metric.value ? 1_000 : 1_609.344),
    farUnit: computed(() => (metric.value ? 'km' : 'mi')),
    wet: (ml: number) => per(ml, metric.value ? 1_000 : 29.5735295625),
    wetUnit: computed(() => (metric.value ? 'l' : 'fl oz')),
    heavy: (mg: number) => per(mg, metric.value ? 1_000 : 28_349.523125),
    heavyUnit: computed(() => (metric.value ? 'g' : 'oz')),
    warm: (tenths: number) =>
      metric.value ? per(tenths, 10) : String(Math.round((tenths * 9 + 1_600) / 50)),
    warmUnit: computed(() => (metric.value ? '°C' : '°F')),
    total: (mg: number) => per(mg, units.scale.value.mg),
    totalUnit: computed(() => units.scale.value.name),
  }
}

/** A device as it is typed. */
interface Device {
  name: string
  charge: string
  charges: number
}
const asTyped = ({ devices = [] }: Trip): Device[] =>
  devices.map(({ name, mwh, charges }) => ({ name: name ?? '', charge: `${mwh / 1_000} Wh`, charges }))

/** How a trip is changed. */
export function useTripChanges({ sheet, change }: Pick<ListSheet, 'sheet' | 'change'>) {
  const SAID = 'Trip changed.'
  return {
    /** Figures as they are typed; the server reads them. */
    typed: (figures: { [figure in Figure]?: string }) => change(() => ({ figures }), SAID),
    /** One figure, as a field saves it. */
    figure: (figure: Figure) => (typed: string) => change(() => ({ figures: { [figure]: typed } }), SAID),
    /** What is not a figure. From what the trip is when its turn comes, so that nothing typed just before is lost. */
    set: (some: Partial<Trip>) => change(() => ({ trip: { ...sheet.value!.list.trip!, ...some } }), SAID),
    addDevice: () =>
      change(
        () => ({ devices: [...asTyped(sheet.value!.list.trip!), { name: '', charge: '15 Wh', charges: 1 }] }),
        SAID,
      ),
    /** One of the devices otherwise; one that is charged no time is left out. */
    device: (at: number, some: Partial<Device>) =>
      change(() => {
        const all = asTyped(sheet.value!.list.trip!)
        all[at] = { ...all[at]!, ...some }
        return { devices: all.filter(({ charges }) => charges > 0) }
      }, SAID),
    /** Something that is used by the piece; none a day leaves it out. */
    piece: (at: number, some: { tag?: string; per_day?: number }) =>
      change(() => {
        const trip = sheet.value!.list.trip!
        const all = [...(trip.counted ?? [])]
        const one = { tag: '', per_day: 1, ...all[at], ...some }
        all[at] = { ...one, tag: one.tag.trim().replace(/^#/, '').toLowerCase() }
        return { trip: { ...trip, counted: all.filter(({ tag, per_day }) => tag !== '' && per_day > 0) } }
      }, SAID),
    /** How much of a job the trip requires; `null` for what its conditions ask. */
    require: (job: string, amount: number | null) =>
      change(() => {
        const own = { ...sheet.value!.list.requires }
        if (amount === null) delete own[job]
        else own[job] = amount
        return { requires: own }
      }, 'What the trip requires is changed.'),
  }
}
