import { computed, ref, watch, type Ref } from 'vue'

/** What a draft is of: its name among all drafts, the version it was read at, and its fields as they stand. */
export interface Source<T> {
  name: string
  version: number
  fields: T
}

/** A field that two people changed, each in another way. */
export interface Clash<T> {
  key: keyof T & string
  mine: unknown
  theirs: unknown
}

interface Kept<T> {
  version: number
  /** The fields as they stood when typing began. */
  from: T
  draft: T
}

const key = (name: string) => `kevyt-draft:${name}`
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/**
 * What is typed in a drawer. It is kept with the window until it is saved or thrown away: closing, going back and loading the page again
 * lose nothing. It is sent with the version that it was typed over. Where somebody else changed the same thing in the meantime, what only
 * one of the two changed is taken from that one; a field that both changed is a clash, to be chosen.
 */
export function useDraft<T extends object>(source: () => Source<T> | null) {
  const name = ref('')
  const version = ref(0)
  const from = ref() as Ref<T>
  const draft = ref() as Ref<T>
  const clashes = ref([]) as Ref<Clash<T>[]>
  const wasKept = ref(false)
  const isChanged = computed(() => name.value !== '' && !same(draft.value, from.value))

  function start({ name: of, version: at, fields }: Source<T>) {
    name.value = of
    version.value = at
    from.value = copy(fields)
    draft.value = copy(fields)
    clashes.value = []
    wasKept.value = false
  }

  /** Brings in what somebody else changed since. */
  function merge() {
    const now = source()
    // What stands there was brought in already.
    if (!now || now.name !== name.value || now.version === version.value) return
    const merged = copy(draft.value)
    const found: Clash<T>[] = []
    for (const field of Object.keys(now.fields) as (keyof T & string)[]) {
      const open = clashes.value.find((clash) => clash.key === field)
      const [base, mine, theirs] = [from.value[field], draft.value[field], now.fields[field]]
      if (open && !same(mine, theirs)) found.push({ key: field, mine, theirs })
      if (open || same(base, theirs) || same(mine, theirs)) continue
      if (same(base, mine)) merged[field] = copy(theirs)
      else found.push({ key: field, mine, theirs })
    }
    version.value = now.version
    from.value = copy(now.fields)
    draft.value = merged
    clashes.value = found
  }

  /** Takes up what was typed before, or begins with the fields as they stand. */
  function open() {
    const now = source()
    if (!now) return
    const text = sessionStorage.getItem(key(now.name))
    if (!text) return start(now)
    const kept = JSON.parse(text) as Kept<T>
    name.value = now.name
    version.value = kept.version
    from.value = kept.from
    draft.value = kept.draft
    clashes.value = []
    wasKept.value = true
    if (kept.version !== now.version) merge()
  }

  function discard() {
    sessionStorage.removeItem(key(name.value))
    const now = source()
    if (now) start(now)
  }

  /** Settles a clash. */
  function choose(clash: Clash<T>, whose: 'mine' | 'theirs') {
    if (whose === 'theirs') draft.value = { ...draft.value, [clash.key]: copy(clash.theirs) }
    clashes.value = clashes.value.filter((other) => other !== clash)
  }

  watch(
    draft,
    () => {
      if (name.value === '') return
      if (!isChanged.value) return sessionStorage.removeItem(key(name.value))
      const kept: Kept<T> = { version: version.value, from: from.value, draft: draft.value }
      sessionStorage.setItem(key(name.value), JSON.stringify(kept))
    },
    { deep: true, flush: 'sync' },
  )

  return { draft, version, isChanged, wasKept, clashes, open, merge, discard, choose }
}
