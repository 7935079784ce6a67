import { formatNumber, readDialled } from '../numbers/dialled'
import { accept, cannotRing, type CannotRing, cannotRingWords, nameOf, refuse } from './answers'
import type { Call, CallEvent, CallId, Decision, Device, DeviceId, Distribution, ExchangeState, Group, Slot, TrunkId } from './model'
import { isMailbox, ownerOfMailbox } from './names'
import { connectionOf, freeTrunk, lookUp, parkedIn, serves } from './questions'

/** Whom or what a destination means. */
export type Target
  = | { kind: 'device', id: DeviceId, device: Device }
    | { kind: 'group', id: DeviceId, group: Group }
    | { kind: 'slot', id: DeviceId, slot: Slot }
    | { kind: 'mailbox', id: DeviceId }
    | { kind: 'outside', id: DeviceId, e164: string }

type Refused = ReturnType<typeof refuse>

/** Reads a destination: an id of ours, a short number, or an outside number (E.164, national, as typed). Numbers of ours dialled in full stay inside. */
export function targetOf(state: ExchangeState, to: string): Target | Refused {
  if (isMailbox(to)) {
    const owner = ownerOfMailbox(to)!
    return lookUp(state.devices, owner) || lookUp(state.lines, owner) ? { kind: 'mailbox', id: to } : refuse('unallocatedNumber', 'There is no such voicemail.')
  }
  const known = byId(state, to)
  if (known) return known
  const dialled = readDialled(to)
  if (dialled.kind === 'invalid') return refuse('invalidNumber', dialled.why)
  if (dialled.kind === 'inside') return byNumber(state, dialled.digits) ?? refuse('unallocatedNumber', `There is no extension ${dialled.digits}.`)
  const line = Object.values(state.lines).find(candidate => candidate.number === dialled.e164)
  if (line) return { kind: 'group', id: line.target, group: state.groups[line.target]! }
  const direct = deviceWithDirectNumber(state, dialled.e164)
  if (direct) return { kind: 'device', id: direct.id, device: direct }
  const block = lookUp(state.blocked, dialled.e164)
  if (block) return refuse('blocked', `${formatNumber(dialled.e164)} is blocked: ${block.reason}. Lift the block first if it must be reached.`)
  const trunk = freeTrunk(state)
  if (!trunk) return refuse('trunksBusy', 'Every line to the outside is in use. Try again in a moment.')
  return { kind: 'outside', id: legOf(state, trunk), e164: dialled.e164 }
}

function byId(state: ExchangeState, id: string): Target | null {
  const device = lookUp(state.devices, id)
  if (device) return { kind: 'device', id, device }
  const group = lookUp(state.groups, id)
  if (group) return { kind: 'group', id, group }
  const slot = lookUp(state.slots, id)
  return slot ? { kind: 'slot', id, slot } : null
}

function byNumber(state: ExchangeState, digits: string): Target | null {
  const device = lookUp(state.devices, digits)
  if (device) return { kind: 'device', id: digits, device }
  const group = Object.values(state.groups).find(candidate => candidate.number === digits)
  if (group) return { kind: 'group', id: group.id, group }
  const slot = Object.values(state.slots).find(candidate => candidate.number === digits)
  return slot ? { kind: 'slot', id: slot.id, slot } : null
}

export function deviceWithDirectNumber(state: ExchangeState, e164: string): Device | undefined {
  const { directPrefix } = state.settings
  if (!e164.startsWith(directPrefix)) return undefined
  const tail = e164.slice(directPrefix.length)
  return Object.values(state.devices).find(device => device.id.length === tail.length + 1 && device.id.endsWith(tail))
}

/** The next outside leg on a trunk. */
export function legOf(state: ExchangeState, trunk: TrunkId): DeviceId {
  return `${trunk}#${state.serial + 1}`
}

function trunkOf(leg: DeviceId): TrunkId {
  return leg.slice(0, leg.lastIndexOf('#'))
}

export interface Reaching {
  call: CallId
  now: number
  /** How long it may ring, in milliseconds. */
  after: number
  /** How long it may wait in a queue before it comes back; absent: as long as it takes. */
  queueAfter?: number
  /** Devices that are not to be rung: whoever asks and whoever is on the line. */
  except: readonly DeviceId[]
  distribution?: Distribution
}

/**
 * The events that make a destination ring, or why it can't.
 * `cause` is set when a telephone is there and only can't be rung now.
 */
