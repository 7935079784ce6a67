import { saying } from '../schema/wording'
import { array, boolean, type InferType, type ISchema, number, object, type ObjectSchema, type Schema, string } from 'yup'
import { type CompanyChange, type Part, parts } from './changes'
import { type Company, distributions, numberClasses, pageRanks, pagingRights, recordingRules, ringings } from './company'
import { levelKinds } from '../figures/level-kinds'
import type { ToneKind } from '../sound/country-tones'
import { readTone } from '../sound/tone'
import { oneOfBy, recordOf } from '../schema/shapes'

/**
 * The company that an exchange serves: its people and their telephones, lines, groups, queues, park slots and trunks, and the rules that hold for them.
 * Plain data that survives JSON unchanged; changed by administrators while calls go on. All durations are milliseconds.
 * One schema for each thing that it is made of: the types in `company.ts` follow from them.
 */

const text = (longest = 200) => string().strict().max(longest).defined()
const id = string().strict().min(1).max(80).required()
const between = (least: number, most: number) => number().strict().integer().min(least).max(most).required()
/** Milliseconds, told as seconds: so many at least, and at most. */
const seconds = (least: number, most: number) => number().strict().integer()
  .min(least * 1_000, saying('input.atLeastSeconds', { min: least, count: least }))
  .max(most * 1_000, saying('input.atMostSeconds', { max: most, count: most }))
  .required()
/** A tone as it is written, or empty: as in the country. */
const tone = text(200).test('tone', saying('input.tone'), written => written === '' || readTone(written) !== null)
/** Among the others, from 0. */
const position = between(0, 1_000_000)
const [hour, day] = [3_600, 86_400]
/** Where a call goes that has waited so long: an extension, a group, a queue, a mailbox, or an outside number. */
const overflow = object({ after: seconds(5, 2 * hour), to: id }).required()
/** When a line or queue is open; null: always. */
const openAt = id.nullable().defined()

const site = object({
  id,
  name: text(),
  position,
})

const department = object({
  id,
  name: text(),
  site: id,
  /** What people call about, in the words that callers use. */
  handles: array(text().required()).required(),
  position,
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
  rank: between(0, 99),
  /** Whose it is, or where it stands, as people say it. */
  name: text(),
  /** The short number that reaches it from inside. */
  number: text(20),
  /** How many calls it can have at once; a call more finds it busy. */
  capacity: between(1, 50),
  inService: boolean().strict().required(),
  /** Colleagues of one pickup group may take each other's ringing calls. */
  pickupGroup: text(),
  /** The direct number that reaches it from outside, E.164; null when it has none. */
  direct: text(20).nullable(),
  /** Of an operator: up to which rank they may page from it. */
  mayPage: string().oneOf(pagingRights).required(),
  /** Of an operator: may listen to calls of others, whisper to colleagues and join. */
  mayListen: boolean().strict().required(),
  /** May record their own calls. */
  mayRecord: boolean().strict().required(),
})

