import { phrase } from '../../../words/phrase'
import { nameOf, refuse, type Refused } from '../answers'
import type { Call, CallEvent, Connection, ExchangeState, Request, ServiceName } from '../model'

/**
 * Telephones that have answered by themselves. Nobody there has lifted: whoever speaks is heard in the room, and nobody else comes into that call until
 * its owner has turned the microphone on. It is over when the one who speaks puts it on hold, or is there no longer.
 */

/** What can be done with such a call: nothing that connects, keeps or moves anybody. */
const ofIntercom: readonly ServiceName[] = ['clearConnection', 'clearCall', 'setMicrophoneMute', 'sendUserInformation', 'generateDigits']

/** The telephone in a call that has answered by itself, if nobody there has lifted yet. */
export function unliftedIn(call: Call): Connection | undefined {
  return call.connections.find(({ byItself }) => byItself)
}

/** Why a request about calls is refused: one of those that it names has somebody in it who has not lifted. */
export function refusalOfIntercom(state: ExchangeState, request: Request): Refused | null {
  if (ofIntercom.includes(request.service)) return null
  for (const value of Object.values(request)) {
    const call = typeof value === 'string' ? state.calls.get(value) : undefined
    const unlifted = call && unliftedIn(call)
    if (unlifted)
      return refuse('notPossibleNow', phrase('refusals.nobodyHasLiftedAtYet', { name: nameOf(state, unlifted.device) }))
  }
  return null
}

/** The end of a call at whose other end nobody has lifted. */
export function intercomEnds(call: Call, cause: 'normalClearing' | 'preempted'): CallEvent {
  return { type: 'callCleared', call: call.id, device: call.calling, cause }
}

/** True when the one who spoke to a telephone that has answered by itself speaks there no longer. */
export function isSpeechOver(state: ExchangeState, call: Call): boolean {
  const unlifted = unliftedIn(call)
  if (!unlifted) return false
  const [speaker, ...more] = call.connections.filter(other => other !== unlifted)
  return unlifted.state !== 'connected' || speaker?.state !== 'connected' || more.length > 0 || !state.agents.get(speaker.device)?.attended
}
