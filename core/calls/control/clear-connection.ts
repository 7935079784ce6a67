import { phrase } from '../../../words/phrase'
import { accept, nameOf, ownerSentence, refuse } from '../answers'
import { type EventKind, told } from '../event'
import { type FieldsOf, ofCall as fields } from '../fields'
import type { Call, CallEvent, Decision, DeviceId } from '../model'
import { unanswered } from '../passing/passing'
import { connectionOf, leavesMessage, membersOf, othersOf, partnerOf } from '../questions'
import type { Service } from '../service'

declare module '../model' {
  interface Requests { clearConnection: FieldsOf<typeof fields> }
  interface Events {
    refused: OfCall
  }
}

/** Hangs up, declines what rings, or refuses what waits. Whoever leaves a conference leaves it to the others. */
export const clearConnection: Service<'clearConnection'> = {
  fields,
  askedBy: ['console', 'handset'],
  outside: true,
  may: ({ state, call, part }) => ['member', 'rung', 'invited', 'served'].includes(part) ? null : refuse('notYourCall', ownerSentence(state, call)),
  decide({ state, call, request: { device } }) {
    const own = connectionOf(call, device)
    if (!own) return refuseWaiting(call, device)
    if (own.state === 'alerting') return accept(...unanswered(state, call, own, 'declined'))
    const others = othersOf(call, own.device)
    const staying = membersOf(call).filter(other => other !== own)
    const leaves: CallEvent & { type: 'connectionCleared' } = {
      type: 'connectionCleared',
      call: call.id,
      device: own.device,
      cause: staying.length > 0 || leavesMessage(call) ? 'normalClearing' : 'abandoned',
    }
    if (staying.length > 1) return accept(leaves)
    // An outside party hangs up whenever they like; one of ours must not cut off somebody who hears music, or who still waits for a third.
    if (own.state === 'held' && !own.party && partnerOf(call, own.device)?.state === 'connected') {
      return refuse('callerOnHold', phrase('refusals.thatCallerIsOnHold'))
    }
    const invited = others.find(other => other.invitedBy)
    if (invited && !own.party && staying.length > 0) {
      return refuse(
        'notPossibleNow',
        phrase('refusals.isStillBeingRungTo', { name: nameOf(state, invited.device) }),
      )
    }
    return accept(leaves, { type: 'callCleared', call: call.id, device: own.device, cause: leaves.cause })
  },
}

/** An operator will not take a call that waits for all of them; it goes on waiting for the others. */
function refuseWaiting(call: Call, device: DeviceId): Decision {
  if (call.refusedBy.includes(device)) return refuse('notPossibleNow', phrase('refusals.youHaveRefusedThatCall'))
  return accept({ type: 'refused', call: call.id, device })
}

export const refused: EventKind<'refused'> = {
  change: (call, { device }) => ({ ...call, refusedBy: [...call.refusedBy, device] }),
  step: told,
}
