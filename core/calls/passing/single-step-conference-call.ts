import { phrase, type Phrase } from '../../../words/phrase'
import { accept, nameOf, refuse } from '../answers'
import { destination, type FieldsOf, ofCall } from '../fields'
import type { CallEvent, ExchangeState } from '../model'
import { isConversation } from '../questions'
import type { Service } from '../service'
import { onward, type Target } from '../targets'

const fields = () => ofCall().shape({ to: destination('to') })

declare module '../model' {
  interface Requests { singleStepConferenceCall: FieldsOf<typeof fields> }
}

/** Rings somebody to join without talking to them first. */
export const singleStepConferenceCall: Service<'singleStepConferenceCall'> = {
  fields,
  askedBy: ['console'],
  decide({ state, call, own, request: { to } }) {
    if (own.state !== 'connected' || !isConversation(call)) return refuse('notPossibleNow', phrase('refusals.peopleCanBeAskedTo'))
    if (call.connections.some(({ device, party }) => !state.devices.has(device) && !party))
      return refuse('notPossibleNow', phrase('refusals.nobodyCanBeAskedTo'))
    const next = onward(state, call, own.device, to, phrase('refusals.theOthersAreStillWith'), undefined)
    if ('refusal' in next) return next
    // A telephone may send the invitation on, have its owner's mobile ring along, and an emergency call may free a channel for itself.
    const others = next.events.filter(({ type }) => type !== 'forwarded' && type !== 'callCleared')
    const several = others.filter(event => event.type === 'delivered' && !event.along).length > 1
    if (several || others.some(({ type }) => type !== 'delivered')) return refuse('notPossibleNow', onePerson(state, next))
    if (call.connections.length + others.length > state.company.settings.conferenceSize)
      return refuse('conferenceFull', phrase('refusals.aConferenceHoldsAtMostSentence', { conferenceSize: state.company.settings.conferenceSize }))
    return accept(...next.events.map(event => event.type === 'delivered' ? { ...event, invitedBy: own.device } : event))
  },
}

/** Where several would ring, somebody would wait, or a voicemail would answer, nobody is asked to join. */
function onePerson(state: ExchangeState, { target, events }: { target: Target, events: CallEvent[] }): Phrase {
  const sent = events.findLast(event => event.type === 'forwarded')
  return sent
    ? phrase('refusals.hasCallsSentOnTo', { name: nameOf(state, target.id), name2: nameOf(state, sent.to) })
    : phrase('refusals.onlyOnePersonOrAn')
}
