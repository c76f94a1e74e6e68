import { computed, nextTick, ref, watch } from 'vue'
import { reason } from '@/controls/messages'
import { useUnits } from '@/domain/units'
import { exactGrams } from '@/quantities/mass'
import type { useScale } from '@/domain/scale'
import type { useTakeAway } from './takeAway'
import type { useWeigh } from './weigh'

/** How weights are taken: off the scale or typed, with a container, divided, or one piece after the other taken away. */
export function useTaking(
  { queued, step, take }: Pick<ReturnType<typeof useWeigh>, 'queued' | 'step' | 'take'>,
  { name: scale, reading }: Pick<ReturnType<typeof useScale>, 'name' | 'reading'>,
  away: ReturnType<typeof useTakeAway>,
) {
  const units = useUnits()
  const container = ref(0)
  const divided = ref(false)
  /** The reading was taken: the next has to come from another load. */
  const used = ref(false)
  const typed = ref('')
  const refusal = ref('')

  watch(
    () => reading.value?.state,
    (state) => {
      // A scale that falls silent for a moment still carries what it carried.
      if (state && state !== 'steady' && state !== 'silent') used.value = false
      // What was in the way of the last reading says nothing of this one.
      refusal.value = ''
    },
  )
  // Of another thing; the same one is asked for again now and then.
  watch(
    () => queued.value?.gear.id,
    () => (divided.value = false),
  )
  const pieces = computed(() => (divided.value ? (queued.value?.gear.count ?? 1) : 1))

  /** Why the reading can't be taken; nothing if it can. */
  const hindrance = computed(() => {
    const state = reading.value?.state
    if (!scale.value) return 'There is no scale. Type what yours shows.'
    // When the last piece is off, nothing is left: that is a reading too.
    if (state !== 'steady' && !(state === 'empty' && away.started.value))
      return 'The reading is not steady. Wait for it, or type what the scale shows.'
    return used.value ? 'This reading was saved already. Change what is on the pan first.' : ''
  })

  /** What is marked, as take-away weighing names it. */
  const atHand = () =>
    queued.value && {
      gear: queued.value.gear.id,
      name: queued.value.gear.name,
      count: queued.value.pieces,
    }

  /** A reading of take-away weighing: everything first, then what is left after each piece, for which the next is marked. */
  async function takeAway(read: () => Promise<boolean>): Promise<boolean> {
    const first = !away.started.value
    const taken = await read()
    if (taken && !first) step(1)
    return taken
  }

  async function enter() {
    refusal.value = hindrance.value
    const now = reading.value
    if (refusal.value || now?.mass_mg == null) return
    const mg = now.mass_mg
    const step_mg = now.step_mg ?? 1_000
    // Taken now, not when the server has answered: the next Enter is for the next load.
    used.value = true
    if (away.on.value) {
      used.value = await takeAway(() => away.reading(mg, step_mg, atHand()))
      return
    }
    await keep(
      {
        total: exactGrams(mg),
        container: container.value ? exactGrams(container.value) : undefined,
        pieces: pieces.value,
        step_mg,
        scale: scale.value ?? undefined,
      },
      units.tableText(mg - container.value),
      // While the same load is on the pan, what it is for can be marked again.
      () => used.value,
      () => (used.value = false),
    )
  }

  async function enterTyped() {
    const text = typed.value.trim()
    if (text === '') return
    refusal.value = ''
    if (away.on.value) {
      if (await takeAway(() => away.typed(text, atHand()))) typed.value = ''
      return
    }
    // The field is free for the next figure at once; what is refused comes back, as long as nothing else was typed.
    typed.value = ''
    await keep(
      {
        total: text,
        container: container.value ? exactGrams(container.value) : undefined,
        pieces: pieces.value,
      },
      text,
      () => typed.value === '',
      () => (typed.value = text),
    )
  }

  async function keep(
    what: Parameters<typeof take>[0],
    shown: string,
    mayComeBack: () => boolean,
    comeBack: () => void,
  ) {
    const wasDivided = divided.value
    try {
      await take(what, shown, mayComeBack)
    } catch (error) {
      refusal.value = `${shown}: ${reason(error)}`
      // What has been typed since is never written over.
      if (mayComeBack()) comeBack()
      // What it was for is marked again, as it was.
      await nextTick()
      divided.value = wasDivided
    }
  }

  return {
    container,
    divided,
    used,
    typed,
    refusal,
    pieces,
    canTake: computed(() => hindrance.value === ''),
    enter,
    enterTyped,
    /** Takes what is on the pan for the container, or stops doing so. */
    tare: () => {
      const steady = reading.value?.state === 'steady'
      container.value = container.value || !steady ? 0 : (reading.value?.mass_mg ?? 0)
      used.value = container.value !== 0
    },
    takeAwayMode: () => {
      if (away.on.value) away.stop()
      else away.start(container.value)
      used.value = container.value !== 0 && reading.value?.state === 'steady'
    },
  }
}