export function reach(state: ExchangeState, target: Target, { call, now, after, queueAfter, except, distribution }: Reaching): { events: CallEvent[] } | Refused & { cause?: CannotRing } {
  switch (target.kind) {
    case 'outside':
      return { events: [{ type: 'delivered', call, device: target.id, deadline: now + after, party: { number: target.e164, name: null }, trunk: trunkOf(target.id) }] }
    case 'mailbox':
      return { events: [{ type: 'established', call, device: target.id, deadline: now + state.settings.longestMessage }] }
    case 'slot':
      return refuse('notPossibleNow', 'A park slot can\'t be rung.')
    case 'device': {
      const cause = cannotRing(state, target.device)
      if (cause) return { ...refuse(cause, `${target.device.name} ${cannotRingWords[cause]}.`), cause }
      return { events: [{ type: 'delivered', call, device: target.id, deadline: now + after }] }
    }
    case 'group': return reachGroup(state, target.group, distribution ?? target.group.distribution, { call, now, after, queueAfter, except })
  }
}

function reachGroup(state: ExchangeState, group: Group, distribution: Distribution, { call, now, after, queueAfter, except }: Reaching): ReturnType<typeof reach> {
  if (distribution === 'queue') {
    const waiting = state.calls[call]
    if (!group.members.some(member => !except.includes(member) && (waiting ? serves(state, { ...waiting, refusedBy: [] }, member) : true))) {
      return refuse('nobodyServes', `Nobody serves ${group.name} at present.`)
    }
    return { events: [{ type: 'queued', call, device: group.id, ...(queueAfter !== undefined && { deadline: now + queueAfter }) }] }
  }
  const free = freeMembers(state, group, except)
  if (free.length === 0) return refuse('nobodyFree', `Nobody in ${group.name} is free at present.`)
  const rung = distribution === 'all' ? free : free.slice(0, 1)
  return { events: rung.map(device => ({ type: 'delivered', call, device, deadline: now + after })) }
}

/** The members of a group who can take a call now, whoever has been free longest first. */
export function freeMembers(state: ExchangeState, group: Group, except: readonly DeviceId[] = []): DeviceId[] {
  return group.members
    .filter((id) => {
      const device = state.devices[id]
      return device && !except.includes(id) && !device.status.reason && cannotRing(state, device) === null && !Object.values(state.calls).some(call => connectionOf(call, id))
    })
    .sort((a, b) => state.lately.indexOf(a) - state.lately.indexOf(b) || a.localeCompare(b))
}

/** A destination for a call that `device` has or may take: refused when it is whoever asks, whoever calls, or can't be reached. `keeps` says what becomes of the caller then. */
export function onward(state: ExchangeState, call: Call, device: DeviceId, to: string, keeps: string, distribution: Distribution | undefined, now: number): { target: Target, events: CallEvent[] } | Refused {
  const target = targetOf(state, to)
  const and = (refused: Refused) => refuse(refused.refusal.code, `${refused.refusal.sentence} ${keeps}`)
  if ('refusal' in target) return and(target)
  if (target.id === device) return refuse('toSelf', `That is your own extension. ${keeps}`)
  const caller = connectionOf(call, target.id)
    ?? (target.kind === 'outside' ? call.connections.find(({ party }) => party?.number === target.e164) : undefined)
  if (caller && caller.state !== 'queued') return refuse('toCaller', `${caller.party ? 'That number' : nameOf(state, target.id)} is in this call already. ${keeps}`)
  const { settings } = state
  const reached = reach(state, target, {
    call: call.id, now, after: settings.transferRecall, queueAfter: settings.queueRecall, distribution,
    except: [device, ...call.connections.map(connection => connection.device)],
  })
  return 'refusal' in reached ? and(reached) : { target, events: reached.events }
}

/** What dialling a park slot's number does: it takes the call that waits there. */
export function fromSlot(state: ExchangeState, device: DeviceId, slot: Slot, holding: CallEvent[]): Decision {
  const call = parkedIn(state, slot.id)
  if (!call) return refuse('slotEmpty', `Nobody waits in ${nameOf(state, slot.id)}.`)
  if (connectionOf(call, device)) return refuse('notPossibleNow', 'You are the one who waits there.')
  return accept(...holding, { type: 'established', call: call.id, device, from: slot.id })
}
