import { connectionOf, isConversation } from '~~/core/calls/questions'
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { routeKeys } from '~/stores/routes'
import { useEnding } from './ending'
import { usePanels } from './panels'

/** What the keys of "Who is it for?" do. Keys of the call in hand count only while nothing is typed. */
export function useHandKeys() {
  const desk = useDesk()
  const field = useField()
  const ending = useEnding()
  const panels = usePanels()

  function nameOf(event: KeyboardEvent): string {
    return `${event.ctrlKey ? 'Ctrl+' : ''}${event.shiftKey && event.key !== '#' && event.key !== '*' ? 'Shift+' : ''}${event.key}`
  }

  function takeWay(key: string): boolean {
    const way = field.ways.find(candidate => routeKeys[candidate.id] === key)
    if (way) void field.take(way)
    return way !== undefined
  }

  /** Space: holds the call in hand, or takes the longest held back when there is none. */
  function holdOrTakeBack(): void {
    if (desk.talking && isConversation(desk.talking)) void desk.ask({ service: 'holdCall', call: desk.talking.id })
    else if (!desk.talking && desk.held[0]) void desk.ask({ service: 'retrieveCall', call: desk.held[0].call.id })
  }

  /** The one that a swap goes to: the other side of a consultation, or who has been on hold longest. */
  function swap(): void {
    const own = desk.device
    const heldWith = [desk.askedFor, desk.consultation].find(call => call && own && connectionOf(call, own)?.state === 'held')
    const other = heldWith ?? desk.held[0]?.call
    if (other) void desk.ask({ service: 'retrieveCall', call: other.id })
  }

  /** Backspace: back to the caller one asks for, or pulls back the call passed on last while it rings. */
  function back(): void {
    if (desk.carried) return desk.carry(null)
    if (desk.consultation) {
      void desk.ask({ service: 'reconnectCall', call: desk.consultation.id })
      return
    }
    const last = [...desk.passedOn].sort((a, b) => b.due.since - a.due.since)[0]
    if (last) void desk.ask({ service: 'directedPickupCall', call: last.call.id })
  }

  /** Delete: ends the call in hand; refuses the chosen call when there is none. */
  function end(): void {
    const ribbon = desk.inHand.find(candidate => candidate.call.id === desk.talking?.id)
    if (ribbon) ending.end(ribbon)
    else if (desk.chosen) void desk.ask({ service: 'clearConnection', call: desk.chosen })
  }

  function mute(): void {
    const own = desk.talking && desk.device ? connectionOf(desk.talking, desk.device) : undefined
    if (own) void desk.ask({ service: 'setMicrophoneMute', call: desk.talking!.id, party: own.device, on: !own.muted })
  }

  function joinAll(): void {
    const other = desk.consultation && desk.askedFor && desk.consultation !== desk.talking ? desk.consultation : desk.askedFor ?? desk.held[0]?.call
    if (desk.talking && other) void desk.ask({ service: 'conferenceCall', call: desk.askedFor?.id ?? desk.talking.id, other: desk.askedFor ? desk.consultation!.id : other.id })
  }

  /** Escape: puts down what is carried, or quiets what rings. */
  function escape(): void {
    if (desk.carried) desk.carry(null)
    else for (const { call } of desk.arriving) desk.hush(call.id)
  }

  const idleKeys: Record<string, () => void> = {
    'Enter': () => void field.take(field.standing),
    ' ': holdOrTakeBack,
    'ArrowLeft': swap,
    'Backspace': back,
    'Delete': end,
    'Escape': escape,
    'F2': mute,
    'F4': () => panels.takeMessage(desk.baton ?? desk.talking),
    'F8': joinAll,
    'F9': () => panels.openDigits(),
  }

  /** Does what a key means here; false when it means nothing. */
  function press(event: KeyboardEvent): boolean {
    const key = nameOf(event)
    if (key === 'ArrowDown' || key === 'ArrowUp') {
      field.move(key === 'ArrowDown' ? 1 : -1)
      return true
    }
    if (field.slotMode) {
      if (key === 'Escape') field.clear()
      else if (key === 'Enter') void field.take({ act: () => field.park(null) })
      else return false
      return true
    }
    if (field.text === '') {
      idleKeys[key]?.()
      return key in idleKeys
    }
    if (key === 'Escape') {
      field.clear()
      return true
    }
    return takeWay(key) || key === 'Enter'
  }

  return { press, joinAll, mute }
}
