import type { Call, DeviceId } from '../calls/model'
import { callingNumber, cannotRing, cannotRingWords } from '../calls/answers'
import { forwardAtOnce } from '../calls/forwarding/forwarding'
import { mayListen } from '../calls/listening/listenings'
import { mailboxOf } from '../calls/names'
import { callsOf, connectionOf, isConversation, parkedIn, partnerOf, queueOf, talkingCallOf } from '../calls/questions'
import { tellConsulted, tellRecall } from '../calls/story'
import type { Distribution, Group, Zone } from '../company/company'
import { isMemberOf, lookUp } from '../company/lookups'
import { formatNumber } from '../numbers/dialled'
import { spelled } from '../numbers/spelling'
import { ask, type Console, type Deed, otherName } from './console'

/** One way a call can go from here. `words` continue "Enter …": what it does, said before it is done. */
export interface Way {
  id: 'passOn' | 'ask' | 'keepFor' | 'voicemail' | 'mobile' | 'join' | 'call' | 'everybody' | 'message' | 'pickUp' | 'move' | 'disturb' | 'forward'
    | 'page' | 'intercom' | 'listen'
  label: string
  words: string
  key: string
  deed: Deed
}

/** The keys of the ways, as they stand on their buttons. */
const wayKeys: Record<Way['id'], string> = {
  passOn: 'Enter', call: 'Enter', ask: 'Shift+Enter', everybody: 'Shift+Enter', keepFor: 'Ctrl+Enter', voicemail: 'F2', message: 'F4', join: 'F8', mobile: 'F9',
  pickUp: 'Shift+F2', move: 'Shift+F4', disturb: 'Shift+F8', forward: 'Ctrl+Shift+F8', page: 'Ctrl+F8', intercom: 'Ctrl+F9', listen: 'Ctrl+F2',
}

const way = (id: Way['id'], label: string, words: string, deed: Deed): Way => ({ id, label, words, key: wayKeys[id], deed })

/** Every way from here to a person, a group, a queue or a zone of loudspeakers, the likeliest first. */
export function waysTo(console: Console, id: DeviceId): Way[] {
  const group = lookUp(console.state.company.groups, id)
  if (group) return toGroup(console, group)
  const zone = lookUp(console.state.company.zones, id)
  return zone ? toZone(console, zone) : toPerson(console, id)
}

/** Passes a call on: one in hand by transfer, one that nobody here has answered by sending it on. */
export function passing({ state, device, note }: Pick<Console, 'state' | 'device' | 'note'>, call: Call, to: string, distribution?: Distribution): Deed {
  const own = connectionOf(call, device)
  const service = own && own.state !== 'alerting' ? 'singleStepTransferCall' as const : 'deflectCall' as const
  const from = own ? undefined : elsewhere(state, call, device)
  return ask({ service, call: call.id, to, ...(from && { from }), ...(note && { note }), ...(distribution && { distribution }) })
}

/** The colleague's telephone where a call rings or talks, or the queue of others in which it waits; a slot is everybody's. */
function elsewhere(state: Console['state'], call: Call, device: DeviceId): DeviceId | undefined {
  if (call.parked) return undefined
  const queue = queueOf(call)
  if (queue) return isMemberOf(state.company, device, queue.device) ? undefined : queue.device
  return call.connections.find(({ device }) => device !== call.calling && state.devices.has(device))?.device
}

function answered({ device }: Console, call: Call): boolean {
  const own = connectionOf(call, device)
  return own?.state === 'connected' || own?.state === 'held'
}

/** Ours, or waiting for all of us: not what is parked already or talks at somebody else's. */
function parkable({ device }: Console, call: Call): boolean {
  return !call.parked && Boolean(connectionOf(call, device) || call.connections.some(({ state }) => state === 'queued'))
}

