import type { Call, DeviceId, ExchangeState, NumberedEvent } from '../core/calls/model'
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
  if (event.type === 'digitsGenerated') return { ...event, digits: '' }
  if (event.type === 'transferred' && event.note) return { ...event, note: '' }
  if (event.type === 'numberBlocked' || event.type === 'numberUnblocked') return { ...event, number: '', ...('reason' in event && { reason: '' }) }
  if (event.type === 'delivered' && event.party) return { ...event, party: nobody }
  return event
}

/**
 * The same state without who the outside parties are and what they said.
 * @param device whose notes of callers who have gone may still say who it was
 */
export function redactState(state: ExchangeState, device: DeviceId | null = null): ExchangeState {
  return { ...state, blocked: {}, outlived: state.outlived.map(note => note.for === device ? note : { ...note, party: note.party && nobody }), calls: Object.fromEntries(Object.entries(state.calls).map(([id, call]) => [id, redactCall(call)])) }
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
