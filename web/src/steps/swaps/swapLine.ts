import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, toValue, type MaybeRefOrGetter, type Ref } from 'vue'
import { api, unwrap, type SwapLine } from '@/api/client'
import { reason } from '@/controls/messages'

const READ_AFTER_MS = 120

/** A swap that is typed in one line: what was understood, and the draft that it makes. */
export function useSwapLine(
  list: MaybeRefOrGetter<string>,
  line: Ref<string>,
  made: (read: SwapLine) => void,
) {
  const read = shallowRef<(SwapLine & { text: string }) | null>(null)
  const trouble = ref('')

  async function understand({ makes = true } = {}): Promise<boolean> {
    const text = line.value.trim()
    if (text === '') {
      read.value = null
      return false
    }
    if (read.value?.text === text) return true
    try {
      const answer = await unwrap(
        api.POST('/api/lists/{id}/swaps/read', {
          params: { path: { id: toValue(list) } },
          body: { line: text },
        }),
      )
      if (line.value.trim() !== text) return false
      read.value = { ...answer, text }
      trouble.value = ''
      if (makes) made(answer)
      return true
    } catch (error) {
      trouble.value = reason(error)
      return false
    }
  }

  return {
    read,
    trouble,
    question: computed(() => read.value?.question ?? null),
    typed: useDebounceFn(() => understand(), READ_AFTER_MS),
    /** Reads the line as it stands, if it was not read yet; whether that is done. */
    understand,
    /** Reads a line whose draft was kept with it, and may have been changed since. */
    readBack: () => understand({ makes: false }),
    /** Forgets what was understood; the line stays. */
    forget: () => {
      read.value = null
      trouble.value = ''
    },
  }
}
