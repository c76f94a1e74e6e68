import type { ProposalWhy, Proposed, Unavailable } from '@/api/client'
import { counted, listed } from '@/quantities/count'

/** Why Kevyt proposes what it does, and why swaps can't be made, in words. */

type OfProposal<Code> = Extract<ProposalWhy, { code: Code }>
type OfSwap<Code> = Extract<Unavailable, { code: Code }>

const PROPOSED: {
  [Code in ProposalWhy['code']]: {
    what: (thing: string, why: OfProposal<Code>) => string
    why: (why: OfProposal<Code>) => string
  }
} = {
  never_used: {
    what: (thing) => `Leave out ${thing}`,
    why: ({ trips }) => `Carried on ${counted(trips, 'trip')} and never used.`,
  },
  done_by_others: {
    what: (thing, { by_own_pieces }) => `Leave out ${by_own_pieces ? 'one of ' : ''}${thing}`,
    why: ({ by, by_own_pieces }) =>
      `All that it does is done by ${listed(by_own_pieces ? [...by, 'the pieces that stay'] : by)}.`,
  },
  lighter_at_home: {
    what: (thing, { other }) => `${other} for ${thing}`,
    why: ({ other }) => `You own ${other}, and it does the same for this trip.`,
  },
  smaller_can_at_home: {
    what: (thing, { other }) => `${other} for ${thing}`,
    why: ({ other }) => `You own ${other}, and it holds enough gas for the trip.`,
  },
  kit_over_parts: {
    what: (thing) => `Trim what goes with ${thing}`,
    why: () => 'Weighed together, the kit is heavier than its parts: bags, straps, strings.',
  },
}

type Words = { what: (thing: string, why: ProposalWhy) => string; why: (why: ProposalWhy) => string }

/** What is proposed. */
export const proposed = ({ thing, why }: Pick<Proposed, 'thing' | 'why'>) =>
  (PROPOSED[why.code] as Words).what(thing, why)
/** And why. */
export const proposalWhy = (why: ProposalWhy) => (PROPOSED[why.code] as Words).why(why)

const UNAVAILABLE: { [Code in Unavailable['code']]: (why: OfSwap<Code>) => string } = {
  off_list: ({ thing }) => `It takes off ${thing}, which is not on this list any more.`,
  kept: ({ thing }) => `${thing} is to be kept: its drawer in Gear says so.`,
  requires_removed: ({ swap }) => `It requires ${swap || 'another swap'}, which was removed.`,
  requires_unavailable: ({ swap }) => `It requires ${swap || 'another swap'}, which can’t be made itself.`,
}

/** Why a swap can't be made. */
export const unavailableWhy = (why: Unavailable) =>
  (UNAVAILABLE[why.code] as (why: Unavailable) => string)(why)
