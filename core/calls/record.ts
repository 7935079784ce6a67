import type { InferType } from 'yup'
import type { Call, ExchangeState, Step } from './model'
import { deviceName, isMailbox } from './names'
import { connectionOf } from './questions'
import { standsFor } from './story'
import type { callRecord } from './recorded'

/**
 * What became of a call. `joined`: it became part of another. `gaveUp`: it was answered, and later the caller hung up while nobody talked with them.
 * `promised`: the caller has left and is to be called back. `voicemail`: nobody but a mailbox had it. `lost`: the exchange lost it; nobody knows what became
 * of the caller.
 */
export const outcomes = ['live', 'answered', 'joined', 'missed', 'promised', 'gaveUp', 'voicemail', 'blocked', 'notReached', 'lost'] as const
export type Outcome = typeof outcomes[number]

/** Calls that nobody of ours talked with to the end, and which somebody has to look at. */
export const missedOutcomes = ['missed', 'gaveUp', 'lost'] as const satisfies Outcome[]

/** One call for the log. */
export type CallRecord = InferType<typeof callRecord>

/**
 * The record of a call as it stands.
 * @param end the last step, when the call is over
 */
export function recordOf(state: ExchangeState, call: Call, end: Step | null): CallRecord {
  const story = end ? [...call.story, end] : call.story
  const caller = connectionOf(call, call.calling)?.party ? null : state.company.telephones[story[0]!.device]
  const { party } = call
  const ours = [...new Set(story.flatMap(step => (step.to ? [step.device, step.to] : [step.device])))].filter(
    device => deviceName(state.company, device) !== null,
  )
  const answers = story.filter(step => step.type === 'established' && !isMailbox(step.device))
  const mailbox = story.some(step => step.type === 'established' && isMailbox(step.device))
  const byUs = answers.map(step => standsFor(story, step.device)).filter(device => state.devices.has(device))
  return {
    id: call.id,
    epoch: state.epoch,
    direction: call.direction,
    number: party?.number ?? (call.direction === 'internal' ? caller?.number ?? null : null),
    name: party?.name ?? (call.direction === 'internal' ? caller?.name ?? null : null),
    dialled: call.dialled,
    line: call.line,
    startedAt: call.created,
    answeredAt: answers[0]?.at ?? null,
    endedAt: end?.at ?? null,
    outcome: end ? outcomeOf(call, end, answers.length > 0, mailbox) : 'live',
    answeredBy: byUs[0] ?? null,
    endedWith: byUs.at(-1) ?? null,
    account: call.account,
    devices: ours,
    numbers: ours.flatMap(device => state.company.telephones[device]?.number ?? []),
    names: Object.fromEntries(ours.map(device => [device, deviceName(state.company, device)!])),
    story,
  }
}

function outcomeOf(call: Call, end: Step, answered: boolean, mailbox: boolean): Outcome {
  if (end.cause === 'blocked') return 'blocked'
  if (answered) return call.gaveUp && call.direction === 'inbound' ? 'gaveUp' : 'answered'
  if (mailbox) return 'voicemail'
  if (end.cause === 'callBack') return 'promised'
  return call.direction === 'inbound' ? 'missed' : 'notReached'
}
