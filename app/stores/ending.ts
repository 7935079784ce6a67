import { useTimeoutFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import type { CallId } from '~~/core/calls/model'
import { isConversation } from '~~/core/calls/questions'
import { useDesk } from './desk'
import { useLive } from './live'
import { t } from '~/composables/language'

const patience = 3_000

/** Ending can't be undone: while somebody is connected it takes a second press within a few seconds. */
export const useEnding = defineStore('ending', () => {
  const desk = useDesk()
  const live = useLive()
  /** The call that a second press ends. */
  const asked = ref<CallId | null>(null)
  const timer = useTimeoutFn(() => { asked.value = null }, patience, { immediate: false })

  /** Whatever is done in between, the next press is a first one again. */
  function forget(): void {
    timer.stop()
    asked.value = null
  }
  watch(() => desk.done, forget)

  function end(call: CallId): void {
    const ended = live.state?.calls.get(call)
    if (ended && isConversation(ended) && asked.value !== call) {
      asked.value = call
      const whom = desk.otherName(ended)
      desk.say(ended.conference ? t('track.pressAgainToLeaveThe', { whom }) : t('track.pressAgainToEndThe', { whom }), 'urgent')
      timer.start()
      return
    }
    forget()
    void desk.ask({ service: 'clearConnection', call })
  }

  return { asked, end, forget }
})
