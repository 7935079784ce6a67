import { accept, nameOf, ownerSentence, refuse, type Refused } from '../answers'
import { destination, distribution, type FieldsOf, idIfAny, ofCall, textIfAny } from '../fields'
import type { Call, DeviceId, ExchangeState } from '../model'
import { handable, noteOf } from './passing'
import { connectionOf } from '../questions'
import type { Service } from '../service'
import { onward } from '../targets'

const where = 'The call is still where it was.'
const fields = () => ofCall().shape({ to: destination('to'), from: idIfAny('from', 'device'), note: textIfAny('note'), distribution: distribution() })

declare module '../model' {
  interface Requests { deflectCall: FieldsOf<typeof fields> }
}

/** Sends on a call that one has not answered, or that waits in a slot, or (for operators) rings, talks or waits at `from`. */
export const deflectCall: Service<'deflectCall'> = {
  fields,
  askedBy: ['console'],
  may({ state, call, part, operator, request: { device, from } }) {
    if (from !== undefined && from !== device) return operator ? null : refuse('notAllowed', 'Only operators may move other people\'s calls.')
    if (call.parked && !operator && part !== 'watching')
      return refuse('notAllowed', 'Only operators, and whoever parked the caller, may send them on. You can take the call.')
    return part === 'rung' || part === 'member' || part === 'served' || (call.parked && (operator || part === 'watching'))
      ? null
      : refuse('notYourCall', ownerSentence(state, call))
  },
  decide({ state, call, request: { device, to, from, note, distribution } }) {
    const source = sourceOf(state, call, device, from)
    if ('refusal' in source) return source
    const next = onward(state, call, source.device === device ? device : '', to, where, distribution)
    if ('refusal' in next) return next
    return accept({ type: 'transferred', call: call.id, device: source.device, to: next.target.id, by: device, ...noteOf(note) }, ...next.events)
  },
}

function sourceOf(state: ExchangeState, call: Call, device: DeviceId, from: DeviceId | undefined): { device: DeviceId } | Refused {
  if (from === undefined || from === device) {
    if (call.parked) return { device: call.parked.slot }
    const own = connectionOf(call, device)
    if (own?.state === 'alerting' && !own.invitedBy) return own
    const queue = call.connections.find(({ state: its }) => its === 'queued')
    if (queue && !own) return queue
    return refuse('notPossibleNow', own?.invitedBy ? 'You are asked to join that call: answer or decline.' : 'You have answered that call: pass it on instead.')
  }
  if (connectionOf(call, device)) return refuse('notPossibleNow', `You are in that call yourself: pass it on instead. ${where}`)
  const there = connectionOf(call, from)
  if (!there || there.party) return refuse('notYourCall', `${nameOf(state, from)} no longer has that call. ${where}`)
  if ((there.state === 'alerting' && !there.invitedBy) || (there.state === 'queued' && !call.parked)) return there
  const caller = handable(call, there)
  return 'refusal' in caller ? refuse('notPossibleNow', `That call can't be moved at this moment. ${where}`) : there
}
