import { defineStore } from 'pinia'
import type { SignedIn } from '~~/shared/people'

/** Who is signed in at this browser. */
export const useSession = defineStore('session', () => {
  const me = ref<SignedIn | null>(null)
  let asked = false

  /** Asks the server once whether the cookie is still good. */
  async function recall(): Promise<void> {
    if (asked) return
    me.value = await $fetch<SignedIn | null>('/api/session')
    asked = true
  }

  /** @throws the server's error, with its sentence */
  async function signIn(credentials: { signIn: string, password: string }): Promise<void> {
    me.value = await $fetch<SignedIn>('/api/session', { method: 'POST', body: credentials })
    asked = true
  }

  async function signOut(): Promise<void> {
    await $fetch('/api/session', { method: 'DELETE' })
    me.value = null
  }

  return { me, recall, signIn, signOut }
})
