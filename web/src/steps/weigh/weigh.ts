import { useQuery } from '@tanstack/vue-query'
import { computed, ref, shallowRef, toValue, type MaybeRefOrGetter } from 'vue'
import {
  api,
  orLater,
  unwrapChange,
  type Changed,
  type KitDraft,
  type Queued,
  type Trust,
} from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { weighQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import { useRouteFlag } from '@/controls/route'
import { reason, useMessages } from '@/controls/messages'
import { useQuestion } from '@/domain/question'

/** What a reading is for. */
export type Mark = { kind: 'gear' | 'kit'; id: string }

/** A reading as it is sent. */
export interface Reading {
  total: string
  container?: string
  pieces?: number
  step_mg?: number
  scale?: string
}

/** The wider side of a band that may be uneven: a single ± of it holds both ways, and is the same on List. */
export const widerSide = (trust: Trust) => Math.max(-trust.likely_low_mg, trust.likely_high_mg)

/** A reading that could not be saved, and what it was for. */
export interface Unsaved {
  key: number
  mark: Mark
  reading: Reading
  name: string
  shown: string
  why: string
}

/** How often the queue is asked for before it is taken as it is. */
const MOST_TRIES = 20
const NUMBERS = ['', 'One', 'Two', 'Three', 'Four', 'Five', 'Six']

/**
 * How far a total can be trusted, and what the first weighings of the queue would do for it. What they would not change to the eye is
 * not promised.
 */
export function trustSentence(
  { now, after, foretold }: { now: Trust; after: Trust; foretold: number },
  whose: string,
  text: (mg: number) => string,
): string {
  const [before, narrowed] = [now, after].map((trust) => `±${text(widerSide(trust))}`)
  const unknown = `${now.unknown === 1 ? 'One weight is' : `${now.unknown} weights are`} unknown.`
  if (now.unknown && (foretold === 0 || before === narrowed)) return `${unknown} Weigh those first.`
  if (foretold === 0 || before === narrowed)
    return widerSide(now)
      ? `Everything here is as good as a kitchen scale tells: ${whose} is known to ${before}.`
      : `Everything here is weighed.`
  const count = foretold === 1 ? 'One weight' : `${NUMBERS[foretold] ?? foretold} weights`
  const missing = now.unknown
    ? `, and settle ${now.unknown === 1 ? 'one that is' : `${now.unknown} that are`} unknown`
    : ''
  return `${count} would narrow ${whose} from ${before} to ${narrowed}${missing}. Least certain first.`
}

/** The Weigh step's queue for a list, what was taken today, kits, and how readings are taken. */
export function useWeigh(of: MaybeRefOrGetter<string>) {
  /** Whether the queue is of all gear rather than of the list at hand. */
  const all = useRouteFlag('all')
  const list = computed(() => (all.value ? '' : toValue(of)))
  const { data: page, error, refetch } = useQuery(computed(() => weighQuery(list.value)))
  const { done, failed } = useMessages()
  const undo = useUndo()

  const marked = ref<Mark | null>(null)
  const { answer } = useQuestion(of)
  /** By gear, what not knowing its weight costs the list's plan. */
  const costs = computed(
    () =>
      new Map(
        all.value ? [] : (answer.value?.sure?.doubts ?? []).map((doubt) => [doubt.gear, doubt.costs_minor]),
      ),
  )
  /** Whether what costs most comes first, rather than what is least certain. */
  const byCost = useRouteFlag('by-cost')
  const queue = computed(() => {
    const queue = page.value?.queue ?? []
    const cost = ({ gear }: Queued) => costs.value.get(gear.id) ?? 0
    return byCost.value ? [...queue].sort((a, b) => cost(b) - cost(a)) : queue
  })
  const queued = computed<Queued | null>(() => {
    const mark = marked.value
    if (mark?.kind === 'kit') return null
    return queue.value.find(({ gear }) => gear.id === mark?.id) ?? queue.value[0] ?? null
  })
  const kit = computed(() =>
    marked.value?.kind === 'kit'
      ? (page.value?.kits.find((known) => known.id === marked.value?.id) ?? null)
      : null,
  )

  function step(by: number) {
    const at = queue.value.findIndex(({ gear }) => gear.id === queued.value?.gear.id)
    const next = queue.value[Math.min(Math.max(0, at + by), queue.value.length - 1)]
    if (next) marked.value = { kind: 'gear', id: next.gear.id }
  }

  /** What is shown may be older than the gear: a reading of nothing waits for the newest, which changes on their way call off. */
  async function waitForQueue() {
    const asked = Date.now()
    for (let tries = 0; tries < MOST_TRIES && !kit.value && !queued.value; tries++) {
      const { dataUpdatedAt } = await refetch({ cancelRefetch: false })
      if (dataUpdatedAt >= asked) return
    }
  }

  const weigh = useChange(
    ({ mark, reading, what }: { mark: Mark; reading: Reading; what: string }): Promise<Changed<unknown>> =>
      mark.kind === 'gear'
        ? unwrapChange(
            api.POST('/api/gear/{id}/weighings', {
              params: { path: { id: mark.id } },
              body: { pieces: 1, ...reading },
              ...orLater(what),
            }),
          )
        : unwrapChange(
            api.POST('/api/kits/{id}/weighings', {
              params: { path: { id: mark.id } },
              body: { pieces: 1, ...reading },
              ...orLater(what),
            }),
          ),
  )
  const unsaved = shallowRef<Unsaved[]>([])
  let kept = 0
  async function save(mark: Mark, reading: Reading, name: string, shown: string) {
    const what = `${name} weighs ${shown}`
    const taken = await withLock('weighings', () => weigh.mutateAsync({ mark, reading, what }))
    done(`${what}.`, undo(taken))
  }
  const correct = useChange(({ id, total }: { id: string; total: string }) =>
    unwrapChange(api.PUT('/api/weighings/{id}', { params: { path: { id } }, body: { total } })),
  )
  const remove = useChange((id: string) =>
    unwrapChange(api.DELETE('/api/weighings/{id}', { params: { path: { id } } })),
  )
  const saveKit = useChange((draft: KitDraft) => unwrapChange(api.POST('/api/kits', { body: draft })))
  const dropKit = useChange(({ id, version }: { id: string; version: number }) =>
    unwrapChange(api.DELETE('/api/kits/{id}', { params: { path: { id }, query: { version } } })),
  )

  return {
    all,
    page,
    error,
    refetch,
    queue,
    costs,
    byCost,
    marked,
    queued,
    kit,
    step,
    /**
     * Takes a reading for what is marked and moves on to the next of the queue at once. What the server refuses is thrown and what it was
     * for is marked again, as long as the hands are still there; else it stands among what is not saved, so that the next figure is not
     * taken for the wrong thing.
     */
    take: async (reading: Reading, shown: string, mayComeBack: () => boolean) => {
      await waitForQueue()
      const mark: Mark | null = kit.value
        ? { kind: 'kit', id: kit.value.id }
        : queued.value && { kind: 'gear', id: queued.value.gear.id }
      if (!mark) throw new Error('There is nothing to weigh here. Add gear first.')
      const name = kit.value?.name ?? queued.value?.gear.name ?? ''
      // The next in the order as it stands: what was weighed moves down once the queue is asked for again.
      const at = queue.value.findIndex(({ gear }) => gear.id === mark.id)
      const next = queue.value[at + 1] ?? queue.value[0]
      const moved: Mark | null = next ? { kind: 'gear', id: next.gear.id } : null
      marked.value = moved
      try {
        await save(mark, reading, name, shown)
      } catch (error) {
        if (marked.value?.id === moved?.id && mayComeBack()) {
          marked.value = mark
          throw error
        }
        unsaved.value = [...unsaved.value, { key: ++kept, mark, reading, name, shown, why: reason(error) }]
      }
    },
    /** Readings that could not be saved while others were taken. */
    unsaved,
    tryAgain: async (one: Unsaved) => {
      unsaved.value = unsaved.value.filter((other) => other !== one)
      try {
        await save(one.mark, one.reading, one.name, one.shown)
      } catch (error) {
        unsaved.value = [...unsaved.value, { ...one, why: reason(error) }]
      }
    },
    discard: (one: Unsaved) => (unsaved.value = unsaved.value.filter((other) => other !== one)),
    correct: async (id: string, total: string) => {
      const corrected = await withLock('weighings', () => correct.mutateAsync({ id, total }))
      done(`Corrected to ${corrected.value.typed}.`, undo(corrected))
    },
    takeBack: async (id: string, name: string) => {
      try {
        const removed = await remove.mutateAsync(id)
        done(`The weighing of ${name} is taken back.`, undo(removed))
      } catch (error) {
        failed(error)
      }
    },
    saveKit: async (draft: KitDraft) => {
      const made = await saveKit.mutateAsync(draft)
      done(`${made.value.name} is a kit of ${made.value.parts.length} things.`, undo(made))
      marked.value = { kind: 'kit', id: made.value.id }
    },
    dropKit: async (kit: { id: string; version: number; name: string }) => {
      try {
        const dropped = await dropKit.mutateAsync(kit)
        if (marked.value?.id === kit.id) marked.value = null
        done(`The kit ${kit.name} is taken apart; its things stay.`, undo(dropped))
      } catch (error) {
        failed(error)
      }
    },
  }
}
