import { lookUp } from '../../company/lookups'
import type { Call, CallEvent, DeviceId, ExchangeState, Listening } from '../model'
import { connectionOf, isConnected, isEmergency, talkingCallOf, telephoneOf } from '../questions'
import { ownPage } from '../paging/pages'

/**
 * Whoever has the right listens to a colleague's call, and may whisper to that colleague alone. It is no call and no part of one: it holds, ends and joins
 * none, and is over when the colleague leaves the call, or when whoever listens talks to somebody.
 */

/** Who listens to a call, in the order in which they began. */
export function listenersOf(state: ExchangeState, call: Call): Listening[] {
  return state.listenings.size === 0 ? [] : [...state.listenings.values()].filter(listening => listening.call === call.id)
}

/** What somebody listens to, if it is that call. */
export function listeningTo(state: ExchangeState, { id }: Call, by: DeviceId): Listening | undefined {
  const listening = state.listenings.get(by)
  return listening?.call === id ? listening : undefined
}

/** Who whispers to a telephone of ours while it talks on that call; on another one of its calls nobody is heard. */
export function whisperersTo(state: ExchangeState, device: DeviceId, call: Call): DeviceId[] {
  return listenersOf(state, call).filter(({ to, whispers }) => whispers && to === device).map(({ by }) => by)
}

/** Whether a telephone may listen to calls of others at all. */
export function mayListen(state: ExchangeState, device: DeviceId): boolean {
  const telephone = lookUp(state.company.telephones, device)
  return Boolean(telephone?.mayListen && isConnected(state, device) && state.agents.get(device)?.attended)
}

/** Somebody else of ours is in the call, who sits where a whisper may be heard. */
export function wouldLeak(state: ExchangeState, call: Call, to: DeviceId): boolean {
  return call.connections.some(connection => connection.device !== to && telephoneOf(state, connection) !== undefined)
}

/** What listening, and whispering, is over for after what has just happened. */
export function listeningsAfterwards(state: ExchangeState): CallEvent[] {
  if (state.listenings.size === 0) return []
  return [...state.listenings.values()].flatMap((listening): CallEvent[] => {
    const call = state.calls.get(listening.call)
    if (!call || !goesOn(state, call, listening)) return [listeningEnds(listening)]
    return listening.whispers && wouldLeak(state, call, listening.to) ? [{ type: 'whisperEnded', call: call.id, device: listening.by }] : []
  })
}

function goesOn(state: ExchangeState, call: Call, { by, to }: Listening): boolean {
  const own = connectionOf(call, to)
  return (own?.state === 'connected' || own?.state === 'held') && !connectionOf(call, by) && !isEmergency(state, call)
    && mayListen(state, by) && !talkingCallOf(state, by) && !ownPage(state, by)
}

export function listeningEnds({ by, call }: Listening): CallEvent {
  return { type: 'listeningEnded', call, device: by }
}

/** The listenings after an event. */
export function listeningsAfter(next: ExchangeState, event: CallEvent): ExchangeState {
  switch (event.type) {
    case 'listeningBegun': {
      const { device: by, call, to } = event
      return { ...next, listenings: next.listenings.set(by, { by, to, call, whispers: false, at: next.time }) }
    }
    case 'listeningEnded': return { ...next, listenings: next.listenings.delete(event.device) }
    case 'whisperBegun': case 'whisperEnded': {
      const listening = next.listenings.get(event.device)
      return listening ? { ...next, listenings: next.listenings.set(event.device, { ...listening, whispers: event.type === 'whisperBegun' }) } : next
    }
    default: return next
  }
}
