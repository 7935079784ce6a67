import type { Call, CallId, DeviceId, ExchangeState, LineId, Step } from './model'
import { connectionOf } from './questions'

/** What became of a call. `lost`: the exchange lost it; nobody knows what became of the caller. */
export const outcomes = ['live', 'answered', 'missed', 'notReached', 'lost'] as const
export type Outcome = typeof outcomes[number]

/** One call for the log, made from its story. Times are milliseconds since 1970. */
export interface CallRecord {
  id: CallId
  epoch: string
  direction: Call['direction']
  /** The outside party's, or the calling extension when the call is internal. */
  number: string | null
  name: string | null
  dialled: string
  line: LineId | null
  startedAt: number
  answeredAt: number | null
  endedAt: number | null
  outcome: Outcome
  /** The first of ours who answered, and whoever had it last. */
  answeredBy: DeviceId | null
  endedWith: DeviceId | null
  /** Every device of ours that had to do with it. */
  devices: DeviceId[]
  /** Names of devices at the time, so that the log outlives changes of staff. */
  names: Record<DeviceId, string>
  story: Step[]
}

/**
 * The record of a call as it stands.
 * @param end the last step, when the call is over
 */
export function recordOf(state: ExchangeState, call: Call, end: Step | null): CallRecord {
  const story = end ? [...call.story, end] : call.story
  const caller = connectionOf(call, call.calling)?.party ? null : state.devices[story[0]!.device]
  const { party } = call
  const ours = [...new Set(story.flatMap(step => step.to ? [step.device, step.to] : [step.device]))].filter(device => state.devices[device] || state.groups[device])
  const answers = story.filter(step => step.type === 'established')
  const byUs = answers.filter(step => state.devices[step.device])
  return {
    id: call.id,
    epoch: state.epoch,
    direction: call.direction,
    number: party?.number ?? (call.direction === 'internal' ? caller?.id ?? null : null),
    name: party?.name ?? (call.direction === 'internal' ? caller?.name ?? null : null),
    dialled: call.dialled,
    line: call.line,
    startedAt: call.created,
    answeredAt: answers[0]?.at ?? null,
    endedAt: end?.at ?? null,
    outcome: outcomeOf(call, answers.length > 0, end !== null),
    answeredBy: byUs[0]?.device ?? null,
    endedWith: byUs.at(-1)?.device ?? null,
    devices: ours,
    names: Object.fromEntries(ours.map(device => [device, state.devices[device]?.name ?? state.groups[device]!.name])),
    story,
  }
}

function outcomeOf(call: Call, answered: boolean, over: boolean): Outcome {
  if (!over) return 'live'
  if (answered) return 'answered'
  return call.direction === 'inbound' ? 'missed' : 'notReached'
}
