import type { Telephone } from '../company/company'
import { lineWithNumber, lookUp, telephoneWithDirectNumber } from '../company/lookups'
import { readCaller } from '../numbers/dialled'
import { accept, cannotRing, holdingTheRest, refuse } from './answers'
import type { Call, CallEvent, CallId, Connection, Decision, ExchangeState, Party, Request, TrunkId } from './model'
import { callsOf, channelsFree, isAskedFor, membersOf } from './questions'
import { fromSlot, legOf, reach, type Target, targetOf } from './targets'
import { toOperators } from './passing'
import { plainText } from './text'

const longestNumber = 40
const longestName = 80
const longestAccount = 24
/** A telephone that is busy for others can still begin a call or two beside the one it has. */
const besides = 2

/** How a call begins: from outside, from a telephone of ours, or to ask somebody while a caller waits. */

/** What the network says about a caller is kept as plain text, the number in E.164 however it is spelled; nothing left of it counts as withheld. */
function cleanParty(party: Party): Party {
  return {
    number: (party.number && readCaller(plainText(party.number, longestNumber))) || null,
    name: (party.name && plainText(party.name, longestName)) || null,
  }
}

function callIdOf(state: ExchangeState): CallId {
  return `${state.epoch}-${state.serial + 1}`
}

export function offerCall(state: ExchangeState, trunk: TrunkId, offered: Party, dialled: string): Decision {
  if (channelsFree(state, trunk) === 0) return refuse('trunksBusy', 'Every channel of that trunk is in use: the caller hears the network\'s busy tone.')
  const device = legOf(state, trunk)
  const call = callIdOf(state)
  const party = cleanParty(offered)
  const number = readCaller(dialled)
  const line = lineWithNumber(state.company, number)
  const target = line ? undefined : telephoneWithDirectNumber(state.company, number)
  if (!line && !target) return refuse('unallocatedNumber', `${number} is not a number of ours.`)
  const originated: CallEvent = { type: 'originated', call, device, direction: 'inbound', dialled: number, party, trunk, line: line?.id ?? null }
  if (party.number && state.blocked.has(party.number)) {
    return accept(
      originated,
      { type: 'callInformation', call, device: line?.target ?? target!.id, text: 'We do not take calls from this number. Goodbye.' },
      { type: 'callCleared', call, device: line?.target ?? target!.id, cause: 'blocked' },
    )
  }
  if (line) return accept(originated, { type: 'queued', call, device: line.target })
  const cause = cannotRing(state, target!)
  return cause
    ? accept(originated, ...toOperators(state, call, target!.id, cause))
    : accept(originated, { type: 'delivered', call, device: target!.id })
}

export function makeCall(state: ExchangeState, device: Telephone, { number, account }: Extract<Request, { service: 'makeCall' }>): Decision {
  return begin(state, device, number, { except: [device.id], ...(account && { account: plainText(account, longestAccount) }) })
}

/** Asks somebody while the caller of `primary` waits on hold. */
export function consultationCall(state: ExchangeState, primary: Call, own: Connection, number: string): Decision {
  const device = lookUp(state.company.telephones, own.device)
  if (!device || (own.state !== 'connected' && own.state !== 'held')) return refuse('notPossibleNow', 'Answer the call before you ask somebody about it.')
  if (membersOf(primary).length < 2) return refuse('notPossibleNow', 'Nobody has answered yet: there is nobody to ask for.')
  if (isAskedFor(state, primary)) return refuse('notPossibleNow', 'You are asking somebody for this caller already. End that first.')
  const target = targetOf(state, number)
  if (!('refusal' in target) && primary.connections.some(({ device: id, party }) => id === target.id || (target.kind === 'outside' && party?.number === target.number))) {
    return refuse('toCaller', 'They are in this call already. Your caller is still with you.')
  }
  const decision = begin(state, device, number, { consultation: primary.id, except: primary.connections.map(connection => connection.device) })
  return 'refusal' in decision ? refuse(decision.refusal.code, `${decision.refusal.sentence} Your caller is still with you.`) : decision
}

/** The number inside that reaches a destination, however it was named. */
function digitsOf(target: Target): string | null {
  return target.kind === 'device' ? target.telephone.number : target.kind === 'group' ? target.group.number : null
}

interface Beginning { except: string[], consultation?: CallId, account?: string }

function begin(state: ExchangeState, device: Telephone, number: string, { except, ...more }: Beginning): Decision {
  if (!device.inService) return refuse('outOfService', 'Your telephone is not connected: connect it and try again.')
  const target = targetOf(state, number)
  const emergency = !('refusal' in target) && target.kind === 'outside' && target.short?.emergency
  if (!emergency && callsOf(state, device.id).length >= device.capacity + besides) {
    return refuse('tooManyCalls', 'You have as many calls as your telephone can carry: pass one on or end one first.')
  }
  if ('refusal' in target) return target
  if (target.id === device.id) return refuse('toSelf', 'That is your own extension.')
  const holding = holdingTheRest(state, device.id)
  if (target.kind === 'mailbox') return refuse('notPossibleNow', 'A voicemail takes callers; it can\'t be called.')
  if (target.kind === 'slot') {
    return more.consultation ? refuse('notPossibleNow', 'A park slot can\'t be asked.') : fromSlot(state, device.id, target.slot, holding)
  }
  const call = callIdOf(state)
  const direction = target.kind === 'outside' ? 'outbound' : 'internal'
  const originated: CallEvent = { type: 'originated', call, device: device.id, direction, dialled: digitsOf(target) ?? plainText(number, longestNumber), line: null, ...more }
  // The leg of an outside party is counted after the call itself.
  const after = { ...state, serial: state.serial + 1 }
  const outside = target.kind === 'outside' ? targetOf(after, number) : target
  if ('refusal' in outside) return outside
  const reached = reach(after, outside, { call, except: [device.id, ...except] })
  if ('events' in reached) return accept(...holding, originated, ...reached.events)
  // A telephone that is there and busy is heard as a tone, like on any telephone; everything else is refused before it begins.
  if (!reached.cause) return refuse(reached.refusal.code, reached.refusal.sentence)
  return accept(...holding, originated, { type: 'failed', call, device: target.id, cause: reached.cause })
}
