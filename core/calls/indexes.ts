import { memberPlace } from '../queues/serving'
import { Map as PersistentMap } from 'immutable'
import type BTree from 'sorted-btree'
import { EmptyBTree } from 'sorted-btree'
import type { Group } from '../company/company'
import { groupsOf } from '../company/lookups'
import type { Call, CallBackId, CallId, Connection, DeviceId, ExchangeState, LineId, PageId, TrunkId } from './model'
import { openingOwner, timerOfOpening, withOpenings } from '../queues/openings'
import { keyOf, type Timer, timersAtPlace, timersOf, timersOfCallBack, timersOfPage } from './timers'

/** What follows from a state and is asked often. Kept beside it so that no question costs more the more calls or telephones there are. */
export interface Indexes {
  /** The calls in which a telephone, a queue, a slot, a mailbox or an outside leg has a connection, in the order in which they came to it. */
  callsAt: PersistentMap<DeviceId, readonly CallId[]>
  /** Channels in use. */
  channels: PersistentMap<TrunkId, number>
  /** Every timer by its time (`keyOf`), and those of each call, each page and each telephone. */
  timers: BTree<string, Timer>
  timersOf: PersistentMap<CallId | DeviceId | PageId, readonly Timer[]>
  /** Telephones that can take a call now, for each group that they are members of by the time since when (`freeIn`). */
  free: BTree<string, DeviceId>
}

export const noIndexes: Indexes = {
  callsAt: PersistentMap(),
  channels: PersistentMap(),
  timers: EmptyBTree as BTree<string, Timer>,
  timersOf: PersistentMap(),
  free: EmptyBTree as BTree<string, DeviceId>,
}

/** Brings the indexes of `next` up to date after calls have changed, or what was set at telephones. */
export function reindex(before: ExchangeState, next: ExchangeState, calls: Iterable<CallId>): void {
  next.indexes = { ...before.indexes }
  const timed = new Set<CallId>()
  for (const id of calls) {
    const [was, is] = [before.calls.get(id), next.calls.get(id)]
    if (was === is) continue
    placeConnections(next.indexes, was, is)
    timed.add(id)
    // Who asks for a caller has an influence on how long that caller may be on hold.
    if (was?.consultation) timed.add(was.consultation)
    if (is?.consultation) timed.add(is.consultation)
  }
  for (const id of timed) retimeCall(next, id)
}

/** Brings the timers of one call up to date. */
export function retimeCall(next: ExchangeState, id: CallId): void {
  const call = next.calls.get(id)
  setTimers(next.indexes, id, call ? timersOf(next, call) : none)
}

/** Brings the timer of one page up to date. */
export function reindexPage(next: ExchangeState, id: PageId): void {
  const page = next.pages.get(id)
  setTimers(next.indexes, id, page ? timersOfPage(next, page) : none)
}

/** Brings the timer of one promise up to date. */
export function reindexCallBack(next: ExchangeState, id: CallBackId): void {
  const promise = next.callBacks.get(id)
  setTimers(next.indexes, id, promise ? timersOfCallBack(next, promise) : none)
}

/** Brings the timer of one line or queue that opens and closes up to date. */
export function reindexOpening(next: ExchangeState, of: LineId | DeviceId): void {
  const timer = timerOfOpening(next, of)
  setTimers(next.indexes, openingOwner(of), timer ? [timer] : none)
}

/** Brings up to date what is known of telephones: their timers, and in which groups they are free. */
export function reindexPlaces(before: ExchangeState, next: ExchangeState, places: Iterable<DeviceId>): void {
  for (const place of places) {
    setTimers(next.indexes, place, timersAtPlace(next, place))
    const [was, is] = [freeKeys(before, place), freeKeys(next, place)]
    if (was.length === is.length && was.every((key, index) => key === is[index])) continue
    for (const key of was) next.indexes.free = next.indexes.free.without(key)
    for (const key of is) next.indexes.free = next.indexes.free.with(key, place)
  }
}

