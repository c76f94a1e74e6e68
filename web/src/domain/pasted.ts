import { useEventListener } from '@vueuse/core'
import { shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { isRows } from '@/controls/rows'
import { stepOf } from './lists'

/** Rows that were pasted on another page, and whether they are for the list or for the inventory alone. */
interface Pasted {
  text: string
  onto: 'list' | 'none'
}
const pasted = shallowRef<Pasted | null>(null)

/** Takes what was pasted, once. */
export function takePasted(): Pasted | null {
  const taken = pasted.value
  pasted.value = null
  return taken
}

/** Hands rows to the page of files, where they are looked at like a file before anything is written. */
export function usePasteToFiles(list: () => string, onto: Pasted['onto']) {
  const router = useRouter()
  return (text: string) => {
    pasted.value = { text, onto }
    void router.push(stepOf(list(), 'gear/files'))
  }
}

/** Calls `take` with rows that are pasted on the page, or into a field of one line, where nothing else would become of them. */
export function usePastedRows(take: (text: string) => void) {
  useEventListener(document, 'paste', (event: ClipboardEvent) => {
    const text = event.clipboardData?.getData('text/plain') ?? ''
    const { target } = event
    const isTaken =
      target instanceof HTMLTextAreaElement ||
      (target instanceof HTMLInputElement && !target.closest('[data-rows]')) ||
      document.querySelector(
        '.el-overlay:not([style*="display: none"]) [role="dialog"]:not(:has([data-rows]))',
      )
    if (isTaken || !isRows(text)) return
    event.preventDefault()
    take(text)
  })
}
