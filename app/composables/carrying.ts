import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useRoutes } from '~/stores/routes'

/** What is under the pointer while a ribbon is dragged: a person, a group, a queue or a slot; and whether Shift is held. */
const over = ref<{ target: string, shift: boolean } | null>(null)
const dragging = ref(false)

/** Dragging a call from the track: what dropping would do, in words, and doing it. */
export function useCarrying() {
  const desk = useDesk()
  const routes = useRoutes()
  const directory = useDirectory()

  /** What dropping on a target does, or null when nothing would happen there. */
  function wayTo(target: string, shift: boolean): { words: string, act: () => Promise<boolean> } | null {
    const call = desk.carried
    if (!call) return null
    const place = desk.slots.find(candidate => candidate.slot.id === target)
    if (place) {
      return place.call ? null : { words: `parks ${desk.otherName(call)} in ${directory.nameOf(target)}`, act: () => desk.ask({ service: 'parkCall', call: call.id, slot: target, for: null }) }
    }
    const ways = routes.to(target)
    return ways.find(way => shift && (way.id === 'ask' || way.id === 'everybody')) ?? ways.find(way => way.id === 'passOn') ?? null
  }

  const words = computed(() => {
    if (!dragging.value) return null
    if (!over.value) return 'Drop on a person, a group or a park slot. Hold Shift to ask first. Escape puts it down.'
    const way = wayTo(over.value.target, over.value.shift)
    return way ? `Dropping ${way.words}` : 'Nothing can be dropped here.'
  })

  function begin(call: string): void {
    dragging.value = true
    desk.carry(call)
  }

  /** Lets go: on a target does what was said, elsewhere nothing. */
  function end(target: string | null, shift: boolean): void {
    const way = target ? wayTo(target, shift) : null
    dragging.value = false
    over.value = null
    if (way) void way.act().then(() => desk.carry(null))
    else desk.carry(null)
  }

  function hover(target: string | null, shift: boolean): void {
    over.value = target ? { target, shift } : null
  }

  return { dragging: readonly(dragging), over: readonly(over), words, begin, end, hover }
}
