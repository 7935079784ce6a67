import { phrase, type Phrase } from '../../words/phrase'
import type { Distribution, Group, ShortNumber, Slot, Telephone } from '../company/company'
import { groupWithNumber, lineWithNumber, lookUp, slotWithNumber, telephoneWithDirectNumber, telephoneWithNumber } from '../company/lookups'
import { formatNumber, readDialled } from '../numbers/dialled'
import { classOf } from '../numbers/number-class'
import { accept, callingNumber, cannotRing, type CannotRing, cannotRingWords, nameOf, refuse, type Refused } from './answers'
import type { Call, CallEvent, CallId, Decision, DeviceId, ExchangeState, TrunkId } from './model'
import { freeIn, freeMembers } from './indexes'
import { isMailbox, mailboxOwner } from './names'
import { forwardAtOnce } from './forwarding/forwarding'
import { isOpen } from '../queues/openings'
import { connectionOf, freeTrunk, isEmergency, isOutside, leavesMessage, parkedIn } from './questions'
import { serves } from '../queues/serving'

/** Whom or what a destination means. */
export type Target
  = | { kind: 'device', id: DeviceId, telephone: Telephone }
    | { kind: 'group', id: DeviceId, group: Group }
    | { kind: 'slot', id: DeviceId, slot: Slot }
    | { kind: 'mailbox', id: DeviceId }
    | { kind: 'outside', id: DeviceId, number: string, trunk: TrunkId, short: ShortNumber | null }

/**
 * Reads a destination: a short number of the network, an id of ours, a short number of ours, or an outside number (E.164, national, as typed).
 * Numbers of ours dialled in full stay inside. An emergency number always has a trunk; `CallEvent`s that free one for it come with `reach`.
 */
export function targetOf(state: ExchangeState, to: string): Target | Refused {
  if (isMailbox(to)) {
    return mailboxOwner(state.company, to) ? { kind: 'mailbox', id: to } : refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchVoicemail'))
  }
  const dialled = readDialled(to, state.company.settings)
  const short = dialled.kind === 'inside' ? lookUp(state.company.shortNumbers, dialled.digits) : undefined
  if (short) return outside(state, short.number, short)
  const known = byId(state, to)
  if (known) return known
  if (dialled.kind === 'invalid') return refuse('invalidNumber', dialled.why)
  if (dialled.kind === 'inside') return byNumber(state, dialled.digits) ?? refuse('unallocatedNumber', phrase('refusals.thereIsNoExtensionDigits', {
    digits: dialled.digits,
  }))
  const line = lineWithNumber(state.company, dialled.e164)
  if (line) return { kind: 'group', id: line.target, group: state.company.groups[line.target]! }
  const direct = telephoneWithDirectNumber(state.company, dialled.e164)
  if (direct) return { kind: 'device', id: direct.id, telephone: direct }
  const block = state.blocked.get(dialled.e164)
  const written = formatNumber(dialled.e164, state.company.settings)
  // Why is for who answers for the company: it stands with the block.
  if (block) return refuse('blocked', phrase('refusals.isBlockedLiftTheBlock', { written }))
  return refusalOfNumber(state, dialled.e164, 'callsTo') ?? outside(state, dialled.e164, null)
}

/** Why a number outside (E.164) is not called: the company has no calls to its kind, or calls nobody back there. */
export function refusalOfNumber({ company: { settings } }: ExchangeState, e164: string, which: 'callsTo' | 'callBacksTo'): Refused | null {
  const kind = classOf(e164, settings)
  if (settings[which].includes(kind)) return null
  const where = { inland: phrase('refusals.numbersOfTheCountry'), abroad: phrase('refusals.numbersAbroad'), premium: phrase('refusals.numbersAtAPremium'),
    satellite: phrase('refusals.satelliteTelephones') }[kind]
  return refuse('notAllowed', which === 'callsTo'
    ? phrase('refusals.theCompanysSettingsAllowNo', { where })
    : phrase('refusals.theCompanysSettingsLetNobody', { where }))
}

