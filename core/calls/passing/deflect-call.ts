import { phrase } from '../../../words/phrase'
import { accept, nameOf, ownerSentence, refuse, type Refused } from '../answers'
import { destination, distribution, type FieldsOf, idIfAny, ofCall, textIfAny } from '../fields'
import type { Call, DeviceId, ExchangeState } from '../model'
import { handable, noteOf } from './passing'
import { connectionOf } from '../questions'
import type { Service } from '../service'
import { onward } from '../targets'

const where = phrase('refusals.theCallIsStillWhere')
const fields = () => ofCall().shape({ to: destination('to'), from: idIfAny('from', 'device'), note: textIfAny('note'), distribution: distribution() })

declare module '../model' {
  interface Requests { deflectCall: FieldsOf<typeof fields> }
}

/** Sends on a call that one has not answered, or that waits in a slot, or (for operators) rings, talks or waits at `from`. */
export const deflectCall: Service<'deflectCall'> = {
  fields,
  askedBy: ['console'],
  may({ state, call, part, operator, request: { device, from } }) {
    if (from !== undefined && from !== device) return operator ? null : refuse('notAllowed', phrase('refusals.onlyOperatorsMayMoveOther'))
    if (call.parked && !operator && part !== 'watching')
      return refuse('notAllowed', phrase('refusals.onlyOperatorsAndWhoeverParked'))
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
    return refuse('notPossibleNow', own?.invitedBy ? phrase('refusals.youAreAskedToJoin') : phrase('refusals.youHaveAnsweredThatCall'))
  }
  if (connectionOf(call, device)) return refuse('notPossibleNow', phrase('refusals.youAreInThatCallYourself', { where }))
  const there = connectionOf(call, from)
  if (!there || there.party) return refuse('notYourCall', phrase('refusals.noLongerHasThatCall', { name: nameOf(state, from), where }))
  if ((there.state === 'alerting' && !there.invitedBy) || (there.state === 'queued' && !call.parked)) return there
  const caller = handable(call, there)
  return 'refusal' in caller ? refuse('notPossibleNow', phrase('refusals.thatCallCantBeMoved', { where })) : there
}
