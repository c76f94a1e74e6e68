import { usePreferredDark, useStorage } from '@vueuse/core'
import { computed, watchEffect } from 'vue'

type Look = 'system' | 'light' | 'dark'

const look = useStorage<Look>('kevyt-look', 'system')
const systemIsDark = usePreferredDark()
const isDark = computed(() => (look.value === 'system' ? systemIsDark.value : look.value === 'dark'))

/** Light or dark: the system's until somebody chooses. */
export function useDark() {
  watchEffect(() => document.documentElement.classList.toggle('dark', isDark.value))
  return { isDark, toggle: () => (look.value = isDark.value ? 'light' : 'dark') }
}
