import { accept, refuse } from '../answers'
import { destination, type FieldsOf, ofCall } from '../fields'
import { isConversation } from '../questions'
import type { Service } from '../service'
import { onward } from '../targets'

const fields = () => ofCall().shape({ to: destination('to') })

declare module '../model' {
  interface Requests { singleStepConferenceCall: FieldsOf<typeof fields> }
}

/** Rings somebody to join without talking to them first. */
export const singleStepConferenceCall: Service<'singleStepConferenceCall'> = {
  fields,
  askedBy: ['console'],
  decide({ state, call, own, request: { to } }) {
    if (own.state !== 'connected' || !isConversation(call)) return refuse('notPossibleNow', 'People can be asked to join while you are talking with somebody.')
    if (call.connections.some(({ device, party }) => !state.devices.has(device) && !party))
      return refuse('notPossibleNow', 'Nobody can be asked to join a voicemail.')
    if (call.connections.length >= state.company.settings.conferenceSize)
      return refuse('conferenceFull', `A conference holds ${state.company.settings.conferenceSize} at most.`)
    const next = onward(state, call, own.device, to, 'The others are still with you.', undefined)
    if ('refusal' in next) return next
    const [rings] = next.events
    if (next.events.length !== 1 || rings?.type !== 'delivered') return refuse('notPossibleNow', 'Only a person or an outside number can be asked to join.')
    return accept({ ...rings, invitedBy: own.device })
  },
}
