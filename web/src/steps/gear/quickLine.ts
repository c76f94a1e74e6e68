import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { useChange, useUndo } from '@/api/queries'
import { inTurn } from '@/api/turn'
import { reason, useMessages } from '@/controls/messages'
import { addLine, readLine, type Reading } from '@/domain/gearLine'
import { useTypedWeights } from '@/domain/typedWeights'

/** A line that was entered and could not be added: it is kept until it is typed anew or discarded. */
export interface Refused {
  text: string
  why: string
}

const READ_AFTER_MS = 120

/** Gear that is added by a line: what was understood, what is proposed, and what was entered. */
export function useQuickLine(onto: () => { id: string; name: string } | null) {
  const line = useSessionStorage('kevyt-gear-line', '')
  const reading = shallowRef<Reading | null>(null)
  const trouble = ref('')
  const refused = ref<Refused[]>([])
  /** How many lines are on their way. */
  const adding = ref(0)
  const typedWeights = useTypedWeights()
  const { done } = useMessages()
  const undo = useUndo()

  /** Proposals that are not taken, by their marks; and the system that was chosen instead of the one proposed. */
  const left = ref(new Set<string>())
  const system = ref<{ mark: string; meaning: string } | null>(null)

  const proposed = computed(() => {
    const all = reading.value?.proposals ?? []
    const chosen = system.value
    const named = reading.value?.chips.some((chip) => chip.kind === 'system')
    const rest = all.filter((one) => one.kind !== 'system')
    const first = chosen ? { ...chosen, kind: 'system' as const } : all.find((one) => one.kind === 'system')
    return {
      /** None where the line says it itself. */
      system: named ? null : (first ?? null),
      jobs: rest.map((one) => ({ ...one, taken: !left.value.has(one.mark) })),
    }
  })

  const ask = (text: string) => readLine(text, typedWeights.source.value)

  const read = useDebounceFn(async () => {
    const text = line.value
    if (text.trim() === '') return
    try {
      const answer = await ask(text)
      if (line.value === text) reading.value = answer
      trouble.value = ''
    } catch (error) {
      trouble.value = reason(error)
    }
  }, READ_AFTER_MS)

  function typed() {
    trouble.value = ''
    if (line.value.trim() === '') clear()
    void read()
  }

  function clear() {
    reading.value = null
    left.value = new Set()
    system.value = null
  }

  const add = useChange(
    ({ text, marks, list }: { text: string; marks: string[]; list: string | null }) =>
      addLine(text, marks, list, typedWeights.source.value),
    (shown, added) => shown.thing(added.value),
  )

  /** Takes the line as it stands. The field is free for the next one at once; what is refused comes back. */
  async function enter() {
    const text = line.value.trim()
    if (text === '') return
    const list = onto()
    const [without, instead, last] = [left.value, system.value, reading.value]
    line.value = ''
    clear()
    trouble.value = ''
    adding.value++
    try {
      const added = await inTurn('gear lines', async () => {
        const understood = last?.text.trim() === text ? last : await ask(text)
        const marks = understood.proposals
          .filter((one) => !without.has(one.mark))
          .map((one) => (one.kind === 'system' && instead ? instead.mark : one.mark))
        const unsaid = !understood.chips.some((chip) => chip.kind === 'system')
        if (instead && unsaid && !marks.includes(instead.mark)) marks.push(instead.mark)
        return add.mutateAsync({ text, marks, list: list?.id ?? null })
      })
      done(`${added.value.name} added${list ? `, carried on ${list.name}` : ''}.`, undo(added))
    } catch (error) {
      const why = reason(error)
      if (line.value === '') {
        line.value = text
        trouble.value = why
        ;[left.value, system.value, reading.value] = [without, instead, last]
        if (!last) void read()
      } else refused.value = [...refused.value, { text, why }]
    } finally {
      adding.value--
    }
  }

  /** Types a refused line anew; one that stands in the field takes its place. */
  function takeUp(one: Refused) {
    const now = line.value.trim()
    refused.value = refused.value.flatMap((other) =>
      other !== one ? [other] : now ? [{ text: now, why: 'Not entered yet.' }] : [],
    )
    line.value = one.text
    trouble.value = one.why
    clear()
    void read()
  }

  if (line.value) void read()
  return {
    line,
    reading,
    trouble,
    refused,
    adding,
    proposed,
    typedWeights,
    typed,
    enter,
    takeUp,
    discard: (one: Refused) => (refused.value = refused.value.filter((other) => other !== one)),
    chooseSystem: (key: string, name: string) => (system.value = { mark: `#${key}`, meaning: name }),
    /** Takes a proposed job, or leaves it. */
    toggle: (mark: string) => {
      const next = new Set(left.value)
      if (!next.delete(mark)) next.add(mark)
      left.value = next
    },
    /** Takes all proposed jobs, or leaves them all. */
    toggleJobs: () => {
      const jobs = proposed.value.jobs
      const none = jobs.every((job) => !job.taken)
      left.value = new Set(none ? [] : jobs.map((job) => job.mark))
    },
    /** Says that typed weights come from the other of scale and maker, from now on. */
    turnSource: async () => {
      try {
        await typedWeights.turn()
        await read()
      } catch (error) {
        trouble.value = reason(error)
      }
    },
  }
}
