import { phrase } from '../../../words/phrase'
import { accept, nameOf, ownerSentence, refuse } from '../answers'
import { settled, without } from '../course'
import type { EventKind } from '../event'
import { type FieldsOf, idOrNull, ofCall } from '../fields'
import { handable, withYou } from '../passing/passing'
import { connectionOf, parkedIn } from '../questions'
import type { Service } from '../service'

const fields = () => ofCall().shape({ slot: idOrNull('slot', 'slot'), for: idOrNull('for', 'device') })

declare module '../model' {
  interface Requests { parkCall: FieldsOf<typeof fields> }
  interface Events {
    parked: OfCall & { slot: DeviceId, for: DeviceId | null }
  }
}

/** Puts a caller into a slot, from where anybody takes the call; `for` makes that person's telephone say so. */
export const parkCall: Service<'parkCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  // Who waits in a slot already is answered by the service itself.
  may: ({ state, call, part }) => call.parked || ['rung', 'member', 'served'].includes(part) ? null : refuse('notYourCall', ownerSentence(state, call)),
  decide({ state, call, request: { device, slot, for: reserved } }) {
    const own = connectionOf(call, device)
    if (call.parked) return refuse('notPossibleNow', phrase('refusals.thatCallerIsInAlready', { name: nameOf(state, call.parked.slot) }))
    if (own && own.state !== 'alerting') {
      const caller = handable(call, own)
      if ('refusal' in caller) return caller
    }
    else if (own?.invitedBy) return refuse('notYourCall', ownerSentence(state, call))
    if (reserved !== null && !Object.hasOwn(state.company.telephones, reserved))
      return refuse('unallocatedNumber', phrase('refusals.thereIsNoExtensionReservedWithYou', { reserved, withYou }))
    if (reserved === call.calling) return refuse('toCaller', phrase('refusals.isTheCaller', { name: nameOf(state, reserved), withYou }))
    if (slot !== null && !Object.hasOwn(state.company.slots, slot)) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchPark', { withYou }))
    const free = slot ?? Object.keys(state.company.slots).find(id => !parkedIn(state, id))
    if (free === undefined) return refuse('slotsFull', phrase('refusals.everyParkSlotIsTaken', { withYou }))
    if (parkedIn(state, free)) return refuse('slotTaken', phrase('refusals.somebodyWaitsInAlready', { name: nameOf(state, free), withYou }))
    return accept({ type: 'parked', call: call.id, device, slot: free, for: reserved })
  },
}

const unknown = { number: null, name: null }

export const parked: EventKind<'parked'> = {
  change(call, event) {
    const rest = without(settled(call.connections), event.device)
    return {
      ...call, passing: null, hunting: null, recall: null, consulted: null, refusedBy: [], overflowed: [], calling: rest[0]!.device,
      parked: { slot: event.slot, by: event.device, for: event.for, at: event.at },
      connections: [...rest, { device: event.slot, state: 'queued', since: event.at }],
    }
  },
  step: ({ slot }) => ({ to: slot }),
  // The notes of parked callers who have gone.
  redactState: state => ({ ...state, outlived: state.outlived.map(note => ({ ...note, party: note.party && unknown })) }),
}
