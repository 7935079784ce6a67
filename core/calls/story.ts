import type { Cause, Consulted, DeviceId, Recall, Step } from './model'
import { isMailbox, isSlot } from './names'

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
  unfetched: 'was not taken',
  unattended: 'was left on hold',
  nobodyServes: 'was not served by anybody',
  closed: 'was closed',
  blocked: 'is blocked',
  overflow: 'let the call wait too long',
  longHold: 'left the caller on hold too long',
  preempted: 'gave way to an emergency call',
  tooLong: 'talked outside for too long',
  withdrawn: 'was rung no longer',
  callBack: 'left, to be called back',
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
  if (cause === 'unfetched') return `nobody came to ${nameOf(from)}`
  if (cause === 'unattended') return `${nameOf(from)} has gone and left the caller on hold`
  return `${nameOf(from)} ${whyNot[cause]}${cause === 'noAnswer' ? `, ${rings(rang, ringCycle)}` : ''}`
}

/** How asking somebody ended while the caller waited: "Marit Varrow declined". */
export function tellConsulted({ device, cause, rang }: Consulted, nameOf: Namer, ringCycle: number): string {
  return `${nameOf(device)} ${whyNot[cause]}${cause === 'noAnswer' ? `, ${rings(rang, ringCycle)}` : ''}`
}

/** One line of a call's story: when, how long until the next, and what, in plain words. */
export interface Sentence {
  at: number
  /** Milliseconds until the next line; null for the last. */
  lasted: number | null
  text: string
}

/** Whose telephone a mobile in a call rang along with; any other device stands for itself. */
export function standsFor(story: readonly Step[], device: DeviceId): DeviceId {
  return story.find(step => step.device === device && step.along !== undefined)?.along ?? device
}

/** A call's story in plain words. A step that says the same as the one before it is left out. */
export function tellStory(story: readonly Step[], nameOf: Namer): Sentence[] {
  const named: Namer = (device) => {
    const owner = standsFor(story, device)
    return owner === device ? nameOf(device) : `${nameOf(owner)} (mobile)`
  }
  const told = story.flatMap((step, index) => {
    const text = tellStep(step, story[index - 1], named)
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
    case 'established':
      if (isMailbox(step.device)) return `${who} took a message`
      return step.to ? `${who} ${isSlot(step.to) ? 'took it from' : 'took it up, it rang at'} ${nameOf(step.to)}` : `${who} answered`
    case 'held': return `${who} put the call on hold`
    case 'retrieved': return `${who} took it back`
    case 'parked': return `${who} put the caller into ${nameOf(step.to!)}`
    case 'consulted': return `${who} asked ${nameOf(step.to!)}`
    case 'conferenced': return `${who} joined everybody to a conference`
    case 'forwarded': return `${who} sends calls on to ${nameOf(step.to!)}`
    case 'prompted': return `rang at ${who}, to call back`
    case 'promptAnswered': return `${who} called back`
    case 'putFirst': return `${who} put the caller first`
    case 'putLast': return `${who} put the caller last`
    case 'refused': return `${who} left it to the others`
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
