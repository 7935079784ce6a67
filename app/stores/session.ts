import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Right } from '~~/shared/rights'
import type { SignedIn } from '~~/shared/people'

/** Who is signed in at this browser. */
export const useSession = defineStore('session', () => {
  const me = ref<SignedIn | null>(null)
  let asked = false

  /** Asks the server once whether the cookie is still good. */
  async function recall(): Promise<void> {
    if (!asked) await check()
    asked = true
  }

  /** Asks the server again: the session may be over, or another role hold. False when nobody is signed in any more. */
  async function check(): Promise<boolean> {
    // Nobody is an empty answer.
    me.value = await $fetch<SignedIn | undefined>('/api/session') ?? null
    return me.value !== null
  }

  /** @throws the server's error, with its sentence */
  async function signIn(credentials: { signIn: string, password: string }): Promise<void> {
    me.value = await $fetch<SignedIn>('/api/session', { method: 'POST', body: credentials })
    asked = true
  }

  /** Back from the identity provider, with what it has sent along. */
  async function finish(query: string): Promise<void> {
    me.value = await $fetch<SignedIn>('/api/identity/finish', { method: 'POST', body: { query } })
    asked = true
  }

  /** @returns where the browser goes to end its session at the identity provider too; null: none began it */
  async function signOut(): Promise<string | null> {
    const { there } = await $fetch('/api/session', { method: 'DELETE' })
    me.value = null
    return there
  }

  function may(right: Right): boolean {
    return me.value?.rights.includes(right) ?? false
  }

  return { me, may, recall, check, signIn, finish, signOut }
})
