import type { Units } from './units'

/** Lines as they could be typed, in the walker's own units and money. */
export function lineExamples({ measures, currency }: Pick<Units, 'measures' | 'currency'>) {
  const isMetric = measures.value === 'metric'
  const pick = (metric: string, imperial: string) => (isMetric ? metric : imperial)
  const money = (amount: string) => `${amount}${currency.value.code.toLowerCase()}`
  return {
    gear: `rain shell ${pick('212g', '7.5oz')} ${money('149')}`,
    weights: [
      [pick('~310g', '~11oz'), 'a guess'],
      [pick('maker 388g', 'maker 13.7oz'), 'the maker’s figure'],
      [pick('weighed 402g', 'weighed 14.2oz'), ''],
    ] as const,
    prices: [money('15-20'), `used ${money('80')}`, `3 for ${money('29')}`, 'gift'],
    facts: [`quilt ${pick('-5C', '20F')}`, 'pad R4.5', 'pack 45l'],
    swap: `quilt ${pick('545g', '19.2oz')} ${money('262')} for mummy bag`,
    trim: `trim towel ${pick('48g', '1.7oz')}`,
    make: `sew quilt ${pick('480g', '17oz')} ${money('35')} for mummy bag`,
  }
}
