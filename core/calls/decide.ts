import { readDialled } from '../numbers/dialled'
import { plainText } from './text'
import type { Call, CallEvent, CallId, Connection, Decision, Device, DeviceId, ExchangeState, Party, RefusalCode, Request, TrunkId } from './model'
import { connectionOf, callsOf, dueCalls, freeTrunk, hasFreeChannel, isBusy, lookUp, mayAnswerFromQueue, othersOf, talkingCallOf } from './questions'

const longestCaption = 300
const longestNumber = 40
const longestName = 80

function refuse(code: RefusalCode, sentence: string): Decision {
  return { refusal: { code, sentence } }
}

function accept(...events: CallEvent[]): Decision {
  return { events }
}

/**
 * What a request leads to: the events that make it so, or a refusal that changes nothing.
 * @param now milliseconds since 1970; never before `state.time`
 */
export function decide(state: ExchangeState, request: Request, now: number): Decision {
  switch (request.service) {
    case 'tick': return accept(...whatIsDue(state, now))
    case 'offerCall': return offerCall(state, request.trunk, request.party, request.number, now)
    case 'setDoNotDisturb':
    case 'setStatus':
    case 'makeCall': {
      const device = lookUp(state.devices, request.device)
      if (!device) return refuse('unknownDevice', `There is no extension ${request.device}.`)
      if (request.service === 'makeCall') return makeCall(state, device, request.number, now)
      if (request.service === 'setDoNotDisturb') return accept({ type: 'doNotDisturb', device: device.id, on: request.on })
      return accept({ type: 'statusChanged', device: device.id, reason: request.reason, until: request.reason === null ? null : request.until })
    }
  }
  const call = lookUp(state.calls, request.call)
  if (!call) return refuse('unknownCall', 'That call has ended: the caller is no longer on the line.')
  if (request.service === 'answerCall') return answerCall(state, call, request.device)
  const own = connectionOf(call, request.device)
  if (!own) return refuse('notYourCall', ownerSentence(state, call))
  switch (request.service) {
    case 'clearConnection': return clearConnection(state, call, own, now)
    case 'holdCall': return holdCall(call, own)
    case 'retrieveCall': return retrieveCall(state, call, own)
    case 'singleStepTransferCall': return singleStepTransferCall(state, call, own, request.to, now)
    case 'sendUserInformation':
      return accept({ type: 'callInformation', call: call.id, device: own.device, text: plainText(request.text, longestCaption) })
  }
}

function nameOf(state: ExchangeState, device: DeviceId): string {
  return state.devices[device]?.name ?? state.groups[device]?.name ?? 'the outside party'
}

function ownerSentence(state: ExchangeState, call: Call): string {
  const owner = call.connections.find(connection => connection.device !== call.calling && connection.state !== 'queued')
  return owner
    ? `That call is with ${nameOf(state, owner.device)} now. The caller is looked after; you need do nothing.`
    : 'You are not part of that call.'
}

/** Whoever begins to talk elsewhere puts the present call on hold: nothing is cut off by answering or calling. */
function holdingTheRest(state: ExchangeState, device: DeviceId): CallEvent[] {
  const talking = talkingCallOf(state, device)
  return talking ? [{ type: 'held', call: talking.id, device }] : []
}

/** What the network says about a caller is kept as plain text; nothing left of it counts as withheld. */
function cleanParty(party: Party): Party {
  return {
    number: (party.number && plainText(party.number, longestNumber)) || null,
    name: (party.name && plainText(party.name, longestName)) || null,
  }
}

function legOf(state: ExchangeState, trunk: TrunkId): DeviceId {
  return `${trunk}#${state.serial + 1}`
}

function callIdOf(state: ExchangeState): CallId {
  return `${state.epoch}-${state.serial + 1}`
}

/** Rings a device for a call, or says at once why it can't. */
function reach(state: ExchangeState, call: CallId, device: Device, now: number, after: number): CallEvent {
  const cause = cannotRing(state, device)
  if (cause) return { type: 'failed', call, device: device.id, cause, deadline: now + state.settings.failedTone }
  return { type: 'delivered', call, device: device.id, deadline: now + after }
}

