import { promiseAfter } from './call-backs/call-backs'
import { begun, type CallChange, changedCall, heardOfConsultation, ledBySomebody, watchedOutside } from './course'
import type { EventKind } from './event'
import { kinds } from './events'
import { isMemberOf, lookUp } from '../company/lookups'
import type { Call, CallEvent, CallId, Connection, Device, DeviceId, EventOf, ExchangeState, NumberedEvent } from './model'
import { listeningsAfter } from './listening/listenings'
import { missingFrom, reindex, reindexPlaces } from './indexes'
import { handlingAfter, offeredAfter, patienceAfter } from '../queues/handling'

const outlivedKept = 60

/**
 * The state after an event. Pure: the old state stays as it was and shares what did not change.
 * An event about a call or device that the state does not know changes nothing but the sequence number.
 */
export function evolve(state: ExchangeState, event: NumberedEvent): ExchangeState {
  const next = movedOn(state, event)
  const kind = kinds[event.type] as EventKind<never>
  if (kind.evolve) return kind.evolve(state, next, event as never)
  if (event.type === 'originated') return originated(state, next, event)
  if (!('call' in event)) return next
  const call = state.calls.get(event.call)
  // Who listened listens no more once the call is over.
  if (!call) return event.type === 'listeningEnded' ? listeningsAfter(next, event) : next
  return event.type === 'callCleared' ? cleared(state, next, call, event) : changed(state, next, call, [event])
}

const movedOn = (state: ExchangeState, { seq, at }: NumberedEvent): ExchangeState => ({ ...state, seq, time: Math.max(state.time, at) })

function originated(state: ExchangeState, next: ExchangeState, event: EventOf<'originated'>): ExchangeState {
  next.serial = state.serial + 1
  next.calls = state.calls.set(event.call, begun(event))
  reindex(state, next, [event.call])
  reindexPlaces(state, next, [event.device])
  return promiseAfter(next, event)
}

/** The calls that an event of some calls may change: those, whom they ask for, and the others of whoever leaves them. */
function touchedBy(state: ExchangeState, calls: readonly Call[], gone: readonly Connection[]): Set<CallId> {
  const touched = new Set<CallId>()
  for (const call of calls) {
    touched.add(call.id)
    if (call.consultation) touched.add(call.consultation)
  }
  for (const { device } of gone) if (state.devices.has(device)) for (const other of state.indexes.callsAt.get(device) ?? []) touched.add(other)
  return touched
}

/** Many events at once: as one after the other, but those who are rung together for a call come to it together. */
export function evolveAll(state: ExchangeState, events: readonly NumberedEvent[]): ExchangeState {
  let current = state
  for (let at = 0; at < events.length;) {
    const rung = rungTogether(events, at)
    const call = rung.length > 1 ? current.calls.get(rung[0]!.call) : undefined
    current = call ? changed(current, movedOn(current, rung.at(-1)!), call, rung) : evolve(current, events[at]!)
    at += call ? rung.length : 1
  }
  return current
}

function rungTogether(events: readonly NumberedEvent[], from: number) {
  const rung: EventOf<'delivered'>[] = []
  for (let event = events[from]; event?.type === 'delivered' && event.call === (rung[0] ?? event).call; event = events[from + rung.length]) rung.push(event)
  return rung
}

/** Gives events their places after a state's last, all at one time. */
export function numbered(state: ExchangeState, events: readonly CallEvent[], at: number): NumberedEvent[] {
  return events.map((event, index) => ({ ...event, seq: state.seq + 1 + index, at }))
}

