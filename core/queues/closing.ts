import type { Call, CallEvent, DeviceId, ExchangeState, LineId } from '../calls/model'
import { sendAway } from '../calls/passing/passing'
import { nightOf } from '../calls/timers'
import { lookUp } from '../company/lookups'
import { isOpen } from './openings'

/** What becomes of callers who wait where it is closed. */

/** A caller waits where it is closed: a queue, or the line that they have called on and that nobody has answered yet. */
export function waitsAtClosed(state: ExchangeState, call: Call, queue: DeviceId): boolean {
  return closedAt(state, call, queue) !== null
}

function closedAt(state: ExchangeState, call: Call, queue: DeviceId): LineId | DeviceId | null {
  if (!isOpen(state, queue)) return queue
  const fresh = call.recall === null && !call.story.some(({ type }) => type === 'established')
  return fresh && call.line !== null && queue === lookUp(state.company.lines, call.line)?.target && !isOpen(state, call.line) ? call.line : null
}

/**
 * Who waits where it is closed hears what is said there, and goes on: to where somebody has said who closed it, from a line to its night destination, from a
 * queue to the operators.
 */
export function sendFromClosed(state: ExchangeState, call: Call, queue: DeviceId): CallEvent[] {
  const closed = closedAt(state, call, queue)!
  const { operators } = state.company.settings
  const said = (lookUp(state.company.lines, closed) ?? lookUp(state.company.groups, closed))?.closedText
  const to = state.openings.get(closed)?.to ?? (queue === operators || closed === call.line ? nightOf(state, call) : operators)
  return [
    ...(said ? [{ type: 'callInformation', call: call.id, device: queue, text: said } as const] : []),
    ...sendAway(state, call, queue, to, 'closed'),
  ]
}
