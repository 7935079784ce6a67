import { useTimeoutFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { CallId } from '~~/core/calls/model'
import { isConversation } from '~~/core/calls/questions'
import { useDesk } from './desk'
import { useLive } from './live'

const patience = 3_000

/** Ending can't be undone: while somebody is connected it takes a second press within a few seconds. */
export const useEnding = defineStore('ending', () => {
  const desk = useDesk()
  const live = useLive()
  /** The call that a second press ends. */
  const asked = ref<CallId | null>(null)
  const forget = useTimeoutFn(() => { asked.value = null }, patience, { immediate: false })

  function end(call: CallId): void {
    const ended = live.state?.calls.get(call)
    if (ended && isConversation(ended) && asked.value !== call) {
      asked.value = call
      desk.say('Press again to end the call')
      forget.start()
      return
    }
    forget.stop()
    asked.value = null
    void desk.ask({ service: 'clearConnection', call })
  }

  return { asked, end }
})