/** The state after events within a call that goes on: one, or those by which several are rung. */
function changed(state: ExchangeState, next: ExchangeState, call: Call, events: readonly CallChange[]): ExchangeState {
  const event = events[0]!
  const joined = 'joined' in event && event.joined ? state.calls.get(event.joined) : undefined
  const after = events.reduce((before, each) => {
    const then = watchedOutside(changedCall(kinds[each.type] as EventKind<never>, before, each, joined), before, each)
    const asks = then.consultation === null || then.connections.some(({ device }) => device === before.calling)
    return ledBySomebody(asks ? then : { ...then, consultation: null }, state)
  }, call)
  const before = joined ? [...call.connections, ...joined.connections] : call.connections
  const gone = missingFrom(after.connections, before)
  const touched = touchedBy(state, joined ? [call, joined, after] : [call, after], joined ? [...gone, ...joined.connections] : gone)
  let calls = state.calls.set(call.id, after)
  if (joined) calls = forgotten(calls.delete(joined.id), touched, joined.id)
  const primary = call.consultation ? calls.get(call.consultation) : undefined
  if (primary) calls = calls.set(primary.id, events.reduce((heard, each) => heardOfConsultation(heard, call, each), primary))
  // Whoever has handed a caller on asks for them no longer.
  for (const { device } of gone) calls = forgotten(calls, touched, call.id, device)
  next.serial = state.serial + events.filter(each => 'party' in each && each.party).length
  const settled = settledAt(state, next, calls, touched, gone, missingFrom(before, after.connections), after, event.at)
  return events.reduce((known, each) => listeningsAfter(promiseAfter(offeredAfter(known, call, each), each), each), settled)
}

/** The state with its calls as they are now; telephones that have just been left by their last call are free. */
function settledAt(
  state: ExchangeState,
  next: ExchangeState,
  calls: ExchangeState['calls'],
  touched: Iterable<CallId>,
  gone: readonly Connection[],
  come: readonly Connection[],
  { servedFrom, story }: Pick<Call, 'servedFrom' | 'story'>,
  at: number,
  gaveUp = false,
): ExchangeState {
  next.calls = calls
  reindex(state, next, touched)
  for (const { device, state: its, since } of gone) {
    if (its === 'queued') next.patience = patienceAfter(next.patience, device, at - since, gaveUp)
    if (servedFrom !== undefined) next.handling = handlingAfter(next.handling, servedFrom, story, device, at)
    const left = next.devices.get(device)
    if (!left || next.indexes.callsAt.has(device)) continue
    const free = { ...left, freeSince: at, ...wrappingUp(next, device, left, servedFrom, at) }
    next.devices = next.company.telephones[device] ? next.devices.set(device, free) : next.devices.delete(device)
  }
  const came = come.filter(({ device }) => !state.indexes.callsAt.has(device))
  reindexPlaces(
    state,
    next,
    [...gone, ...came].map(({ device }) => device),
  )
  return next
}

/** Whoever has had a call of one of their queues has work to do on it, as long as the queue allows. */
function wrappingUp({ company }: ExchangeState, device: DeviceId, { absences }: Device, queue: DeviceId | undefined, at: number): Pick<Device, 'absences'> {
  const group = queue === undefined ? undefined : lookUp(company.groups, queue)
  if (!group?.wrapUp || absences?.[group.id] || !isMemberOf(company, device, group.id)) return {}
  return { absences: { ...absences, [group.id]: { state: 'wrapUp', reason: null, since: at, until: at + group.wrapUp, by: null } } }
}

/** The state after a call has ended: nothing refers to it any more. */
function cleared(state: ExchangeState, next: ExchangeState, call: Call, event: EventOf<'callCleared'>): ExchangeState {
  const touched = touchedBy(state, [call], call.connections)
  next.outlived = outlivedAfter(state, call, event.at)
  const calls = forgotten(state.calls.delete(call.id), touched, call.id)
  const gaveUp = event.cause === 'abandoned' || event.cause === 'normalClearing'
  return settledAt(state, next, calls, touched, call.connections, [], call, event.at, gaveUp)
}

/** Nobody of `among` is asked any more for the caller of a call that has ended, or that whoever asked has left. */
function forgotten(calls: ExchangeState['calls'], among: Iterable<CallId>, ended: CallId, by?: DeviceId): ExchangeState['calls'] {
  let after = calls
  for (const id of among) {
    const other = after.get(id)
    if (other && other.consultation === ended && (by === undefined || other.calling === by)) after = after.set(id, { ...other, consultation: null })
  }
  return after
}

function outlivedAfter(state: ExchangeState, { id, parked, party, calling }: Call, at: number): ExchangeState['outlived'] {
  if (!parked?.for) return state.outlived
  return [...state.outlived, { call: id, for: parked.for, slot: parked.slot, by: parked.by, party, caller: calling, since: parked.at, ended: at }].slice(
    -outlivedKept,
  )
}
