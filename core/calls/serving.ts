import type { Call, DeviceId, ExchangeState, NumberedEvent, Step } from './model'

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