/** The number that somebody carries with them. */
function mobileOf({ state: { company } }: Console, id: DeviceId): string | null {
  const person = lookUp(company.telephones, id)?.person ?? id
  return lookUp(company.people, person)?.mobile ?? null
}

function toPerson(console: Console, id: DeviceId): Way[] {
  const { state, device, t, track: { baton, talking, askedFor, carried } } = console
  if (id === device) return []
  const name = console.nameOf(id)
  const mobile = mobileOf(console, id)
  if (!lookUp(state.company.telephones, id)) return mobile ? waysToNumber(console, mobile, `${name}, ${formatNumber(mobile, state.company.settings)}`) : []
  const ways: Way[] = []
  if (baton) {
    const caller = otherName(t, baton, device, console.nameOf)
    const { why, tail } = reaching(console, baton, id)
    const tried = triedBefore(console, baton, id)
    const passes = why
      ? t('ways.cantPassOn', { caller, name, why })
      : t('ways.passesOnTo', { caller, name, tail, more: tried ? t('ways.againTried', { tried }) : '' })
    ways.push(way('passOn', t('ways.passOn'), passes, passing(console, baton, id)))
    if (answered(console, baton) && !askedFor)
      ways.push(way('ask', t('ways.askFirst'), why
        ? t('ways.cantAskWho', { name, why })
        : t('ways.asksWhileWaits', { name, tail, caller }), ask({ service: 'consultationCall', call: baton.id, number: id })))
    if (parkable(console, baton))
      ways.push(way('keepFor', t('ways.keepInASlot'), t('ways.keepsInASlotFor', {
        caller, name,
      }), ask({ service: 'parkCall', call: baton.id, slot: null, for: id })))
    ways.push(way('voicemail', t('ways.voicemail'), t('ways.sendsToTheVoicemailOf', { caller, name }), passing(console, baton, mailboxOf(id))))
    if (mobile) ways.push(way('mobile', t('common.mobile'), t('ways.passesOnToInline', {
      caller, number: formatNumber(mobile, state.company.settings),
    }), passing(console, baton, mobile)))
  }
  else {
    ways.push(way('call', t('ways.call'), t('ways.calls', { whom: name }), ask({ service: 'makeCall', number: id })))
    if (mobile) ways.push(way('mobile', t('common.mobile'), t('ways.calls', {
      whom: formatNumber(mobile, state.company.settings),
    }), ask({ service: 'makeCall', number: mobile })))
  }
  if (talking && isConversation(talking) && !carried)
    ways.push(way('join', t('ways.askToJoin'), t('ways.ringsToJoinYou', { name }), ask({ service: 'singleStepConferenceCall', call: talking.id, to: id })))
  ways.push(...atTheirTelephone(console, id, name))
  if (!baton && state.agents.has(device)) {
    ways.push(onTheirBehalf(console, id, name), way('forward', t('ways.forward'), t('ways.saysWhereCallsOfGo', { name }), { do: 'forward', of: id }))
  }
  ways.push(...listening(console, id), ...atOnce(console, id, t('ways.atOnce', { name })))
  if (!baton && state.agents.has(device)) {
    const words = t('ways.callsWhoseTelephoneAnswersBy', { name })
    ways.push(way('intercom', t('ways.intercom'), words, ask({ service: 'intercomCall', number: id })))
  }
  return [...ways, messageFor(console, id, name)]
}

/** Why a telephone can't be rung for a call at present; else where its calls go instead, to be said behind the name. */
function reaching({ state, nameOf, t }: Console, call: Call, id: DeviceId): { why: string | null, tail: string } {
  const telephone = lookUp(state.company.telephones, id)!
  const cause = cannotRing(state, telephone, callingNumber(state, call))
  const forward = forwardAtOnce(state, id, cause, call)
  const to = forward && (spelled(forward.to) ? formatNumber(forward.to, state.company.settings) : nameOf(forward.to))
  if (to) return { why: null, tail: t('ways.whoseCallsGoTo', { to }) }
  return { why: cause && t(cannotRingWords[cause]), tail: '' }
}