function cannotRing(state: ExchangeState, device: Device): 'outOfService' | 'doNotDisturb' | 'busy' | null {
  if (!device.inService) return 'outOfService'
  if (device.doNotDisturb) return 'doNotDisturb'
  return isBusy(state, device) ? 'busy' : null
}

/** A call nobody took goes to the operators, never to nowhere. */
function toOperators(state: ExchangeState, call: CallId, from: DeviceId, cause: 'noAnswer' | 'declined' | 'busy' | 'doNotDisturb' | 'outOfService'): CallEvent[] {
  const operators = state.settings.operators
  return [{ type: 'diverted', call, device: from, to: operators, cause }, { type: 'queued', call, device: operators }]
}

function deviceWithDirectNumber(state: ExchangeState, e164: string): Device | undefined {
  const { directPrefix } = state.settings
  if (!e164.startsWith(directPrefix)) return undefined
  const tail = e164.slice(directPrefix.length)
  return Object.values(state.devices).find(device => device.id.length === tail.length + 1 && device.id.endsWith(tail))
}

function offerCall(state: ExchangeState, trunk: TrunkId, party: Party, number: string, now: number): Decision {
  if (!hasFreeChannel(state, trunk)) return refuse('trunksBusy', 'Every channel of that trunk is in use: the caller hears the network\'s busy tone.')
  const device = legOf(state, trunk)
  const call = callIdOf(state)
  const originated = { type: 'originated', call, device, direction: 'inbound', dialled: number, party: cleanParty(party), trunk } as const
  const line = Object.values(state.lines).find(candidate => candidate.number === number)
  if (line) return accept({ ...originated, line: line.id }, { type: 'queued', call, device: line.target })
  const target = deviceWithDirectNumber(state, number)
  if (!target) return refuse('unallocatedNumber', `${number} is not a number of ours.`)
  const cause = cannotRing(state, target)
  const delivery: CallEvent[] = cause ? toOperators(state, call, target.id, cause) : [reach(state, call, target, now, state.settings.noAnswer)]
  return accept({ ...originated, line: null }, ...delivery)
}

function makeCall(state: ExchangeState, device: Device, number: string, now: number): Decision {
  if (!device.inService) return refuse('outOfService', 'Your telephone is not connected: connect it and try again.')
  if (callsOf(state, device.id).length >= device.capacity) {
    return refuse('tooManyCalls', 'You have as many calls as your telephone can carry: pass one on or end one first.')
  }
  const dialled = readDialled(number)
  if (dialled.kind === 'invalid') return refuse('invalidNumber', dialled.why)
  const call = callIdOf(state)
  const begin = (direction: Call['direction']): CallEvent[] => [
    ...holdingTheRest(state, device.id),
    { type: 'originated', call, device: device.id, direction, dialled: plainText(number, longestNumber), line: null },
  ]
  if (dialled.kind === 'outside') {
    const trunk = freeTrunk(state)
    if (!trunk) return refuse('trunksBusy', 'Every line to the outside is in use. Try again in a moment.')
    const party = { number: dialled.e164, name: null }
    return accept(...begin('outbound'), { type: 'delivered', call, device: legOf(state, trunk), deadline: now + state.settings.noAnswer, party, trunk })
  }
  const group = Object.values(state.groups).find(candidate => candidate.number === dialled.digits)
  if (group) return accept(...begin('internal'), { type: 'queued', call, device: group.id })
  const target = state.devices[dialled.digits]
  if (!target) return refuse('unallocatedNumber', `There is no extension ${dialled.digits}.`)
  if (target.id === device.id) return refuse('toSelf', 'That is your own extension.')
  return accept(...begin('internal'), reach(state, call, target, now, state.settings.noAnswer))
}

function answerCall(state: ExchangeState, call: Call, device: DeviceId): Decision {
  const own = connectionOf(call, device)
  if (own && own.state !== 'alerting') return refuse('notPossibleNow', 'You are in that call already.')
  if (!own && !mayAnswerFromQueue(state, call, device)) return refuse('alreadyAnswered', ownerSentence(state, call))
  if (!lookUp(state.devices, device)?.inService && !own?.party) return refuse('outOfService', 'Your telephone is not connected: connect it and try again.')
  return accept(...holdingTheRest(state, device), { type: 'established', call: call.id, device })
}