/** A destination that calls go to by a rule: nobody is connected with an emergency service whom no person has called there, and no channel is taken for it. */
export function targetOfRule(state: ExchangeState, to: string): Target | Refused {
  const target = targetOf(state, to)
  const isEmergency = !('refusal' in target) && target.kind === 'outside' && target.short?.emergency
  return isEmergency ? refuse('notPossibleNow', phrase('refusals.noRuleLeadsToAn')) : target
}

/** True for a number outside that is in the call already: nobody is rung by their own call. */
export function leadsBack(state: ExchangeState, target: Target, { call, number }: Pick<Reaching, 'call' | 'number'>): boolean {
  if (target.kind !== 'outside') return false
  return number === target.number || (state.calls.get(call)?.connections.some(({ party }) => party?.number === target.number) ?? false)
}

/** The same, from now on: anything that rings or answers by itself. */
export function lastingTarget(state: ExchangeState, to: string): Exclude<Target, { kind: 'slot' }> | Refused {
  const target = targetOfRule(state, to)
  if ('refusal' in target || target.kind !== 'slot') return target
  return refuse('notPossibleNow', phrase('refusals.aParkSlotTakesNobody'))
}

function outside(state: ExchangeState, number: string, short: ShortNumber | null): Target | Refused {
  // An emergency call for which there is no channel gets that of another call.
  const trunk = freeTrunk(state, short?.emergency) ?? (short?.emergency ? Object.keys(state.company.trunks)[0] : undefined)
  if (trunk === undefined) return refuse('trunksBusy', phrase('refusals.everyLineToTheOutside'))
  return { kind: 'outside', id: legOf(state, trunk), number, trunk, short }
}

/**
 * What ends so that an emergency call finds a channel: nothing while one is free, even one that is kept; else the call that can best be spared.
 * A tone and a mailbox go before a call that still rings outside, then the youngest, and what whoever calls has in hand comes last;
 * never another emergency call, and never the call that is to be passed on.
 */
function roomForEmergency(state: ExchangeState, target: Target, { call: own, except }: Reaching): { trunk: TrunkId, events: CallEvent[] } | null {
  if (target.kind !== 'outside' || !target.short?.emergency || freeTrunk(state, true)) return null
  const spare = [...state.calls.values()]
    .filter(call => call.id !== own && !isEmergency(state, call) && call.connections.some(({ trunk }) => trunk))
    .sort((a, b) => worth(a, except) - worth(b, except) || b.created - a.created)[0]
  const trunk = spare?.connections.find(connection => connection.trunk)?.trunk
  return spare && trunk ? { trunk, events: [{ type: 'callCleared', call: spare.id, device: spare.calling, cause: 'preempted' }] } : null
}

function worth(call: Call, inHand: readonly DeviceId[]): number {
  if (call.connections.some(({ device }) => inHand.includes(device))) return 6
  if (call.failed) return 0
  if (leavesMessage(call)) return 1
  if (call.connections.some(({ state, party }) => state === 'alerting' && party)) return 2
  return isOutside(call) ? 3 : call.direction === 'outbound' ? 4 : 5
}

function byId({ company }: ExchangeState, id: string): Target | null {
  return asTarget(lookUp(company.telephones, id), lookUp(company.groups, id), lookUp(company.slots, id))
}

function byNumber({ company }: ExchangeState, digits: string): Target | null {
  return asTarget(telephoneWithNumber(company, digits), groupWithNumber(company, digits), slotWithNumber(company, digits))
}

function asTarget(telephone: Telephone | undefined, group: Group | undefined, slot: Slot | undefined): Target | null {
  if (telephone) return { kind: 'device', id: telephone.id, telephone }
  if (group) return { kind: 'group', id: group.id, group }
  return slot ? { kind: 'slot', id: slot.id, slot } : null
}

/** The next outside leg on a trunk. */
export function legOf(state: ExchangeState, trunk: TrunkId): DeviceId {
  return `${trunk}#${state.serial + 1}`
}

