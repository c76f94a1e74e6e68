import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, ref } from 'vue'

/** One key of a screen and what it does. */
export interface Key {
  key: string
  does: string
  run: () => void
}

const groups = ref<{ name: string; keys: Key[] }[]>([])

/** Adds the keys of a screen for as long as it stands. */
export function useKeys(name: string, keys: Key[]) {
  const group = { name, keys }
  groups.value = [...groups.value, group]
  onBeforeUnmount(() => (groups.value = groups.value.filter((other) => other.keys !== keys)))
}

/** Every key that works now, by screen. */
export const currentKeys = groups

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest('input, textarea, select, [contenteditable], .el-select') !== null

/** Enter presses what has the focus, but for a row of a list that only marks something (`data-row`). */
const isPressed = (event: KeyboardEvent) =>
  event.key === 'Enter' &&
  event.target instanceof HTMLElement &&
  event.target.closest('button, a, [role="button"], label') !== null &&
  event.target.closest('[data-row]') === null

/** Listens for keys; once, in the shell. */
export function useKeyListener() {
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTyping(event.target))
      return
    if (isPressed(event)) return
    if (
      document.querySelector('.el-overlay:not([style*="display: none"]) [role="dialog"]') &&
      event.key !== '?'
    )
      return
    const found = groups.value.flatMap((group) => group.keys).findLast((key) => key.key === event.key)
    if (!found) return
    event.preventDefault()
    found.run()
  })
}
