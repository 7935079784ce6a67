import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { CallId } from '~~/core/calls/model'
import { reaction } from '~~/core/console/aims'
import { dropping } from '~~/core/console/ways'
import { useDesk } from './desk'
import { useDirectory } from './directory'
import { steady } from './live'
import { useWays } from './ways'
import { t } from '~/composables/language'

/** Where the pointer is while it drags: on what, and whether Shift is held. */
export interface Pointed { target: string | null, shift: boolean, x: number, y: number }

/** Dragging a call from the track: what dropping would do, in words, and doing it. */
export const useCarrying = defineStore('carrying', () => {
  const desk = useDesk()
  const directory = useDirectory()
  const ways = useWays()
  const dragging = ref(false)
  /** What is under the pointer: a person, a group, a queue or a slot; and whether Shift is held. */
  const over = ref<{ target: string, shift: boolean } | null>(null)
  let last: Pointed | null = null
  /** When what is under the pointer came there by itself, because the page moved: nobody has meant it yet. */
  let slidAt: number | null = null

  function whatDropping(target: string, shift: boolean) {
    const console = ways.console()
    return console && dropping(console, target, shift)
  }

  const words = computed(() => {
    if (!dragging.value) return null
    if (!over.value) return t('track.dropOnAPersonA')
    const what = whatDropping(over.value.target, over.value.shift)
    return what ? t('track.droppingWords', { words: what.words }) : t('track.nothingCanBeDroppedHere')
  })

  function begin(call: CallId): void {
    dragging.value = true
    last = null
    slidAt = null
    desk.carry(call)
  }

  /** Lets go: on a target does what was said, elsewhere nothing. */
  function end(at: Pointed): void {
    hover(at)
    const { target } = at
    const slid = target !== null && slidAt !== null && steady() - slidAt < reaction
    const what = target && !slid ? whatDropping(target, at.shift) : null
    dragging.value = false
    over.value = null
    if (slid) desk.refuse(t('track.cameUnderThePointerBy', { name: directory.nameOf(target) }))
    if (what) void ways.perform(what.deed).then(() => desk.carry(null))
    else desk.carry(null)
  }

  function hover(at: Pointed): void {
    const rests = last !== null && last.x === at.x && last.y === at.y
    if (!rests) slidAt = null
    else if (last!.target !== null && last!.target !== at.target) slidAt = steady()
    last = at
    over.value = at.target ? { target: at.target, shift: at.shift } : null
  }

  return { dragging, over, words, begin, end, hover }
})
