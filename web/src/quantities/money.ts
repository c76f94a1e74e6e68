import { divHalfEven, grouped, withDecimals } from './exact'
import { signLeads } from './locale'
import { asText, tableMass, type MassSystem, type Shown } from './mass'

/** A currency as the account has it. */
export interface Currency {
  code: string
  decimals: number
}

const SIGNS = new Map<string, string>()

/** The sign of a currency, or its code if it has none. Looked up once a currency: tables ask for it in every cell. */
export function sign(currency: Currency): string {
  const known = SIGNS.get(currency.code)
  if (known !== undefined) return known
  const parts = new Intl.NumberFormat('en', {
    style: 'currency',
    currency: currency.code,
    currencyDisplay: 'narrowSymbol',
  }).formatToParts(0)
  const found = parts.find((part) => part.type === 'currency')?.value ?? currency.code
  SIGNS.set(currency.code, found)
  return found
}

/** An amount; `whole` leaves the decimals out, for columns in which no amount has any. */
export function amount(minor: number, currency: Currency, whole = false): Shown {
  const text = withDecimals(BigInt(minor), currency.decimals)
  const shown = whole ? text.split('.')[0]! : text
  const [unit, isFirst] = [sign(currency), leads(currency)]
  // A sign stands at its amount, a code apart from it: $411, but CHF 411.
  const isCode = /\p{L}$/u.test(unit)
  return { figure: grouped(shown), unit: isFirst && isCode ? `${unit}\u202f` : unit, leads: isFirst }
}

const LEADS = new Map<string, boolean>()

/** Whether the sign stands before the amount. Looked up once a currency, as the sign is. */
function leads({ code }: Currency): boolean {
  const known = LEADS.get(code) ?? signLeads(code)
  LEADS.set(code, known)
  return known
}

/** Whether none of the amounts has decimals to show. */
export const allWhole = (minors: number[], currency: Currency) =>
  minors.every((minor) => minor % 10 ** currency.decimals === 0)

/** An amount alone: without decimals if it has none. */
export const tidyAmount = (minor: number, currency: Currency) =>
  amount(minor, currency, allWhole([minor], currency))

/** An amount as a field takes it. */
export const typedAmount = (minor: number, currency: Currency) =>
  withDecimals(BigInt(minor), currency.decimals).replace(/\.0+$/, '').replace('−', '-')

/** What a unit of money buys: grams for 1, or ounces for 10. */
export function massPerMoney(
  savingMg: number,
  netMinor: number,
  currency: Currency,
  system: MassSystem,
): Shown {
  const minorPerMajor = 10n ** BigInt(currency.decimals)
  const [num, den] =
    system === 'metric'
      ? [BigInt(savingMg) * minorPerMajor * 10n, 1_000n]
      : [BigInt(savingMg) * minorPerMajor * 100_000_000n, 28_349_523_125n]
  return {
    figure: grouped(withDecimals(divHalfEven(num, den * BigInt(netMinor)), 1)),
    unit: tableMass(0, system).unit,
  }
}

/** What it costs to carry a kilogram, or a pound, less for one night. */
export function moneyPerMassNight(
  savedMgNights: number,
  netMinor: number,
  currency: Currency,
  system: MassSystem,
): Shown {
  const [num, den] =
    system === 'metric' ? [1_000_000n, BigInt(savedMgNights)] : [45_359_237n, BigInt(savedMgNights) * 100n]
  return amount(Number(divHalfEven(BigInt(netMinor) * num, den)), currency)
}

/** The same the other way round: what 100 grams, or an ounce, cost. */
export function moneyPerMass(
  savingMg: number,
  netMinor: number,
  currency: Currency,
  system: MassSystem,
): string {
  const per = system === 'metric' ? 100_000n : 28_350n
  const minor = divHalfEven(BigInt(netMinor) * per, BigInt(savingMg))
  return `${asText(amount(Number(minor), currency))} for ${system === 'metric' ? '100 g' : '1 oz'}`
}
