import type { CallRecord } from '../calls/record'
import { standsFor } from '../calls/story'
import type { Company } from '../company/company'
import { lookUp } from '../company/lookups'

/** A conversation shorter than this (milliseconds) was none: a wrong person, or a greeting. */
export const shortest = 10_000

/** Where a call from outside really ended: who talked with the caller last, for more than a few seconds. Times are milliseconds since 1970. */
export interface Conversation {
  call: string
  /** The caller's number, E.164; null when it was withheld. */
  number: string | null
  /** Which of our lines was called. */
  line: string | null
  at: number
  /** The telephone of whoever talked. */
  device: string
  /** The group or queue to which the call was sent, if it was: whoever of it answered was chance. */
  group: string | null
}

/**
 * What is learned from a call that is over: nothing of calls inside and outward, of those that nobody had, of mailboxes, of words too short,
 * and of those that operators dealt with themselves.
 */
export function conversationOf(company: Company, record: CallRecord): Conversation | null {
  const { id, direction, number, line, endedAt, outcome, story } = record
  if (direction !== 'inbound' || endedAt === null || outcome !== 'answered') return null
  const index = story.findLastIndex((_step, at) => meets(company, story, at) !== null)
  const talk = story[index]
  const device = talk && meets(company, story, index)
  if (!talk || !device) return null
  const operators = lookUp(company.groups, company.settings.operators)
  if (operators?.members.includes(device) || endedAt - talk.at < shortest) return null
  const sent = story.slice(0, index).findLast(({ type, to }) => to !== undefined && (type === 'transferred' || type === 'diverted' || type === 'forwarded'))
  const group = sent?.to ? lookUp(company.groups, sent.to) : undefined
  const queue = group ?? lookUp(company.groups, story.slice(0, index).findLast(({ type }) => type === 'queued')?.device ?? '')
  return {
    call: id, number, line, at: talk.at, device,
    group: queue && queue.id !== company.settings.operators && queue.members.includes(device) ? queue.id : null,
  }
}

/** The telephone at which somebody begins to talk with the caller in this step, if any. */
function meets(company: Company, story: CallRecord['story'], at: number): string | null {
  const { type, to } = story[at]!
  const device = standsFor(story, story[at]!.device)
  if (type === 'established' && lookUp(company.telephones, device)) return device
  // An announced transfer ends with whoever was asked; a blind one goes on in the next step.
  const next = story[at + 1]
  const announced = type === 'transferred' && to && lookUp(company.telephones, to) && !(next && goesOn.includes(next.type))
  return announced ? to : null
}

const goesOn: readonly string[] = ['delivered', 'queued', 'failed', 'diverted', 'forwarded', 'refused', 'established']
