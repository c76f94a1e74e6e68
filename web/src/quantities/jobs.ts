import { withDecimals } from './exact'
import { packVolume, volume, type Measures } from './measures'

/** A job with its amount in the unit that people know it by: "room in the pack 58 l", "ground insulation R 3.1". */
export function jobText(name: string, unit: string, amount: number): string {
  const thousandths = (of: string) => `${name} ${withDecimals(BigInt(amount), 3).replace(/\.?0+$/, '')} ${of}`
  switch (unit) {
    case 'ml':
      return thousandths('l')
    case 'g':
      return thousandths('kg')
    case 'mwh':
      return thousandths('Wh')
    case 'tenths_of_r':
      return `${name} R ${withDecimals(BigInt(amount), 1)}`
    default:
      return amount === 1 ? name : `${name} × ${amount}`
  }
}

/** The same in the walker's own measures. */
export function jobIn(key: string, name: string, unit: string, amount: number, measures: Measures): string {
  if (key === 'water_carried') return `${name} ${volume(amount, measures)}`.trim()
  if (key === 'room') return `${name} ${packVolume(amount, measures)}`.trim()
  return jobText(name, unit, amount)
}

/** What one of a job's unit is called, and how many of the stored ones it is. */
const UNITS: Record<string, { name: string; one: number; decimals: number }> = {
  ml: { name: 'l', one: 1_000, decimals: 3 },
  g: { name: 'kg', one: 1_000, decimals: 3 },
  mwh: { name: 'Wh', one: 1_000, decimals: 3 },
  tenths_of_r: { name: 'R', one: 10, decimals: 1 },
}
/** The unit that people know a job's amounts by. */
export const jobUnit = (unit: string) => UNITS[unit] ?? { name: '', one: 1, decimals: 0 }

/** An amount in the unit that people know it by, as it could have been typed. */
export function typedJob(unit: string, amount: number): string {
  const { decimals } = jobUnit(unit)
  const text = withDecimals(BigInt(amount), decimals)
  return decimals === 0 ? text : text.replace(/\.?0+$/, '')
}

/** A typed amount as it is stored; `null` for what is none. */
export function readJob(unit: string, typed: string): number | null {
  const { one, decimals } = jobUnit(unit)
  const text = typed.trim().replace(',', '.')
  const [, fraction = ''] = text.split('.')
  if (!/^\d+(\.\d+)?$/.test(text) || fraction.length > decimals) return null
  return Math.round(Number(text) * one)
}

/** The name of a job; one that has none is its key as words. */
export const jobName = (key: string, known: Map<string, { name: string }>) =>
  known.get(key)?.name ?? key.replaceAll('_', ' ')
