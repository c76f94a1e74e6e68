import type { Lighter } from '@/api/client'

/** A line that begins a swap for a light one of its kind: its figures are guesses, to be replaced by real ones. */
export function lighterLine({ name, kind, light }: Lighter, currency: string, hasPrice: boolean): string {
  const price = hasPrice ? ` ${light.euros} ${currency}` : ''
  return `light ${kind} ~${light.mg / 1000} g${price} for ${name}`
}
