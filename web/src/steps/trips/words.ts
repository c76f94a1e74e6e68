import type { Cause } from '@/api/client'

/** Causes of a change of base weight: a name, and a mark drawn around 0, 0. */
export const CAUSES: Record<Cause, { name: string; mark: string }> = {
  swap: { name: 'Swap', mark: 'M-6 5H6V-6Z' },
  weighed: { name: 'Weighed', mark: 'M-5 -4H5V4H-5Z' },
  left_out: { name: 'Left out', mark: 'M-5 -4H5L0 6Z' },
  added: { name: 'Added', mark: 'M-5 5H5L0 -5Z' },
  counted: { name: 'Counted another way', mark: 'M-5 -5H-1V5H-5ZM1 -5H5V5H1Z' },
  changed: { name: 'Changed', mark: 'M0 -5L5 0L0 5L-5 0Z' },
  earlier: { name: 'Earlier', mark: 'M-5 0A5 5 0 1 0 5 0A5 5 0 1 0 -5 0Z' },
}
