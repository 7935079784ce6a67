import type { Call, DeviceId, ExchangeState, NumberedEvent, Step } from '../calls/model'

/** What is remembered of how members serve their queues. */

/** How much of an average the latest call is. */
const weightOfLatest = 0.2

type Handling = ExchangeState['handling']

/**
 * How long calls of queues last, in milliseconds, after somebody has left one. An exponential moving average (R. G. Brown, 1959): the latest calls weigh most,
 * and nothing but the average itself needs to be kept.
 */
export function handlingAfter(before: Handling, queue: DeviceId, story: readonly Step[], device: DeviceId, at: number): Handling {
  const answered = story.findLast(step => step.type === 'established' && step.device === device)
  if (!answered) return before
  const lasted = at - answered.at
  const average = before.get(queue)
  return before.set(queue, average === undefined ? lasted : Math.round(average + weightOfLatest * (lasted - average)))
}

/** How much less a caller counts than the one after: habits change slowly. */
const fadingOfCallers = 0.99

/**
 * How long callers of a queue bear waiting, after one has left it. If they give up at random, the likeliest patience is all the time that anybody has waited
 * over how many have given up; who was answered or sent on counts with the time waited alone (J. F. Lawless, Statistical Models and Methods for Lifetime
 * Data, 2nd ed. 2003, 4.1).
 * @param waited in milliseconds
 */
export function patienceAfter(before: ExchangeState['patience'], queue: DeviceId, waited: number, gaveUp: boolean): ExchangeState['patience'] {
  const seen = before.get(queue) ?? { waited: 0, gaveUp: 0 }
  return before.set(queue, { waited: seen.waited * fadingOfCallers + waited, gaveUp: seen.gaveUp * fadingOfCallers + Number(gaveUp) })
}

/** What a member's telephone keeps of being rung by queues: when it was last, and how many calls in a row were let ring. */
export function offeredAfter(state: ExchangeState, call: Call, event: NumberedEvent): ExchangeState {
  if (!('call' in event)) return state
  const device = state.devices.get(event.device)
  if (!device) return state
  const rang = call.connections.some(({ device: id, offeredBy }) => id === event.device && offeredBy)
  if (event.type === 'delivered' && event.offered) return { ...state, devices: state.devices.set(event.device, { ...device, offeredAt: event.at }) }
  if (event.type === 'connectionCleared' && event.cause === 'noAnswer' && rang)
    return { ...state, devices: state.devices.set(event.device, { ...device, unanswered: (device.unanswered ?? 0) + 1 }) }
  if ((event.type !== 'established' && event.type !== 'promptAnswered') || !device.unanswered) return state
  const { unanswered: _forgotten, ...answers } = device
  return { ...state, devices: state.devices.set(event.device, answers) }
}
