import type { DeviceId, LineId, TrunkId } from '../calls/model'

/**
 * The company that an exchange serves: its people and their telephones, lines, groups, queues, park slots and trunks, and the rules that hold for them.
 * Plain data that survives JSON unchanged; changed by administrators while calls go on. All durations are milliseconds.
 */
export interface Company {
  /** Counts the changes: of two configurations the one with the higher number is newer. 0 is no company at all. */
  version: number
  sites: Record<string, Site>
  departments: Record<string, Department>
  people: Record<PersonId, Person>
  telephones: Record<DeviceId, Telephone>
  groups: Record<DeviceId, Group>
  lines: Record<LineId, Line>
  trunks: Record<TrunkId, Trunk>
  slots: Record<DeviceId, Slot>
  shortNumbers: Record<string, ShortNumber>
  hours: Record<string, OpeningHours>
  settings: Settings
}

/** A person's key: it stays, whatever their name, department or number. */
export type PersonId = string

export interface Site {
  id: string
  name: string
  /** Among the others, from 0. */
  position: number
}

export interface Department {
  id: string
  name: string
  site: string
  /** What people call about, in the words that callers use. */
  handles: string[]
  /** Among the others, from 0. */
  position: number
}

/** Somebody who works here. They have no, one or several telephones. */
export interface Person {
  id: PersonId
  first: string
  last: string
  nickname: string | null
  department: string
  role: string
  room: string
  /** E.164, for those who carry one. */
  mobile: string | null
}

export interface Telephone {
  id: DeviceId
  /** Whose it is; null for one that belongs to a place. */
  person: PersonId | null
  /** Of several telephones of one person: which stands for them, the lowest first. */
  rank: number
  /** Whose it is, or where it stands, as people say it. */
  name: string
  /** The short number that reaches it from inside. */
  number: string
  /** How many calls it can have at once; a call more finds it busy. */
  capacity: number
  inService: boolean
  /** Colleagues of one pickup group may take each other's ringing calls. */
  pickupGroup: string
  /** The direct number that reaches it from outside, E.164; null when it has none. */
  direct: string | null
}

/** How a group gives a call to its members: all wait in one queue; rings the one who has been free longest; rings everybody free at once. */
export const distributions = ['queue', 'longestFree', 'all'] as const
export type Distribution = typeof distributions[number]

export interface Group {
  id: DeviceId
  name: string
  /** The short number that reaches it from inside. */
  number: string
  members: DeviceId[]
  distribution: Distribution
  /** Of a group that rings one member after the other: how many are tried. */
  tries: number
  /** Whose people it is made of, when it is a department's: what they handle is what it handles. */
  department: string | null
  /** Of a queue: how long a call waits in it at most, and where it goes then. */
  overflow: Overflow
  /** When it is open; null: always. */
  hours: string | null
}

/** Where a call goes that has waited so long (milliseconds): an extension, a group, a queue, a mailbox, or an outside number. */
export interface Overflow {
  after: number
  to: string
}

/** A number of ours, where its calls go, where they go when nobody serves it, and where after they have waited too long. */
export interface Line {
  id: LineId
  name: string
  /** E.164. */
  number: string
  /** Within which a call on this line is promised an answer. */
  promise: number
  /** What the operator says, after the greeting for the time of day. */
  greeting: string
  target: DeviceId
  night: string
  overflow: Overflow
  /** When it is open; null: always. */
  hours: string | null
}

/** When lines and queues are open: the week, and the days on which they are closed all the same. */
export interface OpeningHours {
  id: string
  name: string
  /** Of the IANA time zone database, for example "Europe/London". */
  zone: string
  week: OpeningSpan[]
  holidays: Holiday[]
}

/** Open from one minute of a day to another, by the clock of the place. */
export interface OpeningSpan {
  /** 1 is Monday, 7 Sunday (ISO 8601). */
  day: number
  /** Minutes since midnight, to 1440. */
  opens: number
  closes: number
}

export interface Holiday {
  /** For example "2026-12-25" (ISO 8601). */
  date: string
  name: string
}

/** A short number of the network, such as an emergency number: read before our own plan of numbers. */
export interface ShortNumber {
  number: string
  name: string
  /** Always gets through: it takes a channel that is kept for it, or that of a call that can best be spared. */
  emergency: boolean
}

/** A place where a caller waits for anybody to take the call. */
export interface Slot {
  id: DeviceId
  /** The short number that takes the call from any telephone. */
  number: string
}

export interface Trunk {
  id: TrunkId
  channels: number
  /** How many of the channels are kept for emergency calls. */
  kept: number
}

export interface Settings {
  /** One cycle of ringing, to say a time as a number of rings. */
  ringCycle: number
  /** A transferred call that nobody answers comes back after this long. */
  transferRecall: number
  /** A direct call that nobody answers is moved on after this long. */
  noAnswer: number
  /** A call passed on to a queue comes back after this long. */
  queueRecall: number
  /** A parked call that nobody takes comes back after this long. */
  parkRecall: number
  /** How long the tone after a failed call lasts. */
  failedTone: number
  /** Callers on hold with an operator who has gone are offered to the others after this long. */
  absence: number
  /** Whom a colleague has on hold longer than this rings at the colleague again, and then goes to the operators. */
  holdRecall: number
  /** Whom an operator, or somebody who asks a third party meanwhile, has on hold longer than this is offered to the other operators. */
  holdLimit: number
  /** A call without a line or a queue of its own waits for the operators this long at most. */
  overflow: number
  /** Two parties outside stay this long in view of whoever brought them together. */
  outsideWatch: number
  /** Two parties outside without anybody of ours are parted after this long. */
  outsideLongest: number
  /** A mailbox takes this much of a message at most. */
  longestMessage: number
  /** The most parties to one conference. */
  conferenceSize: number
  /** The group that unanswered and returning calls go to. */
  operators: DeviceId
}

/** A company of which nothing is known yet. */
export const nobody: Company = {
  version: 0, sites: {}, departments: {}, people: {}, telephones: {}, groups: {}, lines: {}, trunks: {}, slots: {}, shortNumbers: {}, hours: {},
  settings: {
    ringCycle: 5_000, transferRecall: 20_000, noAnswer: 30_000, queueRecall: 60_000, parkRecall: 90_000, failedTone: 5_000, absence: 30_000,
    holdRecall: 180_000, holdLimit: 900_000, overflow: 180_000, outsideWatch: 300_000, outsideLongest: 2 * 60 * 60_000, longestMessage: 120_000,
    conferenceSize: 8, operators: 'operators',
  },
}
