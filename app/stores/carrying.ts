import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { CallId } from '~~/core/calls/model'
import { dropping } from '~~/core/console/ways'
import { useDesk } from './desk'
import { useWays } from './ways'

/** Dragging a call from the track: what dropping would do, in words, and doing it. */
export const useCarrying = defineStore('carrying', () => {
  const desk = useDesk()
  const ways = useWays()
  const dragging = ref(false)
  /** What is under the pointer: a person, a group, a queue or a slot; and whether Shift is held. */
  const over = ref<{ target: string, shift: boolean } | null>(null)

  function whatDropping(target: string, shift: boolean) {
    const console = ways.console()
    return console && dropping(console, target, shift)
  }

  const words = computed(() => {
    if (!dragging.value) return null
    if (!over.value) return 'Drop on a person, a group or a park slot. Hold Shift to ask first. Escape puts it down.'
    const what = whatDropping(over.value.target, over.value.shift)
    return what ? `Dropping ${what.words}` : 'Nothing can be dropped here.'
  })

  function begin(call: CallId): void {
    dragging.value = true
    desk.carry(call)
  }

  /** Lets go: on a target does what was said, elsewhere nothing. */
  function end(target: string | null, shift: boolean): void {
    const what = target ? whatDropping(target, shift) : null
    dragging.value = false
    over.value = null
    if (what) void ways.perform(what.deed).then(() => desk.carry(null))
    else desk.carry(null)
  }

  function hover(target: string | null, shift: boolean): void {
    over.value = target ? { target, shift } : null
  }

  return { dragging, over, words, begin, end, hover }
})
