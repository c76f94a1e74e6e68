import { readonly, ref, shallowRef } from 'vue'

interface Message {
  id: number
  text: string
  kind: 'done' | 'caution'
  undo?: () => Promise<unknown>
}

const SHOWN_MS = 8_000
const all = ref<Message[]>([])
const timers = new Map<number, ReturnType<typeof setTimeout>>()
/** What undoes the last change that was reported; it outlives its message. */
const lastUndo = shallowRef<Pick<Message, 'id' | 'undo'> | null>(null)
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
  if (message.undo) lastUndo.value = { id, undo: message.undo }
  // A caution stays until it is closed: it says what to do.
  if (message.kind === 'done') release(id)
}

/** Says what happened, to what, and what to do; `undo` takes it back. */
export function useMessages() {
  return {
    messages: readonly(all),
    done: (text: string, undo?: () => Promise<unknown>) => add({ text, kind: 'done', undo }),
    failed: (error: unknown) => add({ text: reason(error), kind: 'caution' }),
    drop,
    hold,
    release: (message: Pick<Message, 'id' | 'kind'>) => {
      if (message.kind === 'done') release(message.id)
    },
    /** Undoes the newest change that can be: that of the newest message, else the last that was reported. */
    undoLast: () => {
      const newest = all.value.findLast((message) => message.undo) ?? lastUndo.value
      if (newest?.undo) void undo(newest)
      else
        add({
          text: 'There is nothing to undo here. History, under Gear, has what was done before.',
          kind: 'done',
        })
    },
    undo,
  }
}

/** What went wrong, in words. */
export const reason = (error: unknown) => (error instanceof Error ? error.message : String(error))

async function undo(message: Pick<Message, 'id' | 'undo'>) {
  drop(message.id)
  if (lastUndo.value?.id === message.id) lastUndo.value = null
  try {
    await message.undo?.()
  } catch (error) {
    add({ text: reason(error), kind: 'caution' })
  }
}