/** How it ended when this caller was with, or asked for, somebody the last time; null when they were not. */
export function triedBefore({ state, nameOf, t }: Pick<Console, 'state' | 'nameOf' | 't'>, { recall, consulted }: Call, id: DeviceId): string | null {
  const { ringCycle } = state.company.settings
  if (consulted?.device === id) return tellConsulted(t, consulted, nameOf, ringCycle)
  return recall?.from === id ? tellRecall(t, recall, nameOf, ringCycle) : null
}

/** What can be done with a call that rings or talks at a colleague's telephone. */
function atTheirTelephone({ state, device, t }: Console, id: DeviceId, name: string): Way[] {
  const theirs = callsOf(state, id).filter(call => !connectionOf(call, device))
  const rings = theirs.find(call => connectionOf(call, id)?.state === 'alerting')
  const moves = rings ?? theirs.find(call => partnerOf(call, id) && call.calling !== id)
  return [
    ...(rings ? [way('pickUp', t('ways.pickUp'), t('ways.picksUpWhatRingsAt', { name }), ask({ service: 'directedPickupCall', call: rings.id }))] : []),
    ...(moves ? [way('move', t('ways.carryTheirCall'), t('ways.carriesTheCallOfElsewhere', { name }), { do: 'carry', call: moves.id })] : []),
  ]
}

/** Hearing what a colleague says and hears, for whoever has the right; the call in hand waits meanwhile. */
export function listening({ state, device, nameOf, t, track: { talking } }: Console, to: DeviceId): Way[] {
  const call = talkingCallOf(state, to)
  if (!mayListen(state, device) || !call || !isConversation(call) || connectionOf(call, device) || state.listenings.get(device)?.call === call.id) return []
  const waits = talking ? t('ways.waitsOnHold', { name: otherName(t, talking, device, nameOf) }) : ''
  return [way('listen', t('ways.listenIn'), t('ways.listensTo', { name: nameOf(to), waits }), ask({ service: 'listenIn', call: call.id, to }))]
}

/** Speaking to a telephone, a group's telephones or loudspeakers without calling them; the call in hand waits meanwhile. */
function atOnce({ state, device, nameOf, t, track: { talking } }: Console, to: DeviceId, whom: string): Way[] {
  if (!state.agents.has(device) || lookUp(state.company.telephones, device)?.mayPage === 'no') return []
  const waits = talking ? t('ways.waitsOnHold', { name: otherName(t, talking, device, nameOf) }) : ''
  return [way('page', t('ways.speakAtOnce'), t('ways.speaksTo', { whom, waits }), ask({ service: 'openPage', to, rank: 'ordinary' }))]
}

function toZone(console: Console, { id, name }: Zone): Way[] {
  return atOnce(console, id, name).map(only => ({ ...only, key: 'Enter' }))
}

/** A message is taken down for a person or a group, about the call in hand. */
function messageFor({ t, track: { baton, talking } }: Console, to: DeviceId, name: string): Way {
  return way('message', t('ways.message'), t('ways.takesAMessageFor', { name }), { do: 'takeMessage', to, call: (baton ?? talking)?.id ?? null })
}

/** Do not disturb for a colleague, until a time that is said then; or no longer. */
function onTheirBehalf({ state, t }: Console, id: DeviceId, name: string): Way {
  return state.devices.get(id)?.doNotDisturb
    ? way('disturb', t('ways.disturbAgain'), t('ways.endsDoNotDisturbFor', { name }), ask({ service: 'setDoNotDisturb', of: id, on: false, until: null }))
    : way('disturb', t('ways.doNotDisturb'), t('ways.saysUntilWhenIsNot', { name }), { do: 'quiet', of: id })
}