/** Makes the indexes of a state anew: for one that comes from elsewhere, or whose configuration or clock has changed. */
export function reindexAll(state: ExchangeState): ExchangeState {
  const free = noIndexes.free.clone()
  const next = { ...state, indexes: { ...noIndexes, free } }
  for (const call of next.calls.values()) placeConnections(next.indexes, undefined, call)
  for (const call of next.calls.values()) setTimers(next.indexes, call.id, timersOf(next, call))
  for (const of of withOpenings(next)) reindexOpening(next, of)
  for (const page of next.pages.values()) setTimers(next.indexes, page.id, timersOfPage(next, page))
  for (const promise of next.callBacks.values()) setTimers(next.indexes, promise.id, timersOfCallBack(next, promise))
  for (const place of next.devices.keys()) {
    setTimers(next.indexes, place, timersAtPlace(next, place))
    for (const key of freeKeys(next, place)) free.set(key, place)
  }
  return next
}

/** The members of a group who can take a call now, whoever has been free longest first. */
export function* freeIn({ indexes }: ExchangeState, group: DeviceId): Generator<DeviceId> {
  const prefix = `${group} `
  for (const [key, device] of indexes.free.entries(prefix)) {
    if (!key.startsWith(prefix)) return
    yield device
  }
}

/** Under which keys a telephone stands among those that are free: one for each group, by the time since when it is. */
function freeKeys(state: ExchangeState, id: DeviceId): string[] {
  const since = String(Math.ceil(state.devices.get(id)?.freeSince ?? 0)).padStart(16, '0')
  return [...groupsOf(state.company, id)].flatMap(group => memberPlace(state, group, id) === 'free' ? [`${group} ${since} ${id}`] : [])
}

function placeConnections(indexes: Indexes, was: Call | undefined, is: Call | undefined): void {
  const [there, here] = [was?.connections ?? [], is?.connections ?? []]
  for (const { device, trunk } of missingFrom(here, there)) {
    const rest = (indexes.callsAt.get(device) ?? []).filter(id => id !== was!.id)
    indexes.callsAt = rest.length > 0 ? indexes.callsAt.set(device, rest) : indexes.callsAt.delete(device)
    if (trunk) indexes.channels = indexes.channels.update(trunk, 0, used => used - 1)
  }
  for (const { device, trunk } of missingFrom(there, here)) {
    indexes.callsAt = indexes.callsAt.set(device, [...indexes.callsAt.get(device) ?? [], is!.id])
    if (trunk) indexes.channels = indexes.channels.update(trunk, 0, used => used + 1)
  }
}

/** Those of some connections whose telephones have none among others. Most calls differ at their end alone. */
export function missingFrom(others: readonly Connection[], connections: readonly Connection[]): readonly Connection[] {
  const alike = connections.findIndex(({ device }, at) => others[at]?.device !== device)
  if (alike < 0) return []
  const rest = connections.slice(alike)
  if (rest.length === 1) return others.some(({ device }) => device === rest[0]!.device) ? [] : rest
  const there = new Set(others.map(({ device }) => device))
  return rest.filter(({ device }) => !there.has(device))
}

const none: readonly Timer[] = []

function setTimers(indexes: Indexes, owner: CallId | DeviceId, timers: readonly Timer[]): void {
  const before = indexes.timersOf.get(owner) ?? none
  if (
    before.length === timers.length
    && before.every(({ at, name, line }, index) => at === timers[index]!.at && name === timers[index]!.name && line === timers[index]!.line)
  )
    return
  for (const timer of before) indexes.timers = indexes.timers.without(keyOf(timer))
  for (const timer of timers) indexes.timers = indexes.timers.with(keyOf(timer), timer)
  indexes.timersOf = timers.length > 0 ? indexes.timersOf.set(owner, timers) : indexes.timersOf.delete(owner)
}

/** The members of a group who can take a call now, whoever has been free longest first. */
export function freeMembers(state: ExchangeState, group: Group, except: readonly DeviceId[] = []): DeviceId[] {
  return [...freeIn(state, group.id)].filter(id => !except.includes(id))
}
