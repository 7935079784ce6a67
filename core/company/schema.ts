import '../schema/wording'
import { array, boolean, type InferType, type ISchema, number, object, type ObjectSchema, type Schema, string } from 'yup'
import { type CompanyChange, parts } from './changes'
import { type Company, distributions, pageRanks, pagingRights, ringings } from './company'
import { levelKinds } from '../figures/level-kinds'
import { oneOfBy, recordOf } from '../schema/shapes'

/**
 * The company that an exchange serves: its people and their telephones, lines, groups, queues, park slots and trunks, and the rules that hold for them.
 * Plain data that survives JSON unchanged; changed by administrators while calls go on. All durations are milliseconds.
 * One schema for each thing that it is made of: the types in `company.ts` follow from them.
 */

const text = (longest = 200) => string().strict().max(longest).defined()
const id = string().strict().min(1).max(80).required()
const whole = number().strict().integer().min(0).max(2_000_000_000).required()
/** Where a call goes that has waited so long: an extension, a group, a queue, a mailbox, or an outside number. */
const overflow = object({ after: whole, to: id }).required()
/** When a line or queue is open; null: always. */
const openAt = id.nullable().defined()

const site = object({
  id,
  name: text(),
  /** Among the others, from 0. */
  position: whole,
})

const department = object({
  id,
  name: text(),
  site: id,
  /** What people call about, in the words that callers use. */
  handles: array(text().required()).required(),
  /** Among the others, from 0. */
  position: whole,
})

/** Somebody who works here. They have no, one or several telephones; their key stays, whatever their name, department or number. */
const person = object({
  id,
  first: text(),
  last: text(),
  nickname: text().nullable(),
  /** The last name they had before. */
  former: text().nullable().defined(),
  department: id,
  role: text(),
  room: text(),
  /** E.164, for those who carry one. */
  mobile: text(20).nullable(),
  /** Languages that they speak, beside English. */
  languages: array(text(40).required()).required(),
  /** How the name is said, for who has never heard it; empty: as it is written. */
  said: text(120),
  /** What colleagues should know who put callers through. */
  note: text(400),
  /** Who stands in for them, in the order in which they are asked. */
  deputies: array(id).required(),
})

const telephone = object({
  id,
  /** Whose it is; null for one that belongs to a place. */
  person: id.nullable().defined(),
  /** Of several telephones of one person: which stands for them, the lowest first. */
  rank: whole,
  /** Whose it is, or where it stands, as people say it. */
  name: text(),
  /** The short number that reaches it from inside. */
  number: text(20),
  /** How many calls it can have at once; a call more finds it busy. */
  capacity: whole,
  inService: boolean().strict().required(),
  /** Colleagues of one pickup group may take each other's ringing calls. */
  pickupGroup: text(),
  /** The direct number that reaches it from outside, E.164; null when it has none. */
  direct: text(20).nullable(),
  /** Of an operator: up to which rank they may page from it. */
  mayPage: string().oneOf(pagingRights).required(),
})

