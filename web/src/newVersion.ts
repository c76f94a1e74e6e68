/** How long a newer version may take to take over before the one at hand is shown. */
const PATIENCE_MS = 3_000
/** Held by each page for as long as it is open. */
const OPEN = 'kevyt-page'

/**
 * Lets a newer version of the application that was loaded on an earlier visit take over, before anything is shown or typed; whether it
 * does: then the page is about to be loaded anew. Where another page is open, that one goes on with the version that it has, and so does
 * this one.
 */
export async function takesNewVersion(): Promise<boolean> {
  if (!('serviceWorker' in navigator) || !('locks' in navigator)) return false
  await new Promise<void>((isHeld) => {
    const untilClosed = () => new Promise(() => isHeld())
    void navigator.locks.request(OPEN, { mode: 'shared' }, untilClosed)
  })
  const { held = [] } = await navigator.locks.query()
  const isOnly = held.filter(({ name }) => name === OPEN).length === 1
  const waiting = (await navigator.serviceWorker.getRegistration())?.waiting
  if (!waiting || !isOnly) return false
  const tookOver = new Promise<boolean>((resolve) => {
    navigator.serviceWorker.addEventListener('controllerchange', () => resolve(true), { once: true })
    setTimeout(() => resolve(false), PATIENCE_MS)
  })
  waiting.postMessage({ type: 'SKIP_WAITING' })
  if (!(await tookOver)) return false
  window.location.reload()
  return true
}
