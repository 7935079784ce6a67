import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import type { Company } from '../company/company'
import { lookUp } from '../company/lookups'
import type { Conversation } from './conversation'

/**
 * Where a caller is likely to belong, learned from where such calls ended.
 *
 * What the number itself says is trusted the more the more often it called; else what its company says, then its line at such an hour, then everybody:
 *
 *   p(d | number) = (n(number, d) + m · p(d | company)) / (n(number) + m), and so on down,
 *
 * the hierarchical Dirichlet estimate of D. MacKay and L. Peto, "A hierarchical Dirichlet language model", Natural Language Engineering 1 (1995).
 * n counts conversations, each weighing 2^(-age / half-life), so that a habit which has changed is soon forgotten.
 */

const day = 24 * 60 * 60_000
const hour = 60 * 60_000

/** How many conversations what is known in general is worth beside what is known in particular. */
const prior = { number: 0.8, company: 1.5, line: 6 }
/** After so long a conversation weighs half: habits of one caller change faster than those of everybody. */
const halfLife = { number: 14 * day, company: 21 * day, line: 60 * day }
/** Calls on a line at other hours and weekdays say less: the width of the hours that count, and what another kind of day is worth. */
const nearHours = 1.5
const otherDay = 0.4
/** Somebody stands for themselves when so much of what goes to their group goes to them. */
const ownShare = 0.5
/** What is less likely than this is not said. */
const leastChance = 0.05
/** So many of the latest conversations are counted in the reason. */
const toldOf = 12

/** What is known, newest first: the conversations of this number, of its company (with those of the number), of its line, of everybody lately. */
export interface Experience {
  number: readonly Conversation[]
  company: readonly Conversation[]
  line: readonly Conversation[]
}

/** Whose call it is: names for the reason, and when it comes (milliseconds since 1970, in the company's local time). */
export interface CallAtHand {
  caller: string
  company: string | null
  line: string | null
  lineName: string
  now: number
}

export interface Likely {
  /** A telephone, a group or a queue. */
  destination: string
  /** How likely, from 0 to 1. */
  chance: number
  /** "7 of 9 calls from Northgate Stores went to Freight". */
  because: Phrase
}

type Weights = Map<string, number>

/** The likeliest destinations, the best first; none when too little is known. */
export function likelyDestinations(company: Company, experience: Experience, call: CallAtHand, nameOf: (destination: string) => Spoken, most = 3): Likely[] {
  const known: Experience = {
    number: standing(company, experience.number),
    company: standing(company, experience.company),
    line: standing(company, experience.line),
  }
  const line = weigh(known.line, ({ at }) => decay(call.now - at, halfLife.line) * atSuchATime(at, call.now))
  const general = shares(line, new Map(), 0)
  const ofLine = shares(line, general, prior.line)
  const ofCompany = shares(weigh(known.company, ({ at }) => decay(call.now - at, halfLife.company)), ofLine, prior.company)
  const ofNumber = shares(weigh(known.number, ({ at }) => decay(call.now - at, halfLife.number)), ofCompany, prior.number)
  const places = roll(company, ofNumber)
  return [...places]
    .filter(([, chance]) => chance >= leastChance)
    .sort(([a, x], [b, y]) => y - x || (a < b ? -1 : 1))
    .slice(0, most)
    .map(([destination, chance]) => ({ destination, chance, because: reason(company, destination, known, call, nameOf) }))
}

/** Conversations with whoever can still be reached; a group that is no more does not stand for whoever answered. */
function standing(company: Company, conversations: readonly Conversation[]): Conversation[] {
  return conversations.flatMap((conversation) => {
    if (conversation.group !== null && lookUp(company.groups, conversation.group)) return [conversation]
    return lookUp(company.telephones, conversation.device)?.person ? [{ ...conversation, group: null }] : []
  })
}

/** Whoever answered for a group counts as the group. */
const endOf = ({ group, device }: Conversation): string => group ?? device

function decay(age: number, half: number): number {
  return 2 ** (-Math.max(0, age) / half)
}

