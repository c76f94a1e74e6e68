import type { Place } from '@/api/client'

/** The ways of counting that are built in, as people call them. */
const NAMES: Record<string, string> = {
  as_laid_out: 'As laid out',
  usual: 'As most count',
  all_on_the_back: 'All on the back',
  container_apart: 'Container apart',
  consumables_used_up: 'Soap and paper used up',
}
export const wayName = (way: string) => NAMES[way] ?? way

/** The tags on which ways of counting differ, and where most count them. */
export const TAGS: { tag: string; what: string; usual: Place }[] = [
  { tag: 'poles', what: 'Walking poles (tag poles)', usual: 'worn' },
  { tag: 'pocket', what: 'Phone, keys, knife (tag pocket)', usual: 'worn' },
  { tag: 'container', what: 'Food container (tag container)', usual: 'carried' },
  { tag: 'gas_can', what: 'Shell of a gas can (tag gas_can)', usual: 'used_up' },
  { tag: 'consumables', what: 'Soap, sunscreen, paper (tag consumables)', usual: 'carried' },
  { tag: 'section_only', what: 'Axe, traction for a section (tag section_only)', usual: 'apart' },
]
