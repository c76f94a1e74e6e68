import { useQuery } from '@tanstack/vue-query'
import { computed, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import {
  api,
  unwrapChange,
  type FrontierPoint,
  type ListChange,
  type NearMisses,
  type PlanAnswer,
  type TargetOf,
} from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { nearMissesQuery, planQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import { useLists } from './lists'
import { TARGETS } from './targetOf'

/** A plan as it is shown: the server's, or one read off the frontier while target or budget is being dragged. */
export interface ShownPlan {
  outcome: PlanAnswer['plan']['outcome'] | 'unaffordable'
  swaps: number[]
  hasPlan: boolean
  net_minor: number
  base_mg: number
  short_by_mg: number
  more_minor: number | null
  lightest_mg: number | null
  /** The base weight after each swap; left out while a line is dragged, where the ranking's savings stand in. */
  bases_mg?: number[]
}

/** Where the lines of a list stand while they are dragged, and until what was asked is planned: the beam and the chart show the same. */
const dragged = ref<{
  list: string
  target?: number | null
  budget?: number | null
  /** Whether it is still being moved: no answer puts it back under the hand that holds it. */
  isHeld: boolean
} | null>(null)

/**
 * Reads a plan off the frontier, which holds the answer to every target and budget: the cheapest point at or under the
 * target if it fits the budget, else the lightest point within it. One that is not whole says nothing of what it has not.
 */
export function readFrontier(
  frontier: FrontierPoint[],
  target: number,
  budget: number,
  isWhole = true,
): ShownPlan | null {
  const reach = frontier.find((point) => point.base_mg <= target)
  const within = frontier.findLast((point) => point.net_minor <= budget)
  const lightest = frontier.at(-1)
  const cheapest = frontier[0]
  if (!lightest || !cheapest) return null
  // Below the cheapest set there is none: it is said what is missing, and the chart stays.
  if (!within)
    return {
      ...none,
      outcome: isWhole ? 'unaffordable' : 'unresolved',
      base_mg: cheapest.base_mg,
      more_minor: cheapest.net_minor - budget,
    }
  const met = reach !== undefined && reach.net_minor <= budget
  const point = met ? reach : within
  return {
    outcome: met ? 'target_met' : reach ? 'over_budget' : isWhole ? 'out_of_reach' : 'unresolved',
    swaps: point.swaps,
    hasPlan: true,
    net_minor: point.net_minor,
    base_mg: point.base_mg,
    short_by_mg: Math.max(0, point.base_mg - target),
    more_minor: !met && reach ? reach.net_minor - budget : null,
    lightest_mg: reach ? null : lightest.base_mg,
  }
}

/** The question of a list (target and budget), its plan, and how to change them. */
export function useQuestion(list: MaybeRefOrGetter<string>) {
  const id = computed(() => toValue(list))
  const { current } = useLists(id)
  const {
    data: served,
    error,
    refetch,
    isPlaceholderData,
  } = useQuery(
    computed(() => ({
      ...planQuery(id.value),
      // Only whose list it is has a question; a partner plans on a copy.
      enabled: current.value !== undefined && !current.value.of,
      // While a list is planned again its last plan stands; another list's says nothing of it.
      placeholderData: (old?: PlanAnswer) => (old?.list.id === id.value ? old : undefined),
    })),
  )
  const {
    data: near,
    error: nearError,
    refetch: refetchNear,
  } = useQuery(
    computed(() => ({
      ...nearMissesQuery(id.value, served.value?.revision ?? 0),
      enabled: served.value !== undefined && !isPlaceholderData.value,
      // Those of the plan before stand until these are there, as all figures do.
      placeholderData: (old?: NearMisses) => old,
    })),
  )
  const answer = computed<PlanAnswer | undefined>(
    () =>
      served.value && {
        ...served.value,
        near_misses: near.value?.near_misses ?? [],
        meet_costs: near.value?.meet_costs ?? [],
        // Of other points than these it says nothing.
        sure: near.value?.revision === served.value.revision ? near.value.sure : null,
      },
  )
  /** Whether the near misses of this very plan are there. */
  const isNearKnown = computed(
    () => near.value !== undefined && near.value.revision === served.value?.revision,
  )
  const messages = useMessages()
  const undo = useUndo()
  const moved = computed(() => (dragged.value?.list === id.value ? dragged.value : null))

  const of = (now: number | null | undefined, asked: number | null | undefined) =>
    now === undefined ? (asked ?? null) : now
  const target = computed(() => of(moved.value?.target, answer.value?.list.target_mg))
  const budget = computed(() => of(moved.value?.budget, answer.value?.list.budget_minor))
  /** What the swaps that are done have taken of the budget. */
  const spent = computed(() => answer.value?.spent_minor ?? 0)
  /** What the budget still has for swaps to come. */
  const left = computed(() => (budget.value === null ? null : Math.max(0, budget.value - spent.value)))

  const plan = computed<ShownPlan | null>(() => {
    if (!answer.value) return null
    const { plan, frontier, aim_mg: base_mg, swaps, proved, list } = answer.value
    if (moved.value) {
      const isAsked = swaps.some((swap) => swap.state === 'pinned') || list.terms.meet.length > 0
      const wanted = target.value ?? 0
      if (!isAsked && (target.value === null ? false : base_mg <= wanted)) {
        return { ...none, outcome: 'already_met', hasPlan: true, base_mg }
      }
      return readFrontier(frontier, wanted, left.value ?? Number.MAX_SAFE_INTEGER, proved)
    }
    return {
      ...plan,
      swaps: plan.swaps ?? [],
      hasPlan: Array.isArray(plan.swaps),
      more_minor: plan.more_minor ?? null,
      lightest_mg: plan.lightest_mg ?? null,
    }
  })

  const cache = useCacheUpdates()
  const change = useChange(
    (asked: ListChange) =>
      unwrapChange(
        api.PATCH('/api/lists/{id}', {
          params: { path: { id: id.value }, query: { version: cache.newestList(id.value)?.version ?? 0 } },
          body: asked,
        }),
      ),
    (cache, { value }) => cache.list(value),
  )

  const write = (asked: ListChange) => withLock(`list ${id.value}`, () => change.mutateAsync(asked))

  /** Writes a typed target or budget. Throws what the server refuses. */
  const ask = async (asked: { target?: string | null; budget?: string | null }) => {
    const changed = await write(asked)
    const { id: list, target_mg, budget_minor } = changed.value
    dragged.value = { list, target: target_mg ?? null, budget: budget_minor ?? null, isHeld: false }
    return changed
  }

  /** Moves a line while it is dragged; nothing is written yet. */
  const drag = (to: { target?: number; budget?: number }) =>
    (dragged.value = { ...moved.value, ...to, list: id.value, isHeld: true })

  /** Writes where a drag ended. */
  const drop = async (asked: { target?: string; budget?: string }) => {
    try {
      const changed = await ask(asked)
      const what =
        asked.target === undefined ? 'Budget' : asked.budget === undefined ? 'Target' : 'Target and budget'
      messages.done(`${what} changed.`, undo(changed))
    } catch (error) {
      dragged.value = null
      messages.failed(error)
    }
  }
  /** Puts the lines back where they were. */
  const undrag = () => (dragged.value = null)
  // The server's answer to the drag takes over from the drag.
  watch(served, () => dragged.value?.isHeld || undrag())

  /** Writes how the plan is asked for, beside target and budget. */
  const askBy = async (terms: Pick<ListChange, 'counting' | 'rank_by' | 'purse' | 'meet'>) => {
    try {
      await write(terms)
    } catch (error) {
      messages.failed(error)
    }
  }
  /** Aims at another figure. A target of the one before says nothing of it. */
  const aimAt = async (target_of: TargetOf) => {
    try {
      const hadTarget = answer.value?.list.target_mg != null
      const changed = await write({ target_of, target: null })
      const set = hadTarget ? ' Set the target anew at the top.' : ''
      messages.done(`The plan is of the ${TARGETS[target_of].name}.${set}`, undo(changed))
    } catch (error) {
      messages.failed(error)
    }
  }
  const inPlan = computed(() => new Set(plan.value?.swaps ?? []))
  const isDragged = computed(() => moved.value !== null)
  return {
    id,
    answer,
    error,
    refetch,
    nearError,
    refetchNear,
    isNearKnown,
    plan,
    inPlan,
    target,
    budget,
    spent,
    left,
    ask,
    askBy,
    aimAt,
    write,
    drag,
    drop,
    undrag,
    isDragged,
  }
}

const none: ShownPlan = {
  outcome: 'unresolved',
  swaps: [],
  hasPlan: false,
  net_minor: 0,
  base_mg: 0,
  short_by_mg: 0,
  more_minor: null,
  lightest_mg: null,
}