const group = object({
  id,
  name: text(),
  /** The short number that reaches it from inside. */
  number: text(20),
  members: array(id).required(),
  distribution: string().oneOf(distributions).required(),
  /** Of a group that rings one member after the other: how many are tried. */
  tries: whole,
  /** Whose people it is made of, when it is a department's: what they handle is what it handles. */
  department: id.nullable().defined(),
  /** Of a queue: within which a call in it is promised an answer. */
  promise: whole,
  /** Of a queue: for how long after a call of it a member gets no other. */
  wrapUp: whole,
  /** Those of its members who may join and leave by themselves; the others always belong to it. */
  voluntary: array(id).required(),
  /** Of a queue: how it rings its members, and for how long each. `tries` are so many, then the call goes on as after the longest wait; 0: no end. */
  ringing: string().oneOf(ringings).required(),
  ringTime: whole,
  /** Of a queue that rings its members: who lets so many calls ring in a row is paused; 0: nobody is. */
  pauseAfter: whole,
  /** How skilled members are for it; who is not named stands at 0. */
  skills: recordOf(whole.max(9)),
  /** Of a queue: every so often whoever waits hears their place and about how long it takes; 0: never. */
  tellEvery: whole,
  /** What callers hear when it is closed, before they go on; empty: nothing. */
  closedText: text(300),
  /** Of a queue: so many wait in it at most, whoever comes then goes on as after the longest wait; 0: no end. */
  mostWaiting: whole,
  /** Of a queue: with this key whoever waits in it leaves their place to be called back; empty: it is not offered. */
  callBackDigit: text(1).matches(/^[0-9*#]?$/, ({ path }) => `${path} is a key of a telephone: 0 to 9, * or #; or nothing.`),
  /** Of a queue: how long a call waits in it at most, and where it goes then. */
  overflow,
  hours: openAt,
})

/** Said on a line instead of the usual greeting, from a minute of the day on; `language`: to callers of that language, empty to all. */
const greeting = object({
  language: text(40),
  /** Minutes since midnight, by the clock of the house. */
  from: whole.max(1439),
  text: text(200).min(1),
})

/** A number of ours, where its calls go, where they go when nobody serves it, and where after they have waited too long. */
const line = object({
  id,
  name: text(),
  /** E.164. */
  number: text(20),
  /** Within which a call on this line is promised an answer. */
  promise: whole,
  /** What the operator says, after the greeting for the time of day. */
  greeting: text(),
  greetings: array(greeting).max(60).required(),
  target: id,
  night: id,
  overflow,
  /** What callers hear when it is closed, before they go on; empty: nothing. */
  closedText: text(300),
  hours: openAt,
})

const trunk = object({
  id,
  channels: whole,
  /** How many of the channels are kept for emergency calls. */
  kept: whole,
})

/** A place where a caller waits for anybody to take the call. */
const slot = object({
  id,
  /** The short number that takes the call from any telephone. */
  number: text(20),
})

/** A short number of the network, such as an emergency number: read before our own plan of numbers. */
const shortNumber = object({
  number: text(20),
  name: text(),
  /** Always gets through: it takes a channel that is kept for it, or that of a call that can best be spared. */
  emergency: boolean().strict().required(),
})

/** Open from one minute of a day to another, by the clock of the place. */
const openingSpan = object({
  /** 1 is Monday, 7 Sunday (ISO 8601). */
  day: whole.min(1).max(7),
  /** Minutes since midnight, to 1440. */
  opens: whole.max(1440),
  closes: whole.max(1440),
})

const holiday = object({
  /** For example "2026-12-25" (ISO 8601). */
  date: text(10),
  name: text(),
})

/** When lines and queues are open: the week, and the days on which they are closed all the same. */
const openingHours = object({
  id,
  name: text(),
  /** Of the IANA time zone database, for example "Europe/London". */
  zone: text(),
  week: array(openingSpan).required(),
  holidays: array(holiday).required(),
})

/** Loudspeakers that sound together; two zones that share one can't sound at the same time. */
const zone = object({
  id,
  name: text(),
  /** The short number that reaches it from inside. */
  number: text(20),
  site: id,
  speakers: array(text(80).min(1).required()).min(1).required(),
  /** Among the others, from 0. */
  position: whole,
})

/** A text at hand to be read out. */
const standingAnnouncement = object({
  id,
  occasion: text(80),
  text: text(600),
  rank: string().oneOf(pageRanks).required(),
  /** It must be said twice. */
  twice: boolean().strict().required(),
  /** Among the others, from 0. */
  position: whole,
})

/** Whoever can be reached for something at any hour: a roster says who it is in turn. */
const duty = object({
  id,
  name: text(),
  /** What it is asked for, in the words that people use. */
  handles: array(text().required()).required(),
  /** Whom to reach when nobody is on duty: an extension, a group, a queue, a mailbox, or an outside number. */
  instead: id,
  /** Among the others, from 0. */
  position: whole,
})

/** What a call outside is put down to. */
const accountCode = object({
  id,
  /** As it is typed. */
  code: text(24).min(1),
  name: text(80),
})

const settings = object({
  /** The clock of the house: of the IANA time zone database. */
  zone: text(),
  /** One cycle of ringing, to say a time as a number of rings. */
  ringCycle: whole,
  /** A transferred call that nobody answers comes back after this long. */
  transferRecall: whole,
  /** A direct call that nobody answers is moved on after this long. */
  noAnswer: whole,
  /** A call passed on to a queue comes back after this long. */
  queueRecall: whole,
  /** A parked call that nobody takes comes back after this long. */
  parkRecall: whole,
  /** How long the tone after a failed call lasts. */
  failedTone: whole,
  /** Callers on hold with an operator who has gone are offered to the others after this long. */
  absence: whole,
  /** Whom a colleague has on hold longer than this rings at the colleague again, and then goes to the operators. */
  holdRecall: whole,
  /** Whom an operator, or somebody who asks a third party meanwhile, has on hold longer than this is offered to the other operators. */
  holdLimit: whole,
  /** A call without a line or a queue of its own waits for the operators this long at most. */
  overflow: whole,
  /** Two parties outside stay this long in view of whoever brought them together. */
  outsideWatch: whole,
  /** Two parties outside without anybody of ours are parted after this long. */
  outsideLongest: whole,
  /** A mailbox takes this much of a message at most. */
  longestMessage: whole,
  /** The most parties to one conference. */
  conferenceSize: whole,
  /** The group that unanswered and returning calls go to. */
  operators: id,
  /** A page closes when its speaker has not been heard for so long. */
  pageSilence: whole,
  /** Why members of a queue pause. */
  pauseReasons: array(text(80).min(1).required()).required(),
  /** How long a page waits for loudspeakers on which somebody else speaks. */
  pageWait: whole,
  /** A page of this rank and above is heard in spite of do not disturb. */
  pageOverDoNotDisturb: string().oneOf(pageRanks).required(),
  /** The zone or group that is one key away; null: none. */
  pageDefault: id.nullable().defined(),
  /** Calls outside are put down to codes of the list only, or to none. */
  listedCodesOnly: boolean().strict().required(),
  /** How often whoever is to be called back is rung, and how long after one time the next. */
  callBackTries: whole.min(1).max(20),
  callBackAgain: whole,
  /** Of whom the service level is counted, and within which time who gives up does not count. */
  serviceLevel: string().oneOf(levelKinds).required(),
  shortAbandon: whole,
}).required()

/** The parts that hold things by their ids. */
const things = {
  sites: site, departments: department, people: person, telephones: telephone, groups: group, lines: line, trunks: trunk, slots: slot,
  shortNumbers: shortNumber, hours: openingHours, zones: zone, announcements: standingAnnouncement, duties: duty,
  accountCodes: accountCode,
}

export type Things = { [P in keyof typeof things]: InferType<typeof things[P]> }
export type Settings = InferType<typeof settings>

/** Made once: a large company is told in tens of thousands of changes. */
const changeOf: Record<string, Schema> = {
  ...Object.fromEntries(
    parts.map(part => [part, object({ part: string().oneOf([part]).required(), id, value: things[part].nullable().defined().default(undefined) })]),
  ),
  settings: object({ part: string().oneOf(['settings']).required(), value: settings }),
}

/** One change of the configuration. */
export const companyChange = oneOfBy('part', changeOf) as unknown as ISchema<CompanyChange>

/** The whole configuration, as whoever is signed in may read it. */
export const company = object({
  version: whole,
  ...Object.fromEntries(parts.map(part => [part, recordOf(things[part] as Schema<object>)])),
  settings,
}) as unknown as ObjectSchema<Company>
