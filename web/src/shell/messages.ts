import { readonly, ref } from 'vue'

interface Message {
  id: number
  text: string
  kind: 'done' | 'caution'
  undo?: () => Promise<unknown>
}

const SHOWN_MS = 8_000
const all = ref<Message[]>([])
let last = 0

function drop(id: number) {
  all.value = all.value.filter((message) => message.id !== id)
}

function add(message: Omit<Message, 'id'>) {
  const id = ++last
  all.value = [...all.value.slice(-2), { ...message, id }]
  // A caution stays until it is closed: it says what to do.
  if (message.kind === 'done') setTimeout(() => drop(id), SHOWN_MS)
}

/** Says what happened, to what, and what to do; `undo` takes it back. */
export function useMessages() {
  return {
    messages: readonly(all),
    done: (text: string, undo?: () => Promise<unknown>) => add({ text, kind: 'done', undo }),
    failed: (error: Error) => add({ text: error.message, kind: 'caution' }),
    drop,
    /** Undoes the newest message that can be. */
    undoLast: () => {
      const newest = all.value.findLast((message) => message.undo)
      if (newest) void undo(newest)
    },
    undo,
  }
}

async function undo(message: Pick<Message, 'id' | 'undo'>) {
  drop(message.id)
  try {
    await message.undo?.()
  } catch (error) {
    add({ text: error instanceof Error ? error.message : String(error), kind: 'caution' })
  }
}
