import { readonly, ref, shallowRef } from 'vue'
import { Problem, type RefusedFigure } from '@/api/client'

/** Takes something back; what it gives takes that back in turn, if it gives anything that can. */
type TakeBack = () => Promise<unknown>

interface Message {
  id: number
  text: string
  kind: 'done' | 'caution'
  undo?: TakeBack
  /** Whether it can be done again. */
  redo?: boolean
}

const SHOWN_MS = 8_000
const all = ref<Message[]>([])
const timers = new Map<number, ReturnType<typeof setTimeout>>()
/** A change that was reported, and what takes it back; it outlives its message. */
interface Reported {
  text: string
  takeBack: TakeBack
}
/** What can be undone, and what was undone and can be done again: the last one last. */
const past = shallowRef<Reported[]>([])
const undone = shallowRef<Reported[]>([])
const MOST_REPORTED = 50
let last = 0

function drop(id: number) {
  hold(id)
  all.value = all.value.filter((message) => message.id !== id)
}

/** Keeps a message for as long as it is pointed at or has the focus. */
function hold(id: number) {
  clearTimeout(timers.get(id))
  timers.delete(id)
}

function release(id: number) {
  hold(id)
  timers.set(
    id,
    setTimeout(() => drop(id), SHOWN_MS),
  )
}

function add(message: Omit<Message, 'id'>) {
  const id = ++last
  all.value = [...all.value.slice(-2), { ...message, id }]
  // A caution stays until it is closed: it says what to do.
  if (message.kind === 'done') release(id)
}

function remember(reported: Reported) {
  past.value = [...past.value, reported].slice(-MOST_REPORTED)
  undone.value = []
}

/** What takes something back and gives what does it again. */
export const thereAndBack =
  (there: () => unknown, back: () => unknown): TakeBack =>
  async () => {
    await back()
    return thereAndBack(back, there)
  }

/** Says what happened, to what, and what to do; `undo` takes it back. */
export function useMessages() {
  return {
    messages: readonly(all),
    done: (text: string, undo?: TakeBack) => {
      add({ text, kind: 'done', undo })
      if (undo) remember({ text, takeBack: undo })
    },
    /** Something that is seen where it was done and needs no message: `there` was done, `back` takes it back, and so on. */
    did: (text: string, there: () => unknown, back: () => unknown) =>
      remember({ text, takeBack: thereAndBack(there, back) }),
    failed: (error: unknown) => add({ text: reason(error), kind: 'caution' }),
    drop,
    hold,
    release: (message: Pick<Message, 'id' | 'kind'>) => {
      if (message.kind === 'done') release(message.id)
    },
    /** Undoes the last change that was reported and can be undone, and then the one before. */
    undoLast: () => {
      const last = past.value.at(-1)
      if (last) return turn(last, past, undone, 'Undone')
      add({
        text: 'There is nothing to undo here. History, under Gear, has what was done before.',
        kind: 'done',
      })
    },
    /** Does again what was undone last. */
    redoLast: () => {
      const last = undone.value.at(-1)
      if (last) return turn(last, undone, past, 'Done again')
      add({ text: 'There is nothing to do again.', kind: 'done' })
    },
    undo: ({ text, undo }: Pick<Message, 'text' | 'undo'>) => {
      const reported =
        past.value.find(({ takeBack }) => takeBack === undo) ?? (undo && { text, takeBack: undo })
      if (reported) return turn(reported, past, undone, 'Undone')
    },
  }
}

/** How a quantity that was refused is worded: set where the walker's units are known. */
let figureWords: (figure: RefusedFigure) => string | null = () => null
export const wordFiguresBy = (words: typeof figureWords) => (figureWords = words)

/** What went wrong, in words. */
export function reason(error: unknown): string {
  if (error instanceof Problem && error.figure) return figureWords(error.figure) ?? error.message
  return error instanceof Error ? error.message : String(error)
}

/** Takes one of `from` back; what takes that back in turn stands among `to`. What fails for want of an answer can be tried again. */
async function turn(reported: Reported, from: typeof past, to: typeof past, what: 'Undone' | 'Done again') {
  from.value = from.value.filter((one) => one !== reported)
  all.value.filter((message) => message.undo === reported.takeBack).forEach(({ id }) => drop(id))
  try {
    const back = await reported.takeBack()
    const text = `${what}: ${reported.text}`
    if (typeof back !== 'function') return add({ text, kind: 'done' })
    to.value = [...to.value, { ...reported, takeBack: back as TakeBack }]
    add({ text, kind: 'done', redo: what === 'Undone' })
  } catch (error) {
    const mayPass = error instanceof Problem && (error.status === 0 || error.status >= 500)
    if (mayPass) from.value = [...from.value, reported]
    add({
      text: `Not ${what === 'Undone' ? 'undone' : 'done again'}: ${reported.text} ${reason(error)}`,
      kind: 'caution',
    })
  }
}
