import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, take, type FrontierPoint, type PlanAnswer } from '@/api/client'
import { planQuery, useChange } from '@/api/queries'
import { useLists } from './lists'
import { useMessages } from './messages'

/** A plan as it is shown: the server's, or one read off the frontier while target or budget is being dragged. */
export interface ShownPlan {
  outcome: PlanAnswer['plan']['outcome']
  swaps: number[]
  hasPlan: boolean
  net_minor: number
  base_mg: number
  short_by_mg: number
  more_minor: number | null
  lightest_mg: number | null
}

const dragged = ref<{ target?: number; budget?: number } | null>(null)

/**
 * Reads a plan off the frontier, which holds the answer to every target and budget: the cheapest point at or under the
 * target if it fits the budget, else the lightest point within it.
 */
export function readFrontier(frontier: FrontierPoint[], target: number, budget: number): ShownPlan | null {
  const reach = frontier.find((point) => point.base_mg <= target)
  const within = frontier.findLast((point) => point.net_minor <= budget)
  const lightest = frontier.at(-1)
  if (!within || !lightest) return null
  const met = reach !== undefined && reach.net_minor <= budget
  const point = met ? reach : within
  return {
    outcome: met ? 'target_met' : reach ? 'over_budget' : 'out_of_reach',
    swaps: point.swaps,
    hasPlan: true,
    net_minor: point.net_minor,
    base_mg: point.base_mg,
    short_by_mg: Math.max(0, point.base_mg - target),
    more_minor: !met && reach ? reach.net_minor - budget : null,
    lightest_mg: reach ? null : lightest.base_mg,
  }
}

/** The question of the list at hand (target and budget), its plan, and how to change them. */
export function useQuestion() {
  const { current } = useLists()
  const id = computed(() => current.value?.id ?? '')
  const { data: answer, error } = useQuery(
    computed(() => ({
      ...planQuery(id.value),
      enabled: id.value !== '',
      placeholderData: (old?: PlanAnswer) => old,
    })),
  )
  const messages = useMessages()

  const target = computed(() => dragged.value?.target ?? answer.value?.list.target_mg ?? null)
  const budget = computed(() => dragged.value?.budget ?? answer.value?.list.budget_minor ?? null)

  const plan = computed<ShownPlan | null>(() => {
    if (!answer.value) return null
    const { plan: served, frontier, base_mg, swaps } = answer.value
    if (dragged.value) {
      const pinned = swaps.some((swap) => swap.state === 'pinned')
      const wanted = target.value ?? 0
      if (!pinned && base_mg <= wanted) {
        return { ...none, outcome: 'already_met', hasPlan: true, base_mg }
      }
      return readFrontier(frontier, wanted, budget.value ?? Number.MAX_SAFE_INTEGER)
    }
    return {
      ...served,
      swaps: served.swaps ?? [],
      hasPlan: Array.isArray(served.swaps),
      more_minor: served.more_minor ?? null,
      lightest_mg: served.lightest_mg ?? null,
    }
  })

  const change = useChange((asked: { target?: string | null; budget?: string | null }) =>
    take(
      api.PATCH('/api/lists/{id}', {
        params: { path: { id: id.value }, query: { version: answer.value?.list.version ?? 0 } },
        body: asked,
      }),
    ),
  )

  /** Writes a typed target or budget. Throws what the server refuses. */
  const ask = async (asked: { target?: string | null; budget?: string | null }) => {
    await change.mutateAsync(asked)
  }

  /** Moves a line while it is dragged; nothing is written yet. */
  const drag = (moved: { target?: number; budget?: number }) =>
    (dragged.value = { ...dragged.value, ...moved })

  /** Writes where a drag ended. */
  const drop = async (asked: { target?: string; budget?: string }) => {
    try {
      await ask(asked)
    } catch (error) {
      dragged.value = null
      if (error instanceof Error) messages.failed(error)
    }
  }
  // The server's answer to the drag takes over from the drag.
  watch(answer, () => (dragged.value = null))

  const inPlan = computed(() => new Set(plan.value?.swaps ?? []))
  const isDragged = computed(() => dragged.value !== null)
  return { id, answer, error, plan, inPlan, target, budget, ask, drag, drop, isDragged }
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
