import { shallowRef } from 'vue'

/** Since when the server can't be reached; null while it can. */
export const offlineSince = shallowRef<Date | null>(null)

const HEARD = 'kevyt-heard'
/** How soon it is looked again whether the server answers, and how long that grows to. */
const FIRST_LOOK_MS = 2_000
const LAST_LOOK_MS = 30_000
/** How long it has to. */
const TIMEOUT_MS = 5_000
/** The time of the last answer is written down no more often than this. */
const WRITTEN_MS = 10_000

let writtenAt = 0
let looking: ReturnType<typeof setTimeout> | undefined

/** When the server answered last, before this page was opened too. */
export const lastOnline = () => new Date(Number(localStorage.getItem(HEARD)) || Date.now())

/** The server has answered. */
export function markOnline() {
  const now = Date.now()
  if (offlineSince.value || now - writtenAt > WRITTEN_MS) {
    localStorage.setItem(HEARD, String((writtenAt = now)))
    offlineSince.value = null
    clearTimeout(looking)
    looking = undefined
  }
}

/** Nothing came back: it is looked for until it does. */
export function markOffline() {
  offlineSince.value ??= new Date()
  look(FIRST_LOOK_MS)
}

function look(wait: number) {
  looking ??= setTimeout(async () => {
    const response = await fetch('/api/health', { signal: AbortSignal.timeout(TIMEOUT_MS) }).catch(() => null)
    looking = undefined
    if (response) markOnline()
    else look(Math.min(wait * 2, LAST_LOOK_MS))
  }, wait)
}

window.addEventListener('online', () => {
  if (!offlineSince.value) return
  clearTimeout(looking)
  looking = undefined
  look(0)
})
