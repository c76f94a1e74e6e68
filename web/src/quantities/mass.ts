import { divHalfEven, grouped, withDecimals, written } from './exact'
import { DECIMAL_MARK } from './locale'

/** The account's units of mass. */
export type MassSystem = 'metric' | 'pounds_and_ounces' | 'decimal_pounds'

/** A figure and the unit that stands small behind it. */
export interface Shown {
  figure: string
  unit: string
  /** Whether the unit stands before the figure, as a dollar sign does. */
  leads?: boolean
}

const OZ_TENTHS = { num: 10_000_000n, den: 28_349_523_125n }

const tenthsOfOunce = (mg: bigint) => divHalfEven(mg * OZ_TENTHS.num, OZ_TENTHS.den)

function tableGrams(mg: bigint): Shown {
  if (mg === 0n) return { figure: '0', unit: 'g' }
  const size = mg < 0n ? -mg : mg
  if (size < 9_950n) return { figure: written(withDecimals(divHalfEven(mg, 100n), 1)), unit: 'g' }
  return { figure: grouped(withDecimals(divHalfEven(mg, 1_000n), 0)), unit: 'g' }
}

function poundsAndOunces(mg: bigint): Shown {
  const tenths = tenthsOfOunce(mg < 0n ? -mg : mg)
  const sign = mg < 0n ? '−' : ''
  return { figure: `${sign}${tenths / 160n} lb ${written(withDecimals(tenths % 160n, 1))}`, unit: 'oz' }
}

/** A mass as it stands in a table: grams or ounces. */
export function tableMass(mg: number, system: MassSystem): Shown {
  if (system === 'metric') return tableGrams(BigInt(mg))
  return { figure: written(withDecimals(tenthsOfOunce(BigInt(mg)), 1)), unit: 'oz' }
}

/** A mass as it stands in a total: kilograms, pounds and ounces, or decimal pounds. */
export function totalMass(mg: number, system: MassSystem): Shown {
  const exact = BigInt(mg)
  if (system === 'metric')
    return { figure: written(withDecimals(divHalfEven(exact, 10_000n), 2)), unit: 'kg' }
  if (system === 'pounds_and_ounces') return poundsAndOunces(exact)
  return { figure: written(withDecimals(divHalfEven(exact * 10_000n, 45_359_237n), 2)), unit: 'lb' }
}

/** A mass that is carried for nights: kilograms or pounds times nights, with a decimal where it is small. */
export function massNights(mgNights: number, system: MassSystem): Shown {
  const [tenths, unit] =
    system === 'metric'
      ? [divHalfEven(BigInt(mgNights), 100_000n), 'kg nights']
      : [divHalfEven(BigInt(mgNights) * 1_000n, 45_359_237n), 'lb nights']
  const isLarge = tenths >= 1_000n || tenths <= -1_000n
  const text = isLarge ? withDecimals(divHalfEven(tenths, 10n), 0) : withDecimals(tenths, 1)
  return { figure: grouped(text), unit }
}

/** Milligrams in the unit of a scale that is drawn: a kilogram or a pound. */
export const scaleUnit = (system: MassSystem) =>
  system === 'metric' ? { mg: 1_000_000, name: 'kg' } : { mg: 453_592.37, name: 'lb' }

export function asText({ figure, unit, leads }: Shown): string {
  if (!leads) return `${figure} ${unit}`
  return figure.startsWith('−') ? `−${unit}${figure.slice(1)}` : `${unit}${figure}`
}

/** Grams with a point, exact, in a form that the server reads without a question: three decimals alone could be thousands. */
export function exactGrams(mg: number): string {
  const text = withDecimals(BigInt(mg), 3)
  return `${/[1-9]$/.test(text) ? `${text}0` : text.replace(/\.?0+$/, '')} g`
}

/** A difference with its sign: `+80 g`, `−12 g`, `+3 g`. */
export function signed(mg: number, system: MassSystem): string {
  const shown = asText(tableMass(mg, system))
  const isNothing = mg !== 0 && !/[1-9]/.test(shown)
  const text = system === 'metric' || isNothing ? fine(mg, system) : shown
  return mg > 0 ? `+${text}` : text
}

/** A doubt, a step or a difference: no decimals that say nothing, and as many as it takes to say something: `1 g`, `0.04 oz`. */
export function fine(mg: number, system: MassSystem): string {
  const zeros = new RegExp(`\\${DECIMAL_MARK}0 `)
  if (system === 'metric') {
    const tiny = mg !== 0 && Math.abs(mg) < 100
    if (tiny) return `${written(withDecimals(BigInt(mg), 3).replace(/0+$/, ''))} g`
    return asText(tableMass(mg, system)).replace(zeros, ' ')
  }
  const hundredths = divHalfEven(BigInt(mg) * OZ_TENTHS.num * 10n, OZ_TENTHS.den)
  const decimals = hundredths !== 0n && hundredths > -10n && hundredths < 10n ? 2 : 1
  if (decimals === 1) return asText(tableMass(mg, system)).replace(zeros, ' ')
  return `${written(withDecimals(hundredths, 2))} oz`
}

/** A mass as a bare figure for a spreadsheet, with a point: exact grams, or ounces to a hundredth; nothing where none is known. */
export function bareMass(mg: number | null | undefined, system: MassSystem): string {
  if (mg == null) return ''
  const tidy = (text: string) => text.replace(/\.?0+$/, '').replace('−', '-')
  if (system === 'metric') return tidy(withDecimals(BigInt(mg), 3))
  return tidy(withDecimals(divHalfEven(BigInt(mg) * OZ_TENTHS.num * 10n, OZ_TENTHS.den), 2))
}
