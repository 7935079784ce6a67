import { callFor, isOpenFor, isPrompt, onTheLine } from '../calls/call-backs/call-backs'
import type { Call, CallBack, DeviceId, ExchangeState } from '../calls/model'
import { byTurn, isWith } from '../queues/turns'
import { lookUp } from '../company/lookups'

/** How promises to call back stand, for whoever sees to them. Times are the exchange's, in milliseconds. */

/**
 * `ringing`: a member is rung to do it; `calling`: somebody calls them at this moment; `onTheLine`: the caller is with us; `later`: it is tried again at `at`;
 * `taken`: `device` has it; `rings`: members of its queue are rung as soon as one is free; `waits`: for somebody who takes it.
 */
export interface Standing {
  how: 'ringing' | 'calling' | 'onTheLine' | 'later' | 'taken' | 'closed' | 'rings' | 'waits'
  device: DeviceId | null
  at: number | null
}

export function standingOf(state: ExchangeState, promise: CallBack): Standing {
  const stands = (how: Standing['how'], device: DeviceId | null = null, at: number | null = null): Standing => ({ how, device, at })
  const ours = ({ connections }: Call) => connections.find(({ device }) => state.devices.has(device))?.device ?? null
  const call = callFor(state, promise)
  if (call) return stands(isPrompt(call) ? 'ringing' : 'calling', ours(call))
  const theirs = onTheLine(state, promise)
  if (theirs) return stands('onTheLine', ours(theirs))
  if (promise.notBefore !== null) return stands('later', promise.assigned, promise.notBefore)
  if (promise.assigned) return stands('taken', promise.assigned)
  if (!isOpenFor(state, promise)) return stands('closed')
  return stands((lookUp(state.company.groups, promise.queue)?.ringing ?? 'none') === 'none' ? 'waits' : 'rings')
}

/** How many promises somebody has to see to now: nobody calls at present, and it is no later time that is waited for. */
export function dueNow({ callBacks }: ExchangeState): number {
  return callBacks.count(({ call, notBefore }) => call === null && notBefore === null)
}

/** All that are open, whoever would be served first before the others. */
export function openPromises(state: ExchangeState): CallBack[] {
  return [...state.callBacks.values()].sort(byTurn)
}

/** What whoever calls has been promised, the earliest first: whoever answers is to know. */
export function promisedTo(state: ExchangeState, call: Call): CallBack[] {
  if (state.callBacks.isEmpty()) return []
  return openPromises(state).filter(promise => promise.id !== call.callBack && isWith(promise, call))
}