export interface Reaching {
  call: CallId
  /** Devices that are not to be rung: whoever asks and whoever is on the line. */
  except: readonly DeviceId[]
  distribution?: Distribution
  /** Of whoever begins a call that is none yet. */
  number?: string | null
}

/**
 * The events that make a destination ring, or why it can't.
 * `cause` is set when a telephone is there and only can't be rung now.
 */
export function reach(state: ExchangeState, target: Target, reaching: Reaching): { events: CallEvent[] } | Refused & { cause?: CannotRing } {
  const { call, distribution } = reaching
  switch (target.kind) {
    case 'outside': {
      const room = roomForEmergency(state, target, reaching)
      if (target.short?.emergency && !room && !freeTrunk(state, true))
        return refuse('trunksBusy', phrase('refusals.everyLineToTheOutsideCarries'))
      const trunk = room?.trunk ?? target.trunk
      const leg = room ? legOf(state, trunk) : target.id
      return {
        events: [...(room?.events ?? []), { type: 'delivered', call, device: leg, party: { number: target.number, name: target.short?.name ?? null }, trunk }],
      }
    }
    case 'mailbox':
      return { events: [{ type: 'established', call, device: target.id }] }
    case 'slot':
      return refuse('notPossibleNow', phrase('refusals.aParkSlotCantBeRung'))
    case 'device': return reachTelephone(state, target.telephone, reaching)
    case 'group': return reachGroup(state, target.group, distribution ?? target.group.distribution, reaching)
  }
}

/** A telephone rings, or sends the call on. What it would be sent on to and can't be reached is as if it were not: the telephone itself rings. */
function reachTelephone(state: ExchangeState, telephone: Telephone, reaching: Reaching): ReturnType<typeof reach> {
  const { call, except } = reaching
  const { id, name } = telephone
  const known = state.calls.get(call)
  const cause = cannotRing(state, telephone, reaching.number ?? (known ? callingNumber(state, known) : null))
  const forward = forwardAtOnce(state, id, cause, known)
  const further = forward && !except.includes(id) ? sentOn(state, id, forward.to, reaching) : null
  if (further) return { events: further }
  if (cause) return { ...refuse(cause, phrase('common.whoDoes', { who: name, does: { key: cannotRingWords[cause] } })), cause }
  return { events: [{ type: 'delivered', call, device: id }, ...mobileAlong(state, telephone, reaching)] }
}

/** The mobile of a telephone's owner rings along where they have asked for it, as long as there is a line to the outside and it is not in the call already. */
function mobileAlong(state: ExchangeState, { id, person }: Telephone, { call, number }: Reaching): CallEvent[] {
  const mobile = state.devices.get(id)?.ringsAlong ? lookUp(state.company.people, person ?? '')?.mobile : null
  const target = mobile ? targetOfRule(state, mobile) : null
  if (!target || 'refusal' in target || target.kind !== 'outside' || leadsBack(state, target, { call, number })) return []
  return [{ type: 'delivered', call, device: target.id, party: { number: target.number, name: null }, trunk: target.trunk, along: id }]
}

/** The events that send a call on from a telephone, or null when nobody can be reached there. Whoever has sent it on already is not rung again. */
export function sentOn(state: ExchangeState, from: DeviceId, to: string, reaching: Reaching): CallEvent[] | null {
  const target = targetOfRule(state, to)
  const except = [...reaching.except, from]
  if ('refusal' in target || except.includes(target.id) || leadsBack(state, target, reaching)) return null
  if (state.calls.get(reaching.call)?.forwardedBy?.includes(target.id)) return null
  const reached = reach(state, target, { ...reaching, except, distribution: undefined })
  return 'events' in reached ? [{ type: 'forwarded', call: reaching.call, device: from, to: target.id }, ...reached.events] : null
}

