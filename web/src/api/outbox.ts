import { shallowRef } from 'vue'
import { markOffline, markOnline, offlineSince } from './network'
import { withLock } from './lock'

/** A change that was made without network and that the server has not heard of yet. */
export interface Waiting {
  /** Its `Idempotency-Key`: however often it is sent, it is done once. */
  key: string
  method: string
  /** Path and query. */
  path: string
  body: Record<string, unknown> | null
  /** What it does, in words. */
  what: string
  /** Why the server did not take it; it waits for its author, then. */
  why?: string
  /** Where that is because somebody else was quicker: the version that stands now. */
  versionNow?: number
}

/** Whether it was not refused. */
export const isToSend = ({ why }: Waiting) => why === undefined

/** What waits of the account that is signed in, the first first. */
export const waiting = shallowRef<Waiting[]>([])

let whose = ''
const place = () => `kevyt-waiting ${whose}`
const read = () => JSON.parse(localStorage.getItem(place()) ?? '[]') as Waiting[]
/** Written before anything else happens: a page may be gone the next moment. */
function keep(next: Waiting[]) {
  waiting.value = next
  if (next.length) localStorage.setItem(place(), JSON.stringify(next))
  else localStorage.removeItem(place())
}

/** From here on it is of this account. */
export function openOutbox(account: string) {
  whose = account
  waiting.value = read()
}
// What another tab adds, or has sent.
window.addEventListener('storage', ({ key }) => whose && key === place() && (waiting.value = read()))

/** How soon what the server can't do just now is tried again. */
const AGAIN_MS = 10_000

/** The object that a path is of, without what is asked of it: a thing, a line of a list. */
const objectOf = (path: string) => /^.*[0-9a-f]{8}-[0-9a-f-]{27}/.exec(path)?.[0] ?? path
/** 128 random bits. `randomUUID` is not there on a page that came over plain http from another machine. */
export const newKey = () =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join(
    '',
  )

/** With the fields of the later one over those of the earlier one, and fields of their fields. */
function merged(earlier: Waiting['body'], later: Waiting['body']) {
  const all = { ...earlier, ...later }
  for (const [field, value] of Object.entries(later ?? {})) {
    const before = earlier?.[field]
    if (isFields(value) && isFields(before)) all[field] = { ...before, ...value }
  }
  return all
}
const isFields = (value: unknown): value is object =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** Lets a request wait. What changes the same fields once more takes the place of what waits already. */
export async function wait(request: Request, what: string) {
  const { pathname, search } = new URL(request.url)
  const text = await request.clone().text()
  const body = text ? (JSON.parse(text) as Record<string, unknown>) : null
  const one: Waiting = {
    key: request.headers.get('Idempotency-Key') ?? newKey(),
    method: request.method,
    path: pathname + search,
    body,
    what,
  }
  const all = read()
  const same = (other: Waiting) =>
    other.method === one.method && other.method !== 'POST' && objectOf(other.path) === objectOf(one.path)
  const at = all.findIndex((other) => same(other) && isToSend(other))
  if (at < 0) return keep([...all, one])
  const earlier = all[at]!
  const next =
    one.method === 'PATCH' ? merged(earlier.body, body) : { ...body, version: earlier.body?.version }
  keep(all.with(at, { ...one, key: newKey(), path: earlier.path, body: next }))
}

/** The same at another version, by the name that it goes by: in the query, or in the body. */
function atVersion(one: Waiting, version: number): Waiting {
  const path = one.path.replace(/([?&]version=)\d+/, `$1${version}`)
  const body = one.body && 'version' in one.body ? { ...one.body, version } : one.body
  return { ...one, key: newKey(), path, body, why: undefined, versionNow: undefined }
}

const replace = (one: Waiting, next: Waiting | null) =>
  keep(read().flatMap((other) => (other.key !== one.key ? [other] : next ? [next] : [])))

/** The versions that came of what was sent, by what it was of: what this device changed itself is no surprise to it. */
const made = new Map<string, unknown>()

/** Whether its author is still signed in: another tab may have let somebody else in. */
const isTheirs = async () => {
  const response = await fetch('/api/account').catch(() => null)
  return response?.ok === true && ((await response.json()) as { name?: string }).name === whose
}
/** One tab at a time. */
const alone = (work: () => Promise<void>) =>
  navigator.locks ? navigator.locks.request('kevyt-waiting', work) : work()

/** Sends what waits, one after the other; one that is refused is left for its author. */
export const sendAll = () =>
  withLock('outbox', () =>
    alone(async () => {
      if (!next() || !(await isTheirs())) return
      for (let one = next(); one && !offlineSince.value; one = next()) if (!(await sendOne(one))) return
    }),
  )
const next = () => read().find(isToSend)

async function sendOne(one: Waiting): Promise<boolean> {
  let response: Response
  try {
    response = await fetch(one.path, {
      method: one.method,
      headers: { 'Content-Type': 'application/json', 'Idempotency-Key': one.key },
      body: one.body && JSON.stringify(one.body),
    })
  } catch {
    markOffline()
    return false
  }
  markOnline()
  const answer = (await response.json().catch(() => ({}))) as {
    version?: number
    detail?: string
    version_now?: number
  }
  if (response.ok) {
    made.set(objectOf(one.path), answer.version)
    replace(one, null)
    return true
  }
  // Who has to sign in first, and what the server can't do just now, is tried again later.
  if (response.status === 401) return false
  if (response.status >= 500) {
    setTimeout(() => void sendAll(), AGAIN_MS)
    return false
  }
  if (answer.version_now !== undefined && made.get(objectOf(one.path)) === answer.version_now) {
    replace(one, atVersion(one, answer.version_now))
    return true
  }
  const why = answer.detail ?? `The server answered ${response.status}.`
  replace(one, { ...one, why, versionNow: answer.version_now })
  return true
}

/** Sends one that was refused once more: over what stands now, where somebody else was quicker. */
export function insist(one: Waiting) {
  replace(one, {
    ...(one.versionNow === undefined ? { ...one, key: newKey() } : atVersion(one, one.versionNow)),
    why: undefined,
  })
  return sendAll()
}

/** Forgets one that was refused. */
export const drop = (one: Waiting) => replace(one, null)

/** Forgets all that waits: its account goes, or nobody is signed in to it here any more. */
export const dropAll = () => keep([])
