/** How long a newer version may take to take over before the one at hand is shown. */
const TIMEOUT_MS = 3_000
/** Held by each page for as long as it is open. */
const OPEN = 'kevyt-page'

/**
 * Lets a newer version of the application that was loaded on an earlier visit take over, before anything is shown or typed; whether it
 * does: then the page is about to be loaded anew. Where another page is open, that one goes on with the version that it has, and so does
 * this one.
 */
export async function takesNewVersion(): Promise<boolean> {
  if (!('serviceWorker' in navigator) || !('locks' in navigator)) return false
  // Where the browser keeps nothing for this page, it refuses all of this: then there is no newer version either.
  return tookOver().catch(() => false)
}

async function tookOver(): Promise<boolean> {
  await new Promise<void>((isHeld, isRefused) => {
    const untilClosed = () => new Promise(() => isHeld())
    navigator.locks.request(OPEN, { mode: 'shared' }, untilClosed).catch(isRefused)
  })
  const { held = [] } = await navigator.locks.query()
  const isOnly = held.filter(({ name }) => name === OPEN).length === 1
  const waiting = (await navigator.serviceWorker.getRegistration())?.waiting
  if (!waiting || !isOnly) return false
  const hasControl = new Promise<boolean>((resolve) => {
    navigator.serviceWorker.addEventListener('controllerchange', () => resolve(true), { once: true })
    setTimeout(() => resolve(false), TIMEOUT_MS)
  })
  waiting.postMessage({ type: 'SKIP_WAITING' })
  if (!(await hasControl)) return false
  window.location.reload()
  return true
}
