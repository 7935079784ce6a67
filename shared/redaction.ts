import type { Call, ExchangeState, NumberedEvent } from '../core/calls/model'
import type { Role } from './people'

/** Only who answers for the company, or for how it is done, sees who calls and what they say; everybody sees who is on the telephone. */
export function seesCallers(role: Role): boolean {
  return role !== 'staff'
}

const nobody = { number: null, name: null }

/** The same event without who the outside party is and what they said. Its effect on everything else is the same. */
export function redactEvent(event: NumberedEvent): NumberedEvent {
  if (event.type === 'callInformation') return { ...event, text: '' }
  if (event.type === 'originated') return { ...event, dialled: '', ...(event.party && { party: nobody }) }
  if (event.type === 'delivered' && event.party) return { ...event, party: nobody }
  return event
}

/** The same state without who the outside parties are and what they said. */
export function redactState(state: ExchangeState): ExchangeState {
  return { ...state, calls: Object.fromEntries(Object.entries(state.calls).map(([id, call]) => [id, redactCall(call)])) }
}

function redactCall(call: Call): Call {
  return {
    ...call,
    dialled: '',
    party: call.party && nobody,
    caption: call.caption && { ...call.caption, text: '' },
    connections: call.connections.map(connection => connection.party ? { ...connection, party: nobody } : connection),
  }
}