function toGroup(console: Console, { id, name, number, members, distribution }: Group): Way[] {
  const { state, device, t, track: { baton } } = console
  const ringing = members.some(member => callsOf(state, member).some(call => connectionOf(call, member)?.state === 'alerting'))
  const pickUp = ringing ? [way('pickUp', t('ways.pickUp'), t('ways.picksUpWhatHasRung', { name }), ask({ service: 'groupPickupCall', group: id }))] : []
  const speak = atOnce(console, id, t('ways.everybodyInWhoDoesNot', { name }))
  const message = messageFor(console, id, name)
  if (!baton) return [way('call', t('ways.call'), t('ways.calls', { whom: name }), ask({ service: 'makeCall', number })), ...pickUp, ...speak, message]
  const caller = otherName(t, baton, device, console.nameOf)
  const others = [
    way('voicemail', t('ways.voicemail'), t('ways.sendsToTheVoicemailOf', { caller, name }), passing(console, baton, mailboxOf(id))), ...speak, message,
  ]
  if (distribution === 'queue') return [way('passOn', t('ways.passOn'), t('ways.letsWaitInThe', { caller, name }), passing(console, baton, id)), ...others]
  return [
    way('passOn', t('ways.longestFree'), t('ways.passesOnToWhoeverIn', { caller, name }), passing(console, baton, id, 'longestFree')),
    way('everybody', t('ways.allAtOnce'), t('ways.ringsEverybodyFreeInFor', { name, caller }), passing(console, baton, id, 'all')),
    ...others,
  ]
}

/**
 * Every way to a number outside, or to a short number that was typed.
 * @param shown how it is said
 */
export function waysToNumber(console: Console, number: string, shown: string): Way[] {
  const { device, account, t, track: { baton, askedFor } } = console
  if (!baton) return [way('call', t('ways.call'), t('ways.calls', { whom: shown }), ask({ service: 'makeCall', number, ...(account && { account }) }))]
  const caller = otherName(t, baton, device, console.nameOf)
  const ways = [way('passOn', t('ways.passOn'), t('ways.passesCallerOnToShown', { caller, shown }), passing(console, baton, number))]
  if (answered(console, baton) && !askedFor)
    ways.push(way('ask', t('ways.askFirst'), t('ways.callsWhileWaits', { shown, caller }), ask({ service: 'consultationCall', call: baton.id, number })))
  return ways
}

/** What dropping the call that is carried on a person, a group, a slot or a number (E.164) does; null when nothing would happen there. */
export function dropping(console: Console, target: DeviceId, askFirst: boolean): Pick<Way, 'words' | 'deed'> | null {
  const { state, device, nameOf, t, track: { carried } } = console
  if (!carried) return null
  if (lookUp(state.company.slots, target)) {
    return parkedIn(state, target)
      ? null
      : {
          words: t('ways.parksIn', { name: otherName(t, carried, device, nameOf), name2: nameOf(target) }),
          deed: ask({ service: 'parkCall', call: carried.id, slot: target, for: null }),
        }
  }
  const ways = target.startsWith('+') ? waysToNumber(console, target, formatNumber(target, state.company.settings)) : waysTo(console, target)
  return ways.find(({ id }) => askFirst && (id === 'ask' || id === 'everybody')) ?? ways.find(({ id }) => id === 'passOn') ?? null
}

/** Takes who waits in a slot; null when nobody does. */
export function takingFrom({ state }: Pick<Console, 'state'>, slot: DeviceId): Deed | null {
  const waiting = parkedIn(state, slot)
  return waiting ? ask({ service: 'directedPickupCall', call: waiting.id }) : null
}

/** Puts the call in hand into a slot (null: the first free one); null when there is none in hand, or the slot is taken. */
export function parkingIn({ state, track: { baton } }: Pick<Console, 'state' | 'track'>, slot: DeviceId | null): Deed | null {
  return baton && !(slot !== null && parkedIn(state, slot)) ? ask({ service: 'parkCall', call: baton.id, slot, for: null }) : null
}
