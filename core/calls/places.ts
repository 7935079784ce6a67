import { reindexCallBack, reindexPage, reindexPlaces, retimeCall } from './indexes'
import type { Agent, CallBackId, Device, DeviceId, ExchangeState, PageId } from './model'

/** What is known of a telephone, or of an operator's place, with its timers. Nothing changes at one that is not known. */

export function withDevice(state: ExchangeState, next: ExchangeState, id: DeviceId, change: Partial<Device>): ExchangeState {
  const device = state.devices.get(id)
  if (!device) return next
  next.devices = state.devices.set(id, { ...device, ...change })
  next.indexes = { ...state.indexes }
  reindexPlaces(state, next, [id])
  return next
}

export function withAgent(state: ExchangeState, next: ExchangeState, id: DeviceId, change: (agent: Agent) => Partial<Agent>): ExchangeState {
  const agent = state.agents.get(id)
  if (!agent) return next
  next.agents = state.agents.set(id, { ...agent, ...change(agent) })
  next.indexes = { ...state.indexes }
  reindexPlaces(state, next, [id])
  for (const call of state.indexes.callsAt.get(id) ?? []) retimeCall(next, call)
  return next
}

/** The state with a promise to call back as `next` has it, and its timer. */
export function retimeCallBack(state: ExchangeState, next: ExchangeState, id: CallBackId): ExchangeState {
  next.indexes = { ...state.indexes }
  reindexCallBack(next, id)
  return next
}

/** The state with a page as `next` has it, and its timer. */
export function retimePage(state: ExchangeState, next: ExchangeState, id: PageId): ExchangeState {
  next.indexes = { ...state.indexes }
  reindexPage(next, id)
  return next
}
