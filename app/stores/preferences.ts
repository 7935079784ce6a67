import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { reactive, toRefs } from 'vue'
import { asDesigned } from '~~/shared/as-designed'
import type { Preferences, PreferencesChange } from '~~/shared/preferences'

const settles = 400

/** How the console is set: remembered for the person on the server, whichever browser they sit at next. Another console that is open keeps its own. */
export const usePreferences = defineStore('preferences', () => {
  const current = reactive<Preferences>({ ...asDesigned })
  let unsent: PreferencesChange = {}

  /** Fetches what was set; as designed when the server can't say. */
  async function recall(): Promise<void> {
    try {
      Object.assign(current, await $fetch<Preferences>('/api/preferences'))
    }
    catch {
      // The console works as designed; it is said elsewhere that the server is away.
    }
  }

  /** Sends at once what has not been sent. */
  async function flush(): Promise<void> {
    const change = unsent
    unsent = {}
    if (Object.keys(change).length === 0) return
    try {
      await $fetch('/api/preferences', { method: 'PATCH', body: change, keepalive: true })
    }
    catch {
      unsent = { ...change, ...unsent }
    }
  }
  const send = useDebounceFn(flush, settles)

  /** Sets what is named, here at once and on the server a moment later; what can't be sent goes with the next change. */
  function set(change: PreferencesChange): void {
    Object.assign(current, change)
    unsent = { ...unsent, ...change }
    void send()
  }

  return { ...toRefs(current), recall, set, flush }
})