function holdCall(call: Call, own: Connection): Decision {
  if (own.state !== 'connected') return refuse('notPossibleNow', 'Only a call you are talking on can be put on hold.')
  if (!othersOf(call, own.device).some(other => other.state === 'connected' || other.state === 'held')) {
    return refuse('notPossibleNow', 'Nobody has answered yet: there is nobody to put on hold.')
  }
  return accept({ type: 'held', call: call.id, device: own.device })
}

function retrieveCall(state: ExchangeState, call: Call, own: Connection): Decision {
  if (own.state !== 'held') return refuse('notPossibleNow', 'That call is not on hold with you.')
  return accept(...holdingTheRest(state, own.device), { type: 'retrieved', call: call.id, device: own.device })
}

function clearConnection(state: ExchangeState, call: Call, own: Connection, now: number): Decision {
  if (own.state === 'alerting') return accept(...unanswered(state, call, own, 'declined', now))
  const others = othersOf(call, own.device)
  // An outside party hangs up whenever they like; one of ours must not cut off somebody who hears music.
  if (own.state === 'held' && !own.party && others.some(other => other.state === 'connected')) {
    return refuse('callerOnHold', 'That caller is on hold. Take the call back before you end it.')
  }
  const answered = others.some(other => other.state === 'connected' || other.state === 'held')
  return accept(
    { type: 'connectionCleared', call: call.id, device: own.device, cause: answered ? 'normalClearing' : 'abandoned' },
    { type: 'callCleared', call: call.id, device: own.device, cause: answered ? 'normalClearing' : 'abandoned' },
  )
}

function singleStepTransferCall(state: ExchangeState, call: Call, own: Connection, to: string, now: number): Decision {
  const others = othersOf(call, own.device)
  if ((own.state !== 'connected' && own.state !== 'held') || others.length !== 1 || others[0]!.state !== 'connected') {
    return refuse('notPossibleNow', 'Only a caller you are connected with can be passed on.')
  }
  const target = lookUp(state.devices, to)
  if (!target) return refuse('unallocatedNumber', `There is no extension ${to}. Your caller is still with you.`)
  if (target.id === own.device) return refuse('toSelf', 'That is your own extension. Your caller is still with you.')
  if (target.id === others[0]!.device) return refuse('toCaller', `${target.name} is the caller. The call is still with you.`)
  const cause = cannotRing(state, target)
  if (cause) return refuse(cause, `${target.name} ${cannotRingWords[cause]}. Your caller is still with you.`)
  return accept(
    { type: 'transferred', call: call.id, device: own.device, to: target.id },
    { type: 'delivered', call: call.id, device: target.id, deadline: now + state.settings.transferRecall },
  )
}

const cannotRingWords = {
  outOfService: 'has no telephone connected',
  doNotDisturb: 'has do not disturb on',
  busy: 'is on the telephone',
} as const

/** What becomes of a call whose ringing ended without an answer. */
function unanswered(state: ExchangeState, call: Call, ringing: Connection, cause: 'noAnswer' | 'declined', now: number): CallEvent[] {
  if (call.passing || call.direction === 'inbound') return toOperators(state, call.id, ringing.device, cause)
  return [{ type: 'failed', call: call.id, device: ringing.device, cause, deadline: now + state.settings.failedTone }]
}

function whatIsDue(state: ExchangeState, now: number): CallEvent[] {
  const ended = Object.values(state.devices).filter(device => device.status.until !== null && device.status.until <= now)
  const back: CallEvent[] = ended.map(device => ({ type: 'statusChanged', device: device.id, reason: null, until: null }))
  return back.concat(dueCalls(state, now).flatMap(id => callDue(state, state.calls[id]!, now)))
}

function callDue(state: ExchangeState, call: Call, now: number): CallEvent[] {
  const ringing = call.connections.find(connection => connection.state === 'alerting')
  if (ringing) return unanswered(state, call, ringing, 'noAnswer', now)
  const failed = call.story.findLast(step => step.type === 'failed')
  return [{ type: 'callCleared', call: call.id, device: call.calling, cause: failed?.cause ?? 'normalClearing' }]
}
