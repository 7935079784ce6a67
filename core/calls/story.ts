import type { Cause, Consulted, DeviceId, Recall, Step } from './model'
import { isMailbox, isSlot } from './names'
import type { PlainKey, Speaker } from '../../words/speaker'

/** How a device is called in a sentence. */
export type Namer = (device: DeviceId) => string

const whyNot: Record<Cause, PlainKey> = {
  noAnswer: 'story.didNotAnswer',
  busy: 'story.wasOnTheTelephone',
  doNotDisturb: 'story.hadDoNotDisturbOn',
  outOfService: 'story.hadNoTelephoneConnected',
  declined: 'story.declined',
  trunksBusy: 'story.couldNotBeReachedEvery',
  normalClearing: 'story.hungUp',
  abandoned: 'story.gaveUp',
  exchangeLost: 'story.wasLostWhenTheExchange',
  unfetched: 'story.wasNotTaken',
  unattended: 'story.wasLeftOnHold',
  nobodyServes: 'story.wasNotServedByAnybody',
  closed: 'story.wasClosed',
  blocked: 'story.isBlocked',
  overflow: 'story.letTheCallWaitToo',
  longHold: 'story.leftTheCallerOnHold',
  preempted: 'story.gaveWayToAnEmergency',
  tooLong: 'story.talkedOutsideForTooLong',
  withdrawn: 'story.wasRungNoLonger',
  callBack: 'story.leftToBeCalledBack',
  ledOn: 'story.ledOnByAKey',
}

/** A time as a number of rings, at least one. */
export function ringsIn(ms: number, ringCycle: number): number {
  return Math.max(1, Math.round(ms / ringCycle))
}

function rings(t: Speaker, ms: number, ringCycle: number): string {
  const count = ringsIn(ms, ringCycle)
  return t('story.countRing', { count })
}

/** Why a call is back, in one line: "Marit Varrow did not answer, 4 rings". */
export function tellRecall(t: Speaker, recall: Recall, nameOf: Namer, ringCycle: number): string {
  const { cause, from, rang } = recall
  if (cause === 'unfetched') return t('story.nobodyCameTo', { name: nameOf(from) })
  if (cause === 'unattended') return t('story.hasGoneAndLeftThe', { name: nameOf(from) })
  return `${nameOf(from)} ${t(whyNot[cause])}${cause === 'noAnswer' ? `, ${rings(t, rang, ringCycle)}` : ''}`
}

/** How asking somebody ended while the caller waited: "Marit Varrow declined". */
export function tellConsulted(t: Speaker, { device, cause, rang }: Consulted, nameOf: Namer, ringCycle: number): string {
  return `${nameOf(device)} ${t(whyNot[cause])}${cause === 'noAnswer' ? `, ${rings(t, rang, ringCycle)}` : ''}`
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
export function tellStory(t: Speaker, story: readonly Step[], nameOf: Namer): Sentence[] {
  const named: Namer = (device) => {
    const owner = standsFor(story, device)
    return owner === device ? nameOf(device) : t('story.nameMobile', { name: nameOf(owner) })
  }
  const told = story.flatMap((step, index) => {
    const text = tellStep(t, step, story[index - 1], named)
    return text ? [{ at: step.at, text }] : []
  })
  return told.map((line, index) => ({ ...line, lasted: told[index + 1] ? told[index + 1]!.at - line.at : null }))
}

function tellStep(t: Speaker, step: Step, before: Step | undefined, nameOf: Namer): string | null {
  const who = nameOf(step.device)
  switch (step.type) {
    case 'originated': return t('story.whoCalled', { who })
    case 'queued': return before?.type === 'diverted' ? null : t('story.waitedFor', { who })
    case 'delivered': return before?.type === 'transferred' ? null : t('story.rangAt', { who })
    case 'established':
      if (isMailbox(step.device)) return t('story.tookAMessage', { who })
      return step.to ? t(isSlot(step.to) ? 'story.whoTookItFrom' : 'story.whoTookItUp', { who, name: nameOf(step.to) }) : t('story.whoAnswered', { who })
    case 'held': return t('story.putTheCallOnHold', { who })
    case 'retrieved': return t('story.tookItBack', { who })
    case 'parked': return t('story.putTheCallerInto', { who, name: nameOf(step.to!) })
    case 'consulted': return t('story.whoAskedName', { who, name: nameOf(step.to!) })
    case 'conferenced': return t('story.joinedEverybodyToAConference', { who })
    case 'forwarded': return t('story.sendsCallsOnTo', { who, name: nameOf(step.to!) })
    case 'prompted': return t('story.rangAtToCallBack', { who })
    case 'promptAnswered': return t('story.calledBack', { who })
    case 'putFirst': return t('story.putTheCallerFirst', { who })
    case 'putLast': return t('story.putTheCallerLast', { who })
    case 'listeningBegun': return t('story.listensToName', { who, name: nameOf(step.to!) })
    case 'listeningEnded': return t('story.listensNoMore', { who })
    case 'whisperBegun': return t('story.whispers', { who })
    case 'whisperEnded': return t('story.whispersNoMore', { who })
    case 'intruded': return t('story.joinsTheCall', { who })
    case 'recordingStarted': return t('story.recordsTheCall', { who })
    case 'recordingStopped': return t('story.recordsNoMore')
    case 'refused': return t('story.leftItToTheOthers', { who })
    case 'transferred': return t('story.passedItOnTo', { who, name: nameOf(step.to!) })
    case 'diverted': return t('story.onTo', { who, why: t(whyNot[step.cause!]), name: nameOf(step.to!) })
    case 'failed': return `${who} ${t(whyNot[step.cause!])}`
    case 'connectionCleared': return `${who} ${t(whyNot[step.cause!])}`
    case 'callCleared': return before?.type === 'connectionCleared' || before?.type === 'failed' ? null : t('story.overWhyNot', { why: t(whyNot[step.cause!]) })
  }
}

/** Why somebody could not be reached, for the one who called: "is on the telephone". */
export const whyFailed: Partial<Record<Cause, PlainKey>> = {
  noAnswer: 'story.didNotAnswer',
  busy: 'story.isOnTheTelephone',
  doNotDisturb: 'story.hasDoNotDisturbOn',
  outOfService: 'story.hasNoTelephoneConnected',
  declined: 'story.declined',
}
