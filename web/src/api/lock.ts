/** Work on one thing that waits for the work on it before. */
const last = new Map<string, Promise<unknown>>()

/**
 * Does `work` once all earlier work of the same `name` has ended, however it ended. Keys come faster than answers: a second change of a
 * thing has to start from what the first one made of it.
 */
export function withLock<T>(name: string, work: () => Promise<T>): Promise<T> {
  const mine = (last.get(name) ?? Promise.resolve()).then(work, work)
  const ended = mine.then(
    () => undefined,
    () => undefined,
  )
  last.set(name, ended)
  void ended.then(() => last.get(name) === ended && last.delete(name))
  return mine
}

/** Does `work` once all earlier work of each of the names has ended; later work of any of them waits for it. */
export function withLocks<T>(names: string[], work: () => Promise<T>): Promise<T> {
  const mine = Promise.all(names.map((name) => last.get(name) ?? Promise.resolve())).then(work)
  for (const name of names) void withLock(name, () => mine).catch(() => undefined)
  return mine
}
