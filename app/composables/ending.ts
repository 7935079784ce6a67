import type { CallId } from '~~/core/calls/model'
import { isConversation } from '~~/core/calls/questions'
import { type Ribbon, useDesk } from '~/stores/desk'

const patience = 3_000
const asked = ref<CallId | null>(null)
let forget: ReturnType<typeof setTimeout> | undefined

/** Ending can't be undone: while somebody is connected it takes a second press within a few seconds. */
export function useEnding() {
  const desk = useDesk()

  function end(ribbon: Ribbon): void {
    clearTimeout(forget)
    if (isConversation(ribbon.call) && asked.value !== ribbon.call.id) {
      asked.value = ribbon.call.id
      desk.say('Press again to end the call')
      forget = setTimeout(() => { asked.value = null }, patience)
      return
    }
    asked.value = null
    void desk.ask({ service: 'clearConnection', call: ribbon.call.id })
  }

  return { asked: readonly(asked), end }
}
