import type { TargetOf } from '@/api/client'

/** What a target can be of: as it is chosen, as a sentence names it, and as a caption does. */
export const TARGETS: Record<TargetOf, { choice: string; name: string; caption: string }> = {
  base: { choice: 'Base weight', name: 'base weight', caption: 'now' },
  loaded: { choice: 'Loaded weight', name: 'loaded weight', caption: 'loaded now' },
  heavy_few: { choice: 'The heavy few', name: 'weight of the heavy few', caption: 'heavy few now' },
}

/** The target of a list as one of base weight; null without one, or where it is of another figure. */
export const baseTarget = (list: { target_mg?: number | null; terms: { target_of: TargetOf } }) =>
  list.terms.target_of === 'base' ? (list.target_mg ?? null) : null
