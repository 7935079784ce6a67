import type { Cause, DeviceId, Recall, Step } from './model'

/** How a device is called in a sentence. */
export type Namer = (device: DeviceId) => string

const whyNot: Record<Cause, string> = {
  noAnswer: 'did not answer',
  busy: 'was on the telephone',
  doNotDisturb: 'had do not disturb on',
  outOfService: 'had no telephone connected',
  declined: 'declined',
  trunksBusy: 'could not be reached: every line to the outside was in use',
  normalClearing: 'hung up',
  abandoned: 'gave up',
  exchangeLost: 'was lost when the exchange stopped',
}

/** A time as a number of rings, at least one. */
export function ringsIn(ms: number, ringCycle: number): number {
  return Math.max(1, Math.round(ms / ringCycle))
}

function rings(ms: number, ringCycle: number): string {
  const count = ringsIn(ms, ringCycle)
  return `${count} ring${count === 1 ? '' : 's'}`
}

/** Why a call is back, in one line: "Marit Varrow did not answer, 4 rings". */
export function tellRecall(recall: Recall, nameOf: Namer, ringCycle: number): string {
  const { cause, from, rang } = recall
  return `${nameOf(from)} ${whyNot[cause]}${cause === 'noAnswer' ? `, ${rings(rang, ringCycle)}` : ''}`
}

/** One line of a call's story: when, how long until the next, and what, in plain words. */
export interface Line {
  at: number
  /** Milliseconds until the next line; null for the last. */
  lasted: number | null
  text: string
}

/** A call's story in plain words. A step that says the same as the one before it is left out. */
export function tellStory(story: readonly Step[], nameOf: Namer): Line[] {
  const told = story.flatMap((step, index) => {
    const text = tellStep(step, story[index - 1], nameOf)
    return text ? [{ at: step.at, text }] : []
  })
  return told.map((line, index) => ({ ...line, lasted: told[index + 1] ? told[index + 1]!.at - line.at : null }))
}

function tellStep(step: Step, before: Step | undefined, nameOf: Namer): string | null {
  const who = nameOf(step.device)
  switch (step.type) {
    case 'originated': return `${who} called`
    case 'queued': return before?.type === 'diverted' ? null : `waited for ${who}`
    case 'delivered': return before?.type === 'transferred' ? null : `rang at ${who}`
    case 'established': return `${who} answered`
    case 'held': return `${who} put the call on hold`
    case 'retrieved': return `${who} took it back`
    case 'transferred': return `${who} passed it on to ${nameOf(step.to!)}`
    case 'diverted': return `${who} ${whyNot[step.cause!]}: on to ${nameOf(step.to!)}`
    case 'failed': return `${who} ${whyNot[step.cause!]}`
    case 'connectionCleared': return `${who} ${whyNot[step.cause!]}`
    case 'callCleared': return before?.type === 'connectionCleared' || before?.type === 'failed' ? null : `over: ${whyNot[step.cause!]}`
  }
}

/** Why somebody could not be reached, for the one who called: "is on the telephone". */
export const whyFailed: Partial<Record<Cause, string>> = {
  noAnswer: 'did not answer',
  busy: 'is on the telephone',
  doNotDisturb: 'has do not disturb on',
  outOfService: 'has no telephone connected',
  declined: 'declined',
}
