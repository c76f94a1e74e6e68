import { useDebounceFn } from '@vueuse/core'
import { shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import type { LineKind } from '@/api/client'
import { readLine } from './gearLine'

/** The kind that a name says, as it is typed; none while `isOpen` is not so. What can't be read proposes nothing: adding it says what is wrong. */
export function useProposedKind(name: MaybeRefOrGetter<string>, isOpen: MaybeRefOrGetter<boolean> = true) {
  const proposed = shallowRef<LineKind | null>(null)
  const read = useDebounceFn(async (text: string) => {
    const kind = await readLine(`"${text.replaceAll('"', '').trim()}"`, 'estimate').then(
      (reading) => reading.kind,
      () => null,
    )
    if (toValue(name) === text && toValue(isOpen)) proposed.value = kind
  }, 200)
  watch(
    () => [toValue(name), toValue(isOpen)] as const,
    ([text, open]) => {
      proposed.value = null
      if (open && text.trim() !== '') void read(text)
    },
    { immediate: true },
  )
  return proposed
}
