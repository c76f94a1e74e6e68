import { withDecimals } from './exact'

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

/** The name of a job; one that has none is its key as words. */
export const jobName = (key: string, known: Map<string, { name: string }>) =>
  known.get(key)?.name ?? key.replaceAll('_', ' ')
