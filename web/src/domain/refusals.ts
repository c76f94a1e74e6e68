import type { RefusedFigure } from '@/api/client'
import { degrees, temperature, volume } from '@/quantities/measures'
import type { Units } from './units'

/** Figures that were refused, in the walker's own units. */

type Quantity = RefusedFigure['quantity']
type Reason = Extract<RefusedFigure, { code: 'unread' }>['reason']
type In = Pick<Units, 'system' | 'currency' | 'measures' | 'tableText' | 'moneyText'>

/** What would be taken. */
function examples(quantity: Quantity, { system, measures, currency }: In): string {
  const inPounds = system.value !== 'metric'
  const byMeasures = (metric: string, imperial: string) => (measures.value === 'metric' ? metric : imperial)
  switch (quantity) {
    case 'mass':
      return inPounds
        ? 'a weight such as 14.5 oz, 2 lb or 3 lb 5 oz, up to 440 lb'
        : 'a weight such as 412 g or 0.412 kg, up to 200 kg'
    case 'money': {
      const cents =
        currency.value.decimals > 0 ? (currency.value.decimals === 2 ? '120.50' : '120.5') : '1500'
      return `an amount in ${currency.value.code} such as 120 or ${cents}, or a range such as 15-20`
    }
    case 'temperature':
      return byMeasures(
        'a temperature such as -5, from -90 to 60 °C',
        'a temperature such as 23, from -130 to 140 °F',
      )
    case 'warmth':
      return byMeasures('a difference such as 5 °C', 'a difference such as 9 °F')
    case 'volume':
      return byMeasures(
        'a volume such as 2 L or 750 ml, up to 500 L',
        'a volume such as 64 fl oz or 3100 cu in',
      )
    case 'energy':
      return 'an energy such as 37 Wh, 10000 mAh or 10000 mAh at 5 V, up to 10000 Wh'
    case 'distance':
      return byMeasures('a distance such as 12 km or 800 m, up to 20000 km', 'a distance such as 7.5 mi')
  }
}

/** Why typed text is not taken. */
function unread(typed: string, reason: Reason): string {
  switch (reason.code) {
    case 'empty':
      return 'Nothing was typed.'
    case 'too_long':
      return `"${typed.slice(0, 20)}…" has ${reason.length} characters, more than any figure.`
    case 'not_a_number':
      return `"${typed}" is not read as a figure.`
    case 'ambiguous':
      return `"${typed}" can be ${reason.thousands}${reason.rest} or ${reason.decimal}${reason.rest}.`
    case 'unknown_unit':
      return `"${reason.unit}" in "${typed}" is not a unit known here.`
    case 'negative':
      return `"${typed}" is below zero.`
    case 'order':
      return `"${typed}" has its parts in an order that can’t be read.`
    case 'minor_part':
      return `"${typed}" has a smaller part that is a whole larger one or more, or a larger part that is not whole.`
    case 'out_of_range':
      return `"${typed}" is more than can be held.`
    case 'too_fine':
      return `"${typed}" is finer than can be held.`
    case 'other_currency':
      return `"${typed}" is in ${reason.currency}.`
  }
}

/** A quantity as it comes with a refusal, in words. */
function quantityText(value: number, quantity: Quantity, units: In): string | null {
  switch (quantity) {
    case 'mass':
      return units.tableText(value)
    case 'money':
      return units.moneyText(value)
    case 'temperature':
      return temperature(value, units.measures.value)
    case 'warmth':
      return degrees(value, units.measures.value)
    case 'volume':
      return volume(value, units.measures.value)
    default:
      return null
  }
}

/** A refused figure in a sentence; null where there are no words for it. */
export function figureWords(figure: RefusedFigure, units: In): string | null {
  if (figure.code === 'unread') {
    const { reason, typed, quantity } = figure
    const wanted =
      reason.code === 'ambiguous' ? `${reason.thousands} or ${reason.decimal}` : examples(quantity, units)
    return `${unread(typed, reason)} Type ${wanted}.`
  }
  const [low, high] = [figure.low, figure.high].map((value) => quantityText(value, figure.quantity, units))
  return low && high ? `That can’t be: type from ${low} to ${high}.` : null
}