function reachGroup(state: ExchangeState, group: Group, distribution: Distribution, { call, except }: Reaching): ReturnType<typeof reach> {
  if (distribution === 'queue') {
    if (!isOpen(state, group.id)) return refuse('closed', phrase('refusals.isClosedAtPresent', { name: group.name }))
    // Whoever has refused it, or serves no line that it came on, is asked again: somebody has sent it here.
    const waiting = state.calls.get(call)
    const there = [...(waiting?.connections ?? []).filter(({ state: its }) => its !== 'queued'), { device: group.id, state: 'queued' as const, since: 0 }]
    const offered = { ...(waiting ?? nobodysCall), refusedBy: [], line: waiting?.line ?? null, connections: there }
    if (!group.members.some(member => !except.includes(member) && serves(state, offered, member))) {
      return refuse('nobodyServes', phrase('refusals.nobodyServesAtPresent', { name: group.name }))
    }
    return { events: [{ type: 'queued', call, device: group.id }] }
  }
  const rung = distribution === 'all' ? freeMembers(state, group, except) : longestFree(state, group, except)
  if (rung === undefined || rung.length === 0) return refuse('nobodyFree', phrase('refusals.nobodyInIsFreeAt', { name: group.name }))
  return { events: [rung].flat().map(device => ({ type: 'delivered', call, device, group: group.id })) }
}

/** What a call that is only about to begin is to a queue. */
const nobodysCall: Pick<Call, 'refusedBy' | 'line' | 'recall' | 'connections'> = { refusedBy: [], line: null, recall: null, connections: [] }

/** Whoever of the group that is being rung member by member is next: free, not tried yet, and within the number of tries. */
export function nextInGroup(state: ExchangeState, call: Call): DeviceId | undefined {
  const { hunting } = call
  const group = hunting && lookUp(state.company.groups, hunting.group)
  if (!group || hunting.tried.length >= group.tries) return undefined
  return longestFree(state, group, [...hunting.tried, ...call.connections.map(({ device }) => device)])
}

/** Who of a group has been free longest. */
function longestFree(state: ExchangeState, group: Group, except: readonly DeviceId[]): DeviceId | undefined {
  for (const id of freeIn(state, group.id)) if (!except.includes(id)) return id
  return undefined
}

/**
 * A destination for a call that `device` has or may take: refused when it is whoever asks, whoever calls, or can't be reached. `keeps` says what becomes
 * of the caller then.
 */
export function onward(
  state: ExchangeState,
  call: Call,
  device: DeviceId,
  to: string,
  keeps: Phrase,
  distribution: Distribution | undefined,
): { target: Target, events: CallEvent[] } | Refused {
  const target = targetOf(state, to)
  const and = (refused: Refused) => refuse(refused.refusal.code, phrase('common.andThen', { first: refused.refusal.why, second: keeps }))
  if ('refusal' in target) return and(target)
  if (target.id === device) return refuse('toSelf', phrase('refusals.thatIsYourOwnExtensionKeeps', { keeps }))
  const caller
    = connectionOf(call, target.id) ?? (target.kind === 'outside' ? call.connections.find(({ party }) => party?.number === target.number) : undefined)
  if (caller && caller.state !== 'queued')
    return refuse('toCaller', phrase('refusals.isInThisCallAlready', { more: caller.party ? phrase('refusals.thatNumber') : nameOf(state, target.id), keeps }))
  const reached = reach(state, target, { call: call.id, distribution, except: [device, ...call.connections.map(connection => connection.device)] })
  return 'refusal' in reached ? and(reached) : { target, events: reached.events }
}

/** What dialling a park slot's number does: it takes the call that waits there. */
export function fromSlot(state: ExchangeState, device: DeviceId, slot: Slot, holding: CallEvent[]): Decision {
  const call = parkedIn(state, slot.id)
  if (!call) return refuse('slotEmpty', phrase('refusals.nobodyWaitsIn', { name: nameOf(state, slot.id) }))
  if (connectionOf(call, device)) return refuse('notPossibleNow', phrase('refusals.youAreTheOneWho'))
  return accept(...holding, { type: 'established', call: call.id, device, from: slot.id })
}
