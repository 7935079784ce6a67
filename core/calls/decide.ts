import { consultationCall, makeCall, offerCall } from './beginning'
import { accept, ownerSentence, refuse } from './answers'
import { clearCall, conferenceCall, dropParty, setMicrophoneMute, singleStepConferenceCall } from './conference'
import { evolveAll, numbered } from './evolve'
import type { Call, CallEvent, Decision, Device, DeviceId, ExchangeState, Request } from './model'
import { mailboxOf } from './names'
import { comeBack, deflectCall, parkCall, singleStepTransferCall, transferCall, unanswered } from './passing'
import { connectionOf, dueCalls, isOrphaned, leavesMessage, lookUp } from './questions'
import { answerCall, clearConnection, directedPickupCall, generateDigits, groupPickupCall, holdCall, reconnectCall, retrieveCall } from './taking'
import { plainText } from './text'
import { blockNumber, dismissNote, operatorsGone, placesDue, setAgentState, setDoNotDisturb, setLineServed, unblockNumber } from './workplace'

const longestCaption = 300

/**
 * What a request leads to: the events that make it so, or a refusal that changes nothing.
 * @param now milliseconds since 1970; never before `state.time`
 */
export function decide(state: ExchangeState, request: Request, now: number): Decision {
  if (request.service === 'tick') return accept(...whatIsDue(state, now))
  const decision = answerTo(state, request, now)
  if ('refusal' in decision) return decision
  const after = evolveAll(state, numbered(state, decision.events, now))
  return accept(...decision.events, ...orphansToNight(after, now))
}

function answerTo(state: ExchangeState, request: Exclude<Request, { service: 'tick' }>, now: number): Decision {
  if (request.service === 'offerCall') return offerCall(state, request.trunk, request.party, request.number, now)
  if (!('call' in request)) return atPlace(state, request, now)
  const call = lookUp(state.calls, request.call)
  return call ? withCall(state, call, request, now) : refuse('unknownCall', 'That call has ended: the caller is no longer on the line.')
}

type AtPlace = Exclude<Request, { service: 'tick' | 'offerCall' } | { call: string }>

/** Requests about a telephone or the place of somebody, not about a call. */
function atPlace(state: ExchangeState, request: AtPlace, now: number): Decision {
  const device: Device | undefined = lookUp(state.devices, request.device)
  if (!device) return refuse('unknownDevice', `There is no extension ${request.device}.`)
  switch (request.service) {
    case 'makeCall': return makeCall(state, device, request, now)
    case 'groupPickupCall': return groupPickupCall(state, device.id, request.group)
    case 'setDoNotDisturb': return setDoNotDisturb(state, device, request)
    case 'setStatus': return accept({ type: 'statusChanged', device: device.id, reason: request.reason, until: request.reason === null ? null : request.until })
    case 'setAgentState': return setAgentState(state, device, request.attended, now)
    case 'setLineServed': return setLineServed(state, device, request)
    case 'setHandset': return device.handset === request.on ? accept() : accept({ type: 'handsetChanged', device: device.id, on: request.on })
    case 'blockNumber': return blockNumber(state, device, request)
    case 'unblockNumber': return unblockNumber(state, device, request.number)
    case 'dismissNote': return dismissNote(state, device, request.note)
  }
}

type WithCall = Extract<Request, { call: string }>

/** What parties outside can do; everything else is for telephones of ours. */
const outsideServices: Request['service'][] = ['answerCall', 'clearConnection', 'generateDigits', 'sendUserInformation']