const group = object({
  id,
  name: text(),
  /** The short number that reaches it from inside. */
  number: text(20),
  members: array(id).required(),
  distribution: string().oneOf(distributions).required(),
  /** Of a group that rings one member after the other: how many are tried. */
  tries: between(0, 100),
  /** Whose people it is made of, when it is a department's: what they handle is what it handles. */
  department: id.nullable().defined(),
  /** Of a queue: within which a call in it is promised an answer. */
  promise: seconds(1, 2 * hour),
  /** Of a queue: for how long after a call of it a member gets no other. */
  wrapUp: seconds(0, hour),
  /** Those of its members who may join and leave by themselves; the others always belong to it. */
  voluntary: array(id).required(),
  /** Of a queue: how it rings its members, and for how long each. `tries` are so many, then the call goes on as after the longest wait; 0: no end. */
  ringing: string().oneOf(ringings).required(),
  ringTime: seconds(3, 300),
  /** Of a queue that rings its members: who lets so many calls ring in a row is paused; 0: nobody is. */
  pauseAfter: between(0, 50),
  /** How skilled members are for it; who is not named stands at 0. */
  skills: recordOf(between(0, 9)),
  /** Of a queue: every so often whoever waits hears their place and about how long it takes; 0: never. */
  tellEvery: seconds(0, hour),
  /** What callers hear when it is closed, before they go on; empty: nothing. */
  closedText: text(300),
  /** Of a queue: so many wait in it at most, whoever comes then goes on as after the longest wait; 0: no end. */
  mostWaiting: between(0, 1_000),
  /** Of a queue: with this key whoever waits in it leaves their place to be called back; empty: it is not offered. */
  callBackDigit: text(1).matches(/^[0-9*#]?$/, saying('input.telephoneKey')),
  /** Of a queue: how long a call waits in it at most, and where it goes then. */
  overflow,
  hours: openAt,
})

/** Said on a line instead of the usual greeting, from a minute of the day on; `language`: to callers of that language, empty to all. */
const greeting = object({
  language: text(40),
  /** Minutes since midnight, by the clock of the house. */
  from: between(0, 1439),
  text: text(200).min(1),
})

/** A number of ours, where its calls go, where they go when nobody serves it, and where after they have waited too long. */
const line = object({
  id,
  name: text(),
  /** E.164. */
  number: text(20),
  /** Within which a call on this line is promised an answer. */
  promise: seconds(1, 2 * hour),
  /** What the operator says, after the greeting for the time of day. */
  greeting: text(),
  greetings: array(greeting).max(60).required(),
  target: id,
  night: id,
  overflow,
  /** What callers hear when it is closed, before they go on; empty: nothing. */
  closedText: text(300),
  /** Whether calls on it are recorded: always, never, or when somebody in the call asks. */
  recording: string().oneOf(recordingRules).required(),
  hours: openAt,
})

const trunk = object({
  id,
  /** As people call it. */
  name: text(40),
  channels: between(1, 10_000),
  /** How many of the channels are kept for emergency calls. */
  kept: between(0, 10_000),
})

/** A place where a caller waits for anybody to take the call. */
const slot = object({
  id,
  /** As people call it: "park slot 3" is named 3. */
  name: text(20),
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
  day: between(1, 7),
  /** Minutes since midnight, to 1440. */
  opens: between(0, 1440),
  closes: between(0, 1440),
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
  position,
})

/** A text at hand to be read out. */
const standingAnnouncement = object({
  id,
  occasion: text(80),
  text: text(600),
  rank: string().oneOf(pageRanks).required(),
  /** It must be said twice. */
  twice: boolean().strict().required(),
  position,
})

/** Whoever can be reached for something at any hour: a roster says who it is in turn. */
const duty = object({
  id,
  name: text(),
  /** What it is asked for, in the words that people use. */
  handles: array(text().required()).required(),
  /** Whom to reach when nobody is on duty: an extension, a group, a queue, a mailbox, or an outside number. */
  instead: id,
  position,
})

/** What a call outside is put down to. */
const accountCode = object({
  id,
  /** As it is typed. */
  code: text(24).min(1),
  name: text(80),
})

const settings = object({
  /** What the house is called. */
  name: text(80),
  /** Where it stands (ISO 3166-1, two letters): how numbers are read that name no country, and are written. */
  country: text(2).matches(/^[A-Z]{2}$/, saying('input.country')),
  /** What people speak who answer and name no language. */
  language: text(40).min(1),
  /** The lowest extension: where the house's own numbers begin, and how long they are. */
  firstExtension: text(7).matches(/^\d{2,7}$/, saying('input.firstExtension')),
  /** A number typed inside that is no longer than this is one of the house's own, or of the network's short ones. */
  longestInside: between(3, 7),
  /** The clock of the house: of the IANA time zone database. */
  zone: text(),
  /** One cycle of ringing, to say a time as a number of rings. */
  ringCycle: seconds(1, 15),
  /** A transferred call that nobody answers comes back after this long. */
  transferRecall: seconds(5, 600),
  /** A direct call that nobody answers is moved on after this long. */
  noAnswer: seconds(5, 600),
  /** A call passed on to a queue comes back after this long. */
  queueRecall: seconds(5, 2 * hour),
  /** A parked call that nobody takes comes back after this long. */
  parkRecall: seconds(5, 2 * hour),
  /** How long the tone after a failed call lasts. */
  failedTone: seconds(1, 60),
  /** What callers hear while it rings, when the other talks, when no line is free, and when nobody can be reached; empty: as in the country. */
  tones: object({ ringing: tone, busy: tone, congestion: tone, unobtainable: tone } satisfies Record<ToneKind, Schema>).required(),
  /** Callers on hold with an operator who has gone are offered to the others after this long. */
  absence: seconds(1, hour),
  /** Whom a colleague has on hold longer than this rings at the colleague again, and then goes to the operators. */
  holdRecall: seconds(10, 2 * hour),
  /** Whom an operator, or somebody who asks a third party meanwhile, has on hold longer than this is offered to the other operators. */
  holdLimit: seconds(10, 2 * hour),
  /** A call without a line or a queue of its own waits for the operators this long at most. */
  overflow: seconds(10, 2 * hour),
  /** Two parties outside stay this long in view of whoever brought them together. */
  outsideWatch: seconds(10, day),
  /** Two parties outside without anybody of ours are parted after this long. */
  outsideLongest: seconds(60, 2 * day),
  /** A mailbox takes this much of a message at most. */
  longestMessage: seconds(5, 1_800),
  /** The most parties to one conference. */
  conferenceSize: between(3, 40),
  /** The group that unanswered and returning calls go to. */
  operators: id,
  /** A page closes when its speaker has not been heard for so long. */
  pageSilence: seconds(3, 600),
  /** Why members of a queue pause. */
  pauseReasons: array(text(80).min(1).required()).required(),
  /** How long a page waits for loudspeakers on which somebody else speaks. */
  pageWait: seconds(1, hour),
  /** A page of this rank and above is heard in spite of do not disturb. */
  pageOverDoNotDisturb: string().oneOf(pageRanks).required(),
  /** Everybody in a call hears a short tone when somebody listens in. */
  listeningTone: boolean().strict().required(),
  /** The zone or group that is one key away; null: none. */
  pageDefault: id.nullable().defined(),
  /** Calls outside are put down to codes of the list only, or to none. */
  listedCodesOnly: boolean().strict().required(),
  /** How often whoever is to be called back is rung, and how long after one time the next. */
  callBackTries: between(1, 20),
  callBackAgain: seconds(30, day),
  /** The operators are told of a promise to call back that is older than this. */
  callBackWithin: seconds(300, 7 * day),
  /** The kinds of numbers outside that may be called at all, and those that callers may be called back at: a caller says what number they please. */
  callsTo: array(string().oneOf(numberClasses).required()).required(),
  callBacksTo: array(string().oneOf(numberClasses).required()).required(),
  /** Of whom the service level is counted, and within which time who gives up does not count. */
  serviceLevel: string().oneOf(levelKinds).required(),
  shortAbandon: seconds(0, 120),
}).required()

/** The parts that hold things by their ids. */
const things = {
  sites: site, departments: department, people: person, telephones: telephone, groups: group, lines: line, trunks: trunk, slots: slot,
  shortNumbers: shortNumber, hours: openingHours, zones: zone, announcements: standingAnnouncement, duties: duty,
  accountCodes: accountCode,
}

export type Things = { [P in keyof typeof things]: InferType<typeof things[P]> }
export type Settings = InferType<typeof settings>

/** One thing of a part, or the settings, by itself: for forms. */
export const thingSchemas: { [P in Part]: ObjectSchema<Things[P]> } & { settings: ObjectSchema<Settings> } = { ...things, settings } as never

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
  version: between(0, Number.MAX_SAFE_INTEGER),
  ...Object.fromEntries(parts.map(part => [part, recordOf(things[part] as Schema<object>)])),
  settings,
}) as unknown as ObjectSchema<Company>
