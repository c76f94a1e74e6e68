import { DECIMAL_MARK } from './locale'

/** Exact division for figures that are shown. The rules themselves are the server's; this only writes what it says. */

/** `num / den` rounded half to even; `den` is positive. */
export function divHalfEven(num: bigint, den: bigint): bigint {
  let floor = num / den
  let rest = num % den
  if (rest < 0n) {
    floor -= 1n
    rest += den
  }
  if (rest * 2n === den) return floor % 2n === 0n ? floor : floor + 1n
  return rest * 2n > den ? floor + 1n : floor
}

/** A value in 10^-decimals, with exactly that many decimals. */
export function withDecimals(value: bigint, decimals: number): string {
  const sign = value < 0n ? '−' : ''
  const digits = (value < 0n ? -value : value).toString().padStart(decimals + 1, '0')
  const int = digits.slice(0, digits.length - decimals)
  return sign + (decimals === 0 ? int : `${int}.${digits.slice(-decimals)}`)
}

/** A figure with the language's decimal mark. */
export const written = (text: string) => text.replace('.', DECIMAL_MARK)

/** A figure with its digits in threes, a narrow space between them, and the language's decimal mark. */
export function grouped(text: string): string {
  const [int = '', rest] = text.split('.')
  const spaced = int.replace(/\B(?=(\d{3})+$)/g, '\u202f')
  return written(rest === undefined ? spaced : `${spaced}.${rest}`)
}
