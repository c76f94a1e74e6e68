import { useQuery } from '@tanstack/vue-query'
import { computed, inject, type InjectionKey, type Ref } from 'vue'
import type { Account, Chip } from '@/api/client'
import { accountQuery } from '@/api/queries'
import {
  asText,
  fine,
  massNights,
  scaleUnit,
  signed,
  tableMass,
  totalMass,
  type MassSystem,
} from '@/quantities/mass'
import type { Measures } from '@/quantities/measures'
import { massPerMoney, moneyPerMass, moneyPerMassNight, tidyAmount, type Currency } from '@/quantities/money'
import { ACQUIRED, SOURCES } from './words'

/** The units of a page that is somebody else's: a shared list is shown in those of whose it is. */
export const SHOWN_IN: InjectionKey<Ref<Pick<Account, 'mass' | 'currency' | 'currency_decimals'>>> =
  Symbol('units')

/** The account's units, or those of the page, and figures shown in them. */
export function useUnits() {
  const { data: own } = useQuery(accountQuery)
  const given = inject(SHOWN_IN, null)
  const account = computed(() => given?.value ?? own.value)
  const system = computed<MassSystem>(() => account.value?.mass ?? 'metric')
  const currency = computed<Currency>(() => ({
    code: account.value?.currency ?? 'EUR',
    decimals: account.value?.currency_decimals ?? 2,
  }))
  return {
    system,
    currency,
    scale: computed(() => scaleUnit(system.value)),
    table: (mg: number) => tableMass(mg, system.value),
    total: (mg: number) => totalMass(mg, system.value),
    tableText: (mg: number) => asText(tableMass(mg, system.value)),
    totalText: (mg: number) => asText(totalMass(mg, system.value)),
    /** What a stretch of a typed line means, its figures as they are written here. */
    meaning: ({ acquired, source, mg, low_minor: low, high_minor: high, meaning }: Chip) => {
      if (acquired) return ACQUIRED[acquired]
      if (source) return SOURCES[source]
      if (mg != null) return asText(tableMass(mg, system.value))
      if (low == null || high == null) return meaning
      const [from, to] = [tidyAmount(low, currency.value), tidyAmount(high, currency.value)]
      return low === high ? asText(to) : `${from.figure}–${asText(to)}`
    },
    /** Which temperatures, volumes and distances go with it. */
    measures: computed<Measures>(() => (system.value === 'metric' ? 'metric' : 'imperial')),
    /** A doubt or a step: no decimals that say nothing. */
    fineText: (mg: number) => fine(mg, system.value),
    signed: (mg: number) => signed(mg, system.value),
    money: (minor: number) => tidyAmount(minor, currency.value),
    moneyText: (minor: number) => asText(tidyAmount(minor, currency.value)),
    /** A figure of money that is written already, with its sign. */
    withSign: (figure: string) => asText({ ...tidyAmount(0, currency.value), figure }),
    perMoney: (mg: number, minor: number) => massPerMoney(mg, minor, currency.value, system.value),
    perMass: (mg: number, minor: number) => moneyPerMass(mg, minor, currency.value, system.value),
    /** What is carried over nights. */
    massNights: (mgNights: number) => massNights(mgNights, system.value),
    massNightsText: (mgNights: number) => asText(massNights(mgNights, system.value)),
    /** What carrying a kilogram, or a pound, less for one night costs. */
    perMassNight: (mgNights: number, minor: number) =>
      moneyPerMassNight(mgNights, minor, currency.value, system.value),
    /** What the column of grams for money is called. */
    perMoneyName: computed(() => {
      const of = tidyAmount(
        (system.value === 'metric' ? 1 : 10) * 10 ** currency.value.decimals,
        currency.value,
      )
      return `${system.value === 'metric' ? 'Grams' : 'Ounces'} per ${system.value === 'metric' ? of.unit : asText(of)}`
    }),
  }
}

/** The account's units, as useUnits() gives them. */
export type Units = ReturnType<typeof useUnits>
