import { phrase } from '../../../words/phrase'
import { accept, holdingTheRest, ownerSentence, refuse } from '../answers'
import { type FieldsOf, ofCall as fields } from '../fields'
import type { Call, Decision, DeviceId, ExchangeState } from '../model'
import { isPrompt, named } from '../call-backs/call-backs'
import { connectionOf, isConnected } from '../questions'
import { reach, targetOf } from '../targets'
import type { Service } from '../service'

declare module '../model' {
  interface Requests { answerCall: FieldsOf<typeof fields> }
}

export const answerCall: Service<'answerCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  outside: true,
  may: ({ state, call, part }) => ['none', 'watching', 'kept', 'near'].includes(part) ? refuse('alreadyAnswered', ownerSentence(state, call)) : null,
  decide: ({ state, call, request }) => answered(state, call, request.device),
}

/** Somebody for whom a call rings or waits answers it. */
export function answered(state: ExchangeState, call: Call, device: DeviceId): Decision {
  const own = connectionOf(call, device)
  if (own && own.state !== 'alerting') return refuse('notPossibleNow', phrase('refusals.youAreInThatCall'))
  if (!isConnected(state, device) && !own?.party)
    return refuse('outOfService', phrase('refusals.yourTelephoneIsNotConnected'))
  if (isPrompt(call)) return callingBack(state, call, device)
  return accept(...holdingTheRest(state, device), { type: 'established', call: call.id, device })
}

/** Whoever was rung to call somebody back is there: now the caller is rung. */
function callingBack(state: ExchangeState, call: Call, device: DeviceId): Decision {
  const target = targetOf(state, call.dialled)
  if ('refusal' in target) return refuse(target.refusal.code, phrase('refusals.theCallBackStaysPromised', { why: target.refusal.why }))
  const reached = reach(state, target, { call: call.id, except: [device] })
  if ('refusal' in reached) return refuse(reached.refusal.code, phrase('refusals.theCallBackStaysPromised', { why: reached.refusal.why }))
  return accept(...holdingTheRest(state, device), { type: 'promptAnswered', call: call.id, device }, ...named(reached.events, call.party))
}
