import { readonly, ref } from 'vue'
import { reason } from './messages'

/** Something that is sent by a form: once at a time, however often Enter is pressed, and why it was refused. */
export function useSending() {
  const busy = ref(false)
  const refusal = ref('')
  async function send(work: () => Promise<unknown>) {
    if (busy.value) return
    busy.value = true
    refusal.value = ''
    try {
      await work()
    } catch (error) {
      refusal.value = reason(error)
    } finally {
      busy.value = false
    }
  }
  return { busy: readonly(busy), refusal, send }
}
