import { shallowRef } from 'vue'
import { keepNothing } from './kept'

/** Set while a session has ended and the password is asked for: what to call once it is answered, or nobody answers. */
export const ended = shallowRef<((again: boolean) => void) | null>(null)

let asking: Promise<boolean> | null = null

/** Asks for the password on the spot; whether somebody is signed in again. Requests that wait for it wait together. */
export function signInAgain(): Promise<boolean> {
  asking ??= new Promise<boolean>((resolve) => {
    ended.value = resolve
    void keepNothing()
  }).finally(() => {
    ended.value = null
    asking = null
  })
  return asking
}

/** Back to the sign-in page: nothing that was typed, shown or could be undone is left for the next person. */
export async function resetToSignIn() {
  sessionStorage.clear()
  await keepNothing()
  window.location.assign('/')
}