/** How much a call at another time says about one at this: the hour as a bell around this one, round the clock; working days and weekends apart. */
function atSuchATime(at: number, now: number): number {
  const apart = Math.abs(((at - now) % day + day) % day) / hour
  const hours = Math.min(apart, 24 - apart)
  const sameDay = new Date(at).getUTCDay() === new Date(now).getUTCDay() ? 1 : otherDay
  return sameDay * Math.exp(-(hours * hours) / (2 * nearHours * nearHours))
}

function weigh(conversations: readonly Conversation[], weight: (conversation: Conversation) => number): Weights {
  const sums: Weights = new Map()
  for (const conversation of conversations) {
    const end = endOf(conversation)
    sums.set(end, (sums.get(end) ?? 0) + weight(conversation))
  }
  return sums
}

/** Counts and what is known in general, together, as shares of one. */
function shares(counts: Weights, general: Weights, worth: number): Weights {
  const total = [...counts.values()].reduce((sum, count) => sum + count, 0)
  const whole = total + (general.size > 0 ? worth : 0)
  if (whole === 0) return general
  const ends = new Set([...counts.keys(), ...general.keys()])
  return new Map([...ends].map(end => [end, ((counts.get(end) ?? 0) + worth * (general.get(end) ?? 0)) / whole]))
}

/** The department to which a destination belongs, if any. */
export function departmentOf(company: Company, destination: string): string | null {
  const group = lookUp(company.groups, destination)
  return group ? group.department : lookUp(company.people, lookUp(company.telephones, destination)?.person ?? '')?.department ?? null
}

interface Shared { groups: [string, number][], members: [string, number][] }

/**
 * Callers who talk now with this colleague and now with that one belong to their department, by the group or queue that is mostly used for it;
 * who always asks for one, to that one.
 */
function roll(company: Company, chances: Weights): Weights {
  const departments = new Map<string, Shared>()
  const places: Weights = new Map()
  for (const [end, chance] of chances) {
    const department = departmentOf(company, end)
    const group = Object.values(company.groups).find(one => department !== null && one.department === department && one.distribution !== 'queue')
    if (department === null || !group) {
      places.set(end, chance)
      continue
    }
    const shared = departments.get(department) ?? { groups: [[group.id, 0]], members: [] }
    if (lookUp(company.groups, end)) shared.groups.push([end, chance])
    else shared.members.push([end, chance])
    departments.set(department, shared)
  }
  for (const { groups, members } of departments.values()) {
    const total = [...groups, ...members].reduce((sum, [, chance]) => sum + chance, 0)
    const apart = members.filter(([, chance]) => chance >= ownShare * total)
    for (const [device, chance] of apart) places.set(device, chance)
    const [usual] = groups.reduce((most, group) => group[1] > most[1] ? group : most)
    places.set(usual, total - apart.reduce((sum, [, chance]) => sum + chance, 0))
  }
  return places
}

/** Why, in words that can be checked in the log: from the narrowest circle that says something. */
function reason(company: Company, destination: string, known: Experience, call: CallAtHand, nameOf: (destination: string) => Spoken): Phrase {
  const fits = (conversation: Conversation) => {
    const end = endOf(conversation)
    return end === destination || (lookUp(company.groups, destination) && departmentOf(company, end) === departmentOf(company, destination))
  }
  const name = nameOf(destination)
  const circles = [
    { conversations: known.number, key: 'likely.callsFrom', whose: call.caller },
    { conversations: known.company, key: 'likely.callsFrom', whose: call.company },
    { conversations: known.line, key: 'likely.callsOnThe', whose: call.lineName },
  ] as const
  for (const { conversations, key, whose } of circles) {
    const latest = conversations.slice(0, toldOf)
    const count = latest.filter(fits).length
    if (count > 0) return phrase(key, { some: count, all: latest.length, whose: whose ?? '', name })
  }
  return phrase('likely.oftenGoTo', { line: call.lineName, name })
}
