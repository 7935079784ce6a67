import { Map as PersistentMap } from 'immutable'
import type { Company } from '../company/company'
import { completed } from '../company/completed'
import { noIndexes, reindexAll } from './indexes'
import { quietDevice } from './telephones/device'
import { openingsAnew } from '../queues/openings'
import type {
  Agent, Block, Call, CallBack, CallBackId, CallId, Device, DeviceId, ExchangeState, Listening, Opening, Page, PageId, TrunkId, TrunkTrouble,
} from './model'

/** What a state holds in persistent maps. */
type Persistent = 'devices' | 'agents' | 'blocked' | 'openings' | 'troubles' | 'handling' | 'patience' | 'pages' | 'listenings' | 'callBacks' | 'calls'

/** A state as plain data that survives JSON unchanged: to be sent and kept. */
export interface Snapshot extends Omit<ExchangeState, Persistent | 'indexes'> {
  devices: Record<DeviceId, Device>
  agents: Record<DeviceId, Agent>
  blocked: Record<string, Block>
  openings: Record<string, Opening>
  troubles: Record<TrunkId, TrunkTrouble>
  handling: Record<DeviceId, number>
  patience: Record<DeviceId, { waited: number, gaveUp: number }>
  pages: Record<PageId, Page>
  listenings: Record<DeviceId, Listening>
  callBacks: Record<CallBackId, CallBack>
  calls: Record<CallId, Call>
}

export function snapshotOf({ indexes: _follows, ...state }: ExchangeState): Snapshot {
  const { devices, agents, blocked, openings, troubles, handling, patience, pages, listenings, callBacks, calls } = state
  return {
    ...state, devices: devices.toObject(), agents: agents.toObject(), blocked: blocked.toObject(), openings: openings.toObject(),
    troubles: troubles.toObject(), handling: handling.toObject(), patience: patience.toObject(), pages: pages.toObject(), listenings: listenings.toObject(),
    callBacks: callBacks.toObject(), calls: calls.toObject(),
  }
}

export function stateOf(snapshot: Snapshot): ExchangeState {
  const { company, devices, agents, blocked, openings, troubles, handling, patience, pages, listenings, callBacks, callBacksOver, calls } = snapshot
  return reindexAll({
    ...snapshot,
    // One that was kept before there was any paging, or before queues rang their members, knows nothing of it.
    company: completed(company),
    openings: PersistentMap(openings ?? {}),
    troubles: PersistentMap(troubles ?? {}),
    handling: PersistentMap(handling ?? {}),
    patience: PersistentMap(patience ?? {}),
    pages: PersistentMap(pages ?? {}),
    listenings: PersistentMap(listenings ?? {}),
    callBacks: PersistentMap(callBacks ?? {}),
    callBacksOver: callBacksOver ?? [],
    devices: PersistentMap(devices),
    agents: PersistentMap(agents),
    blocked: PersistentMap(blocked),
    calls: PersistentMap(calls),
    indexes: noIndexes,
  })
}

export interface Beginning {
  /** Names this run of the exchange. */
  epoch: string
  /** Milliseconds since 1970. */
  now: number
  /** Operators whose console is open from the beginning. */
  attended?: readonly DeviceId[]
}

/** An exchange that serves a company and on which nothing has happened yet. */
export function quietState(company: Company, { epoch, now, attended = [] }: Beginning): ExchangeState {
  const operators = company.groups[company.settings.operators]?.members ?? []
  const state: ExchangeState = {
    epoch, seq: 0, time: now, clockOffset: 0, serial: 0, company,
    devices: PersistentMap(Object.keys(company.telephones).map(id => [id, quietDevice(now)])),
    agents: PersistentMap(operators.map((id): [DeviceId, Agent] => [id, { attended: attended.includes(id), leavesAt: null, unserved: {} }])),
    blocked: PersistentMap(),
    outlived: [],
    openings: PersistentMap(),
    troubles: PersistentMap(),
    handling: PersistentMap(),
    patience: PersistentMap(),
    pages: PersistentMap(),
    listenings: PersistentMap(),
    callBacks: PersistentMap(),
    callBacksOver: [],
    calls: PersistentMap(),
    indexes: noIndexes,
  }
  return reindexAll({ ...state, openings: openingsAnew(state, now) })
}