/** Requests about one call. */
function withCall(state: ExchangeState, call: Call, request: WithCall, now: number): Decision {
  const outside = connectionOf(call, request.device)?.party !== undefined
  if (!outside && !lookUp(state.devices, request.device)) return refuse('unknownDevice', `There is no extension ${request.device}.`)
  if (outside && !outsideServices.includes(request.service)) return refuse('notAllowed', 'That is for telephones of the company.')
  switch (request.service) {
    case 'answerCall': return answerCall(state, call, request.device)
    case 'directedPickupCall': return directedPickupCall(state, call, request.device)
    case 'clearConnection': return clearConnection(state, call, request.device, now)
    case 'deflectCall': return deflectCall(state, call, request, now)
    case 'parkCall': return parkCall(state, call, request, now)
  }
  const own = connectionOf(call, request.device)
  if (!own) return refuse('notYourCall', ownerSentence(state, call))
  switch (request.service) {
    case 'consultationCall': return consultationCall(state, call, own, request.number, now)
    case 'clearCall': return clearCall(call, own)
    case 'dropParty': return dropParty(call, own, request.party)
    case 'holdCall': return holdCall(call, own)
    case 'retrieveCall': return retrieveCall(state, call, own)
    case 'reconnectCall': return reconnectCall(state, call, own)
    case 'transferCall': return transferCall(state, call, own, lookUp(state.calls, request.consultation), now)
    case 'singleStepTransferCall': return singleStepTransferCall(state, call, own, request, now)
    case 'conferenceCall': return conferenceCall(state, call, own, lookUp(state.calls, request.other))
    case 'singleStepConferenceCall': return singleStepConferenceCall(state, call, own, request.to, now)
    case 'generateDigits': return generateDigits(call, own, request.digits)
    case 'setMicrophoneMute': return setMicrophoneMute(state, call, own, request.party, request.on)
    case 'sendUserInformation':
      return accept({ type: 'callInformation', call: call.id, device: own.device, text: plainText(request.text, longestCaption) })
  }
}

/** Time moves on in steps: what falls due later at the same tick sees what came of the earlier. */
function whatIsDue(state: ExchangeState, now: number): CallEvent[] {
  const happened: CallEvent[] = []
  let current = state
  const happen = (events: CallEvent[]) => {
    current = evolveAll(current, numbered(current, events, now))
    happened.push(...events)
  }
  happen(placesDue(current, now))
  happen(operatorsGone(current, now))
  for (const id of dueCalls(current, now)) {
    const call = current.calls[id]
    if (call) happen(callDue(current, call, now))
  }
  happen(orphansToNight(current, now))
  return happened
}

function callDue(state: ExchangeState, call: Call, now: number): CallEvent[] {
  const ringing = call.connections.filter(connection => connection.state === 'alerting')
  if (ringing.length > 0) {
    const invited = ringing.filter(connection => connection.invited)
    return invited.length > 0 ? invited.flatMap(connection => unanswered(state, call, connection, 'noAnswer', now)) : unanswered(state, call, ringing[0]!, 'noAnswer', now)
  }
  if (call.parked) return comeBack(state, call, call.parked.slot, 'unfetched', now)
  const queue = call.connections.find(connection => connection.state === 'queued')
  if (queue) return comeBack(state, call, queue.device, 'noAnswer', now)
  const failed = call.story.findLast(step => step.type === 'failed')
  return [{ type: 'callCleared', call: call.id, device: call.calling, cause: leavesMessage(call) ? 'normalClearing' : failed?.cause ?? 'normalClearing' }]
}

/** A call that waits where nobody serves goes on: from another queue to the operators, from the operators to the line's night destination. */
function orphansToNight(state: ExchangeState, now: number): CallEvent[] {
  const { operators, longestMessage } = state.settings
  return Object.values(state.calls).filter(call => isOrphaned(state, call)).flatMap((call): CallEvent[] => {
    const queue = call.connections.find(connection => connection.state === 'queued')!.device
    const night = nightOf(state, call)
    const toNight: CallEvent[] = [
      { type: 'diverted', call: call.id, device: queue, to: night, cause: 'nobodyServes' },
      { type: 'established', call: call.id, device: night, deadline: now + longestMessage },
    ]
    const operatorsServe = queue !== operators && !isOrphaned(state, { ...call, refusedBy: [], connections: [{ device: operators, state: 'queued', since: now }] })
    return operatorsServe
      ? [{ type: 'diverted', call: call.id, device: queue, to: operators, cause: 'nobodyServes' }, { type: 'queued', call: call.id, device: operators }]
      : toNight
  })
}

/** The mailbox that stands in at night: the line's, or that of whoever was called. */
function nightOf(state: ExchangeState, call: Call): DeviceId {
  const line = call.line ? state.lines[call.line] : undefined
  if (line) return line.night
  const rang = call.story.find(step => state.devices[step.device] && step.device !== call.calling)
  return rang ? mailboxOf(rang.device) : Object.values(state.lines)[0]!.night
}
