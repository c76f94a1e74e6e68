import { grouped } from './exact'

/** Temperatures, volumes, distances and energy as the account's units have them. Held in tenths of °C, ml, m, mWh. */
export type Measures = 'metric' | 'imperial'

const MINUS = '−'
const signedText = (value: string) => (value.startsWith('-') ? MINUS + value.slice(1) : value)
/** As many decimals as say something, `most` at most. */
const tidy = (value: number, most: number) => grouped(String(Number(value.toFixed(most))))

/** "−5 °C", "2.5 °C", "23 °F". */
export const temperature = (tenths: number, units: Measures) =>
  units === 'metric'
    ? `${signedText(tidy(tenths / 10, 1))} °C`
    : `${signedText(String(Math.round((tenths * 9 + 1600) / 50)))} °F`

/** A difference of temperatures: "3 °C", "5 °F". */
export const degrees = (tenths: number, units: Measures) =>
  units === 'metric'
    ? `${signedText(tidy(tenths / 10, 1))} °C`
    : `${signedText(tidy((tenths * 9) / 50, 0))} °F`

/** "1.5 l", "51 fl oz". */
export const volume = (ml: number, units: Measures) =>
  units === 'metric'
    ? `${tidy(ml / 1000, 2)} l`
    : `${tidy(ml / 29.5735295625, Math.abs(ml) < 296 ? 1 : 0)} fl oz`

/** What packs hold: "45 l", "2 746 cu in". */
export const packVolume = (ml: number, units: Measures) =>
  units === 'metric' ? volume(ml, units) : `${tidy(ml / 16.387064, 0)} cu in`

/** "12 km", "7.5 mi". */
export const distance = (metres: number, units: Measures) =>
  units === 'metric' ? `${tidy(metres / 1000, 1)} km` : `${tidy(metres / 1609.344, 1)} mi`

/** "37 Wh (10 000 mAh)": charge at the 3.7 V that banks are rated by. */
export const energy = (mwh: number) => `${tidy(mwh / 1000, 1)} Wh`
export const energyWithCharge = (mwh: number) =>
  `${energy(mwh)} (${grouped(String(Math.round(mwh / 3.7)))} mAh)`
