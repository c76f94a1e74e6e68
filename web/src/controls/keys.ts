import { useEventListener, useStorage } from '@vueuse/core'
import { onBeforeUnmount, shallowRef } from 'vue'

/** One key of a screen and what it does. */
export interface Key {
  key: string
  does: string
  run: () => void
}

const groups = shallowRef<{ name: string; keys: Key[] }[]>([])

/** Adds the keys of a screen for as long as it stands. */
export function useKeys(name: string, keys: Key[]) {
  const group = { name, keys }
  groups.value = [...groups.value, group]
  onBeforeUnmount(() => (groups.value = groups.value.filter((other) => other !== group)))
}

/** The name of the keys that work on every screen. */
export const ANYWHERE = 'Anywhere'

/** Every key that works now, by screen. */
export const currentKeys = groups

/** Whether single letters and digits are keys. Whoever dictates, or leans on the keyboard, switches them off. */
export const singleKeys = useStorage('kevyt-single-keys', true)

const PRINTED: Record<string, string> = {
  ArrowDown: '↓',
  ArrowUp: '↑',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
}
/** A key as it is printed on keyboards. */
export const printed = (key: string) =>
  PRINTED[key] ?? (/^[A-Z]$/.test(key) ? `Shift+${key.toLowerCase()}` : key)

const NOT_TEXT = ['checkbox', 'radio', 'button', 'submit', 'range', 'file', 'color']

/** Whether letters that are typed there are text. */
const isTyping = (target: EventTarget | null) => {
  if (target instanceof HTMLInputElement) return !target.readOnly && !NOT_TEXT.includes(target.type)
  return target instanceof HTMLElement && target.closest('textarea, [contenteditable="true"]') !== null
}

/** Enter presses what has the focus, but for a row of a list that only marks something (`data-row`). */
const isPressed = (event: KeyboardEvent) =>
  event.key === 'Enter' &&
  event.target instanceof HTMLElement &&
  event.target.closest('button, a, [role="button"], label, .el-select') !== null &&
  event.target.closest('[data-row]') === null

/** What an open select, menu or slider does with arrows and Enter is its own. */
const isTaken = (event: KeyboardEvent) =>
  event.key.length > 1 &&
  event.target instanceof HTMLElement &&
  event.target.closest('[role="combobox"], [role="slider"], [role="menu"], [role="radiogroup"]') !== null

/** Listens for keys; once, in the shell. */
export function useKeyListener() {
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return
    if (isTyping(event.target) || isPressed(event) || isTaken(event)) return
    if (event.key.length === 1 && !singleKeys.value) return
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
