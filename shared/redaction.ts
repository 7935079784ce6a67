import type { Call, DeviceId, ExchangeState, NumberedEvent } from '../core/calls/model'
import { connectionOf } from '../core/calls/questions'
import type { Role } from './people'

/** Only who answers for the company, or for how it is done, sees who calls and what they say; everybody sees who is on the telephone. */
export function seesCallers(role: Role): boolean {
  return role !== 'staff'
}

const nobody = { number: null, name: null }

/**
 * The same event without who the outside party is and what they said. Its effect on everything else is the same:
 * `redactState(evolve(s, e))` equals `evolve(redactState(s), redactEvent(e))`.
 */
export function redactEvent(event: NumberedEvent): NumberedEvent {
  switch (event.type) {
    case 'callInformation': return { ...event, text: '' }
    case 'originated': {
      const { account: _account, ...rest } = event
      return { ...rest, dialled: '', ...(event.party && { party: nobody }) }
    }
    case 'delivered': return event.party ? { ...event, party: nobody } : event
    case 'transferred': {
      const { note: _note, ...rest } = event
      return rest
    }
    case 'numberBlocked':
    case 'numberUnblocked': return { type: 'concealed', seq: event.seq, at: event.at }
    default: return event
  }
}

/** The same state without who the outside parties are and what they said. */
export function redactState(state: ExchangeState): ExchangeState {
  return {
    ...state,
    blocked: state.blocked.clear(),
    outlived: state.outlived.map(note => ({ ...note, party: note.party && nobody })),
    calls: state.calls.map(redactCall),
  }
}

function redactCall(call: Call): Call {
  return {
    ...call,
    dialled: '',
    party: call.party && nobody,
    passing: call.passing && { ...call.passing, note: null },
    account: null,
    caption: call.caption && { ...call.caption, text: '' },
    connections: call.connections.map(connection => connection.party ? { ...connection, party: nobody } : connection),
  }
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
