import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { useChange, useUndo } from '@/api/changes'
import { withLock } from '@/api/lock'
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

  /** The kind that was chosen instead of the one that the name says. */
  const chosen = ref<string | null>(null)
  /** A line as it is sent: with the kind that was chosen. */
  const whole = (text: string) => (chosen.value ? `${text} is:${chosen.value}` : text)

  const ask = (text: string) => readLine(whole(text), typedWeights.source.value)

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
    chosen.value = null
  }

  const add = useChange(
    ({ text, list }: { text: string; list: string | null }) => addLine(text, list, typedWeights.source.value),
    (cache, added) => added.waits || cache.thing(added.value),
  )

  /** Takes the line as it stands. The field is free for the next one at once; what is refused comes back. */
  async function enter() {
    const text = line.value.trim()
    if (text === '') return
    const list = onto()
    const [instead, last] = [chosen.value, reading.value]
    const sent = whole(text)
    line.value = ''
    clear()
    trouble.value = ''
    adding.value++
    try {
      const added = await withLock('gear lines', () =>
        add.mutateAsync({ text: sent, list: list?.id ?? null }),
      )
      done(
        added.waits
          ? `“${text}” is added when the network is back.`
          : `${added.value.name} added${list ? ` to ${list.name}` : ''}.`,
        undo(added),
      )
    } catch (error) {
      const why = reason(error)
      if (line.value === '') {
        line.value = text
        trouble.value = why
        ;[chosen.value, reading.value] = [instead, last]
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
    chosen,
    typedWeights,
    typed,
    enter,
    takeUp,
    discard: (one: Refused) => (refused.value = refused.value.filter((other) => other !== one)),
    /** Says what it is, instead of what its name says. */
    choose: (key: string) => {
      chosen.value = key
      return read()
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
