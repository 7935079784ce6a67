import { accept } from '../answers'
import { settled, without } from '../course'
import type { EventKind } from '../event'
import { destination, distribution, type FieldsOf, ofCall, textIfAny } from '../fields'
import type { Call, EventOf } from '../model'
import { handable, noteOf, withYou } from './passing'
import type { Service } from '../service'
import { onward } from '../targets'

const fields = () => ofCall().shape({ to: destination('to'), note: textIfAny('note'), distribution: distribution() })

declare module '../model' {
  interface Requests { singleStepTransferCall: FieldsOf<typeof fields> }
  interface Events {
    /** `joined`: the consultation whose other party takes this one's place. `by`: who moved the call, when it was not `device` itself. */
    transferred: OfCall & { to: DeviceId, by?: DeviceId, note?: string, joined?: CallId }
  }
}

/** Passes a caller on without asking; whoever does it watches until somebody has answered. */
export const singleStepTransferCall: Service<'singleStepTransferCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, call, own, request: { to, note, distribution } }) {
    const caller = handable(call, own)
    if ('refusal' in caller) return caller
    const next = onward(state, call, own.device, to, withYou, distribution)
    if ('refusal' in next) return next
    return accept({ type: 'transferred', call: call.id, device: own.device, to: next.target.id, ...noteOf(note) }, ...next.events)
  },
}

export const transferred: EventKind<'transferred'> = {
  change: handedOn,
  step: ({ by }) => by ? { device: by } : {},
  redact: ({ note: _note, ...rest }) => rest,
  redactCall: call => ({ ...call, passing: call.passing && { ...call.passing, note: null } }),
}

function handedOn(call: Call, event: EventOf<'transferred'>, joined: Call | undefined): Call {
  const rest = without(settled(call.connections), event.device)
  const newcomers = joined?.connections.filter(({ device }) => device !== event.device) ?? []
  const taken = newcomers.some(({ state }) => state !== 'alerting')
  const passing = { by: event.by ?? event.device, to: event.to, at: event.at, note: event.note ?? null }
  return {
    ...call, calling: rest[0]!.device, passing: taken ? null : passing, hunting: null, recall: null, parked: null, consulted: null,
    overflowed: [], connections: [...rest, ...newcomers],
  }
}
