import { kinds } from './events'
import type { EventKind } from './event'
import type { Call, DeviceId, ExchangeState, NumberedEvent, Page } from './model'
import { pagesHeardAt } from './paging/pages'
import { connectionOf } from './questions'

/** What somebody sees who may not see callers: each kind of event says what of it, and of what it left behind, is kept from them. */

const all = Object.values(kinds) as EventKind<never>[]
const ofCalls = all.flatMap(({ redactCall }) => redactCall ?? [])
const ofStates = all.flatMap(({ redactState }) => redactState ?? [])

/**
 * The same event without who the outside party is and what they said. Its effect on everything else is the same:
 * `redactState(evolve(s, e))` equals `evolve(redactState(s), redactEvent(e))`.
 */
export function redactEvent(event: NumberedEvent): NumberedEvent {
  return (kinds[event.type] as EventKind<never>).redact?.(event as never) ?? event
}

/** The same state without who the outside parties are and what they said. */
export function redactState(state: ExchangeState): ExchangeState {
  return ofStates.reduce((redacted, redact) => redact(redacted), { ...state, calls: state.calls.map(redactCall) })
}

function redactCall(call: Call): Call {
  return ofCalls.reduce((redacted, redact) => redact(redacted), call)
}

/** What is said on the pages that somebody's telephone hears. */
export function pagesRevealedTo(device: DeviceId, state: ExchangeState): Page[] {
  return pagesHeardAt(state, device)
}

/**
 * What a person who sees no callers may know of a call all the same: of one at their own telephone everything but its account code,
 * of a caller who waits in a slot for them who it is; null when nothing.
 */
export function revealedTo(device: DeviceId, call: Call): Call | null {
  if (connectionOf(call, device)) return { ...call, account: null }
  if (call.parked?.for !== device) return null
  return { ...redactCall(call), party: call.party, connections: call.connections }
}
