import { useSessionStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, unwrap, unwrapChange } from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { counted } from '@/quantities/count'
import { reason, useMessages } from '@/controls/messages'

/** A take-away weighing as far as it has come. Kept with the window, so that losing the scale or the page loses nothing. */
interface Draft {
  on: boolean
  container_mg: number
  readings_mg: number[]
  step_mg: number
  /** What each piece was. */
  things: { gear: string; name: string; count: number }[]
}

const blank = (): Draft => ({ on: false, container_mg: 0, readings_mg: [], step_mg: 1_000, things: [] })

/** Weighing by taking away: everything on, then one piece off at a time. The server works the pieces out. */
export function useTakeAway() {
  const draft = useSessionStorage<Draft>('kevyt-take-away', blank())
  const pieces = ref<number[]>([])
  const leftOver = ref<number | null>(null)
  const refusal = ref('')
  const { done } = useMessages()
  const undo = useUndo()

  const weighing = (readings_mg: number[]) => ({
    container_mg: draft.value.container_mg,
    readings_mg,
    step_mg: draft.value.step_mg,
  })

  async function worked(readings: number[]) {
    const answer = await unwrap(api.POST('/api/weigh/take-away', { body: weighing(readings) }))
    pieces.value = answer.pieces_mg
    leftOver.value = answer.left_over_mg
  }

  /** Takes a steady reading: everything first, then what is left after each piece. */
  async function reading(mg: number, step_mg: number, thing: Draft['things'][number] | null) {
    refusal.value = ''
    draft.value.step_mg = step_mg
    const readings = [...draft.value.readings_mg, mg]
    try {
      await worked(readings)
      draft.value.readings_mg = readings
      if (readings.length > 1 && thing) draft.value.things = [...draft.value.things, thing]
      return true
    } catch (error) {
      refusal.value = reason(error)
      return false
    }
  }

  async function putBack() {
    refusal.value = ''
    draft.value.readings_mg = draft.value.readings_mg.slice(0, -1)
    draft.value.things = draft.value.things.slice(0, Math.max(0, draft.value.readings_mg.length - 1))
    if (draft.value.readings_mg.length === 0) {
      ;[pieces.value, leftOver.value] = [[], null]
      return
    }
    try {
      await worked(draft.value.readings_mg)
    } catch (error) {
      refusal.value = reason(error)
    }
  }

  /** Whether the scale is not back at the container, within a step: then what lies there has to be said to stay. */
  const leftOn = computed(() => Math.abs(leftOver.value ?? 0) > draft.value.step_mg)

  /** Takes a reading that was typed; whether it was taken. */
  async function typed(text: string, thing: Draft['things'][number] | null) {
    refusal.value = ''
    try {
      const { mass_mg } = await unwrap(api.POST('/api/weigh/read', { body: { typed: text } }))
      return await reading(mass_mg, draft.value.step_mg, thing)
    } catch (error) {
      refusal.value = reason(error)
      return false
    }
  }

  /** Says what the container weighs, as typed; nothing for none. */
  async function setContainer(text: string) {
    refusal.value = ''
    try {
      const { mass_mg } = text.trim()
        ? await unwrap(api.POST('/api/weigh/read', { body: { typed: text } }))
        : { mass_mg: 0 }
      draft.value.container_mg = mass_mg
    } catch (error) {
      refusal.value = reason(error)
    }
  }

  const save = useChange(({ scale, left_mg }: { scale: string; left_mg: number | null }) =>
    unwrapChange(
      api.POST('/api/weigh/take-away/weighings', {
        body: {
          weighing: weighing(draft.value.readings_mg),
          things: draft.value.things.map(({ gear, count }) => ({ gear, count })),
          scale,
          left_mg,
        },
      }),
    ),
  )

  function stop() {
    draft.value = blank()
    pieces.value = []
    leftOver.value = null
    refusal.value = ''
  }

  // A page that was loaded again takes up where it was.
  watch(
    () => draft.value.on,
    (on) => {
      if (on && draft.value.readings_mg.length && leftOver.value === null) {
        worked(draft.value.readings_mg).catch((error: unknown) => (refusal.value = reason(error)))
      }
    },
    { immediate: true },
  )

  return {
    draft,
    pieces,
    leftOver,
    leftOn,
    refusal,
    on: computed(() => draft.value.on),
    started: computed(() => draft.value.readings_mg.length > 0),
    start: (container_mg: number) => (draft.value = { ...blank(), on: true, container_mg }),
    reading,
    typed,
    setContainer,
    putBack,
    stop,
    /** Saves the weighings; `leave` says that what is still on the scale stays there. */
    save: async (scale: string, leave = false) => {
      refusal.value = ''
      try {
        const count = draft.value.things.length
        const saved = await save.mutateAsync({ scale, left_mg: leave ? leftOver.value : null })
        done(`${counted(count, 'thing')} weighed by taking away.`, undo(saved))
        stop()
      } catch (error) {
        refusal.value = reason(error)
      }
    },
  }
}
