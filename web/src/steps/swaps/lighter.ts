import type { Lighter } from '@/api/client'

/** A line that begins a swap for a light one of its kind: its figures are guesses, to be replaced by real ones. */
export function lighterLine(
  { name, kind_name: kind, light, own }: Lighter,
  currency: { code: string; decimals: number },
  hasPrice: boolean,
): string {
  const known = own ? (own.minor == null ? null : own.minor / 10 ** currency.decimals) : light.euros
  const price = known != null && (own || hasPrice) ? ` ${known} ${currency.code}` : ''
  return `light ${kind} ~${(own?.mg ?? light.mg) / 1000} g${price} for ${name}`
}
