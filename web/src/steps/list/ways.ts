import type { Place } from '@/api/client'

/** The tags on which ways of counting differ, and where most count them. */
export const TAGS: { tag: string; what: string; usual: Place }[] = [
  { tag: 'poles', what: 'Walking poles (tag poles)', usual: 'worn' },
  { tag: 'pocket', what: 'Phone, keys, knife (tag pocket)', usual: 'worn' },
  { tag: 'container', what: 'Food container (tag container)', usual: 'carried' },
  { tag: 'gas_can', what: 'Shell of a gas can (tag gas_can)', usual: 'used_up' },
  { tag: 'consumables', what: 'Soap, sunscreen, paper (tag consumables)', usual: 'carried' },
  { tag: 'section_only', what: 'Axe, traction for a section (tag section_only)', usual: 'apart' },
]
