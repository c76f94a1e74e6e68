/** How the browser's language writes figures, days and money. */
export const LANGUAGE = globalThis.navigator?.language ?? 'en'

/** The decimal mark. Thousands are grouped by a narrow space in every language: a comma or point there is read back as a question. */
export const DECIMAL_MARK =
  new Intl.NumberFormat(LANGUAGE).formatToParts(1.5).find((part) => part.type === 'decimal')?.value ?? '.'

/** English that says nothing of where the walker is: browsers are shipped with it everywhere. */
const EVERYWHERE = ['en', 'en-US']

/** A language of those who pay in a currency. */
const HOME: Record<string, string> = {
  EUR: 'de',
  SEK: 'sv',
  NOK: 'nb',
  DKK: 'da',
  PLN: 'pl',
  CZK: 'cs',
}

/** Whether the sign of a currency stands before the amount where the walker lives: `$411`, but `411 €`. */
export function signLeads(code: string): boolean {
  const language = (EVERYWHERE.includes(LANGUAGE) && HOME[code]) || LANGUAGE
  const parts = new Intl.NumberFormat(language, { style: 'currency', currency: code }).formatToParts(1)
  const place = (type: string) => parts.findIndex((part) => part.type === type)
  return place('currency') < place('integer')
}
