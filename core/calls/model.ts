import type { Phrase, Spoken } from '../../words/phrase'
import type { Map } from 'immutable'
import type { InferType } from 'yup'
import type { Company, PageRank } from '../company/company'
import type { Indexes } from './indexes'
import type { step } from './recorded'

/**
 * The vocabulary of calls, after the open standard ECMA-269: a call, a device, and between them a connection in one state.
 * Everything here is plain data that survives JSON unchanged. All times are the exchange's own, in milliseconds: they run steadily, whatever is
 * done to the clock on the wall. `clockOffset` of the state added to one gives the time that people read, in milliseconds since 1970 (UTC).
 */

/** The last millisecond of the year 9999 (UTC, since 1970): what every part of the house can write as a date. */
export const latestTime = 253_402_300_799_999

/**
 * A telephone's id ("t2417": it never looks like a number), a group's ("operators"), a park slot's ("slot:3"), a mailbox's ("mailbox:t2417"), or that of
 * an outside party's leg.
 */
export type DeviceId = string
export type CallId = string
export type LineId = string
export type TrunkId = string

/**
 * A connection in ECMA-269's state `null` is simply absent. The one that ECMA-269 calls `failed` is kept with the call (`Call.failed`),
 * so that whoever could not be reached has nothing to do with it.
 */
export type ConnectionState = 'alerting' | 'connected' | 'held' | 'queued'

/**
 * What the network says about an outside party; both are absent when withheld. Hostile input: never trusted, never markup.
 * The number is E.164 wherever it can be read as one; what can't is kept as plain text to be shown, and is never dialled.
 */
export interface Party {
  number: string | null
  name: string | null
}

export interface Connection {
  device: DeviceId
  state: ConnectionState
  since: number
  /** Set for outside parties, with the trunk whose channel they occupy. */
  party?: Party
  trunk?: TrunkId
  /** Hears the others and is not heard. */
  muted?: true
  /** Rings to join people who are talking already, asked by this one of them; they go on whether it answers or not. */
  invitedBy?: DeviceId
  /** A mobile that rings along with this telephone. */
  along?: DeviceId
  /** Its telephone has answered by itself, and nobody there has lifted yet. */
  byItself?: true
  /** Rings at a member of this queue, in which the call keeps its place until somebody answers. */
  offeredBy?: DeviceId
}

export const causes = [
  'noAnswer', 'busy', 'doNotDisturb', 'outOfService', 'declined', 'trunksBusy', 'normalClearing', 'abandoned', 'exchangeLost',
  'unfetched', 'unattended', 'nobodyServes', 'closed', 'blocked', 'overflow', 'longHold', 'preempted', 'tooLong', 'withdrawn', 'callBack', 'ledOn',
] as const
export type Cause = typeof causes[number]
/** Why ringing somewhere ended without an answer. */
export type Unanswered = Extract<Cause, 'noAnswer' | 'declined' | 'busy' | 'outOfService' | 'trunksBusy'>

/** A transfer that nobody has answered yet: whoever passed the call on stays responsible for it. */
export interface Passing {
  by: DeviceId
  to: DeviceId
  at: number
  /** A line of text for whoever it rings at. */
  note: string | null
}

/** A group whose members are rung one after the other, or all together, and those who have been. */
export interface Hunting {
  group: DeviceId
  tried: DeviceId[]
}

/** Why a call reached nobody; whoever called hears a tone. */
export interface Failure {
  device: DeviceId
  cause: Cause
  at: number
}

/** Two parties outside talk with each other through us: whoever brought them together can take the caller back for a while. */
export interface Watched {
  by: DeviceId
  at: number
}

/** A caller who waits in a park slot: anybody may take the call; with `for`, that person's telephone says so. */
export interface Parked {
  slot: DeviceId
  by: DeviceId
  for: DeviceId | null
  at: number
}

/** How asking a colleague ended while the caller waited on hold. */
export interface Consulted {
  device: DeviceId
  cause: Cause
  /** How long it rang, in milliseconds, when nobody answered. */
  rang: number
  at: number
}

export interface Conference {
  /** Who leads it: may drop, mute, and end it for all. When they go, whoever of ours has been in it longest leads; nobody when none of ours is left. */
  by: DeviceId | null
  since: number
}

/** What a caller who waits hears: the how manyth they are, and about how long it takes, in milliseconds; null: nobody can say yet. */
export interface Told {
  place: number
  wait: number | null
  at: number
}

/** What is said on a call is recorded: who asked for it (null: its line says so), and since when. */
export interface Recording {
  by: DeviceId | null
  since: number
}

/** Why a call is back with the operators, and whom it comes back to. */
export interface Recall {
  to: DeviceId
  from: DeviceId
  cause: Cause
  /** How long it rang before it came back, in milliseconds. */
  rang: number
  at: number
}

/** One thing that happened to a call. */
export type Step = InferType<typeof step>

export const stepTypes = [
  'originated', 'queued', 'delivered', 'established', 'held', 'retrieved', 'transferred', 'diverted', 'failed',
  'connectionCleared', 'callCleared', 'parked', 'consulted', 'conferenced', 'refused', 'putFirst', 'putLast', 'forwarded', 'prompted', 'promptAnswered',
  'listeningBegun', 'listeningEnded', 'whisperBegun', 'whisperEnded', 'intruded', 'recordingStarted', 'recordingStopped',
] as const

export interface Caption {
  device: DeviceId
  text: Spoken
  at: number
}

export const directions = ['inbound', 'outbound', 'internal'] as const
export type Direction = typeof directions[number]

export interface Call {
  id: CallId
  direction: Direction
  /** The party being served: who called, or whom the call was passed on for once the one who called has left it. */
  calling: DeviceId
  /** The digits as dialled. */
  dialled: string
  /** The line of ours it came in on. */
  line: LineId | null
  created: number
  /** The outside party, kept when it has left. */
  party: Party | null
  connections: Connection[]
  passing: Passing | null
  hunting: Hunting | null
  failed: Failure | null
  watched: Watched | null
  /** Destinations it has been sent to because nobody took it; none is tried twice until somebody has answered. */
  overflowed: string[]
  recall: Recall | null
  parked: Parked | null
  conference: Conference | null
  recording?: Recording
  /** The held call for whose caller this call asks somebody. */
  consultation: CallId | null
  /** How the last asking for this caller ended, when it did not end in handing over. */
  consulted: Consulted | null
  /** Telephones that have sent it on since somebody last answered. */
  forwardedBy?: DeviceId[]
  /** Put before the others of its queue (the lower the further) or behind them by hand; without it, it stands where it came. */
  turn?: number
  /** What the caller last heard of their place in the queue. */
  told?: Told
  /** Operators who will not take it; it goes on waiting for the others. */
  refusedBy: DeviceId[]
  /** Account or cost code to book it on. */
  account: string | null
  /** Whoever calls has asked that their number is not shown outside. */
  withheld?: true
  /** What an outside party was last heard to say: stands in for the voice. */
  caption: Caption | null
  /** The promise that this call is to keep. */
  callBack?: CallBackId
  /** The queue from which it was last answered. */
  servedFrom?: DeviceId
  /** Whoever called from outside hung up while nobody talked with them: on hold, parked, ringing on or waiting again. */
  gaveUp?: true
  story: Step[]
}

export const awayReasons = ['lunch', 'break', 'meeting', 'travelling', 'gone'] as const
export type AwayReason = typeof awayReasons[number]

/** What a mailbox says usually, or while its owner is away for a reason. */
export const greetingOccasions = ['usual', ...awayReasons] as const
export type GreetingOccasion = typeof greetingOccasions[number]

/** Characters. */
export const longestGreeting = 400

/** What somebody's mailbox says in their own words, and where keys lead meanwhile. */
export interface Mailbox {
  greetings: Partial<Record<GreetingOccasion, string>>
  keys: Record<string, string>
}

/** A person's own word about themselves. `reason` is null exactly when available. */
export interface Status {
  reason: AwayReason | null
  since: number
  until: number | null
}

/**
 * Somebody does not serve one of their queues for the time being. `paused`: says why; `left`: voluntary members alone; `wrapUp`: has just ended a call of
 * it, and has work to do on it until then (the exchange's time).
 */
export interface QueueAbsence {
  state: 'paused' | 'left' | 'wrapUp'
  reason: string | null
  since: number
  until: number | null
  /** Who else did it for them. */
  by: DeviceId | null
}

export type ForwardKind = 'always' | 'busy' | 'noAnswer'

/** Calls of a telephone go elsewhere. */
export interface Forward {
  /** A destination as it was named. */
  to: string
  /** Who else set it; null: its owner. */
  by: DeviceId | null
  /** A time that people read; null: until further notice. */
  until: number | null
  /** Of calls that nobody answers: after so many rings. */
  rings: number | null
  since: number
}

/** What happens at a telephone of ours, beside its calls. Who has it and which number reaches it is the company's configuration. */
export interface Device {
  doNotDisturb: boolean
  /** Who else set do not disturb for this person, and until when it holds. */
  doNotDisturbBy: DeviceId | null
  doNotDisturbUntil: number | null
  /** Numbers (E.164, or of ours) whose calls ring all the same. */
  letThrough?: string[]
  mailbox?: Mailbox
  /** The mobile of its owner rings along with it. */
  ringsAlong?: boolean
  status: Status
  /** True while a person holds the stand-in handset: nobody simulated acts for them. */
  handset: boolean
  /** Whether a telephone of their own can be reached over the network; absent: there is none, and a console or the stand-in handset is their telephone. */
  registered?: boolean
  /** The queues and groups that it does not serve for the time being. */
  absences?: Record<DeviceId, QueueAbsence>
  forwarding?: Partial<Record<ForwardKind, Forward>>
  /** When a queue last rang it, and how many calls of queues it has let ring since it last answered one. */
  offeredAt?: number
  unanswered?: number
  /** Since when it has had no call; null before its first one. Whoever has been free longest is rung first. */
  freeSince: number | null
}

/** An operator's place: attended while a console is open. Lines not served ring at the other operators alone. */
export interface Agent {
  attended: boolean
  /** When callers on hold here are offered to the other operators, unless somebody comes back before. */
  leavesAt: number | null
  /** Lines not served for the time being, and until when (null: until switched on again). */
  unserved: Record<LineId, number | null>
  /** Who has taken which line over from them. */
  takers?: Record<LineId, DeviceId>
  /** Whom they have asked to take a line, and since when. */
  offers?: Record<LineId, { to: DeviceId, at: number }>
}

/** Somebody whose calls we do not take. */
export interface Block {
  reason: string
  by: DeviceId
  at: number
}

/** A note of a parked call on a telephone, when its caller has gone before anybody came. */
export interface Outlived {
  call: CallId
  for: DeviceId
  slot: DeviceId
  by: DeviceId
  party: Party | null
  caller: DeviceId
  since: number
  ended: number
}

/** Whether a line or a queue is open: by its hours, or by the word of an operator until they have had their say again. */
export interface Opening {
  open: boolean
  /** Who said so; null: its hours. */
  by: DeviceId | null
  /** Since when, by the exchange's time; and since when as people read it. */
  since: number
  at: number
  /** Until when what somebody said holds (a time that people read); null: until they say otherwise, or until its hours change. */
  until: number | null
  /** Where callers go while it is closed by hand; null: where they always go when it is closed. */
  to: string | null
}

/** A trunk that is not as it should be. */
export interface TrunkTrouble {
  /** Taken out of service by this operator: what is under way on it goes on, nothing new comes or goes. null: in service. */
  outBy: DeviceId | null
  /** Channels that are out of order. */
  faulty: number
  since: number
}

export type CallBackId = string

/**
 * How a promise to call somebody back ended. `reached`: they were; `calledAgain`: they called themselves and talked with somebody of the queue; `unreached`:
 * they
 * did not answer so many times; `withdrawn`: by somebody's hand.
 */
export const callBackEnds = ['reached', 'calledAgain', 'unreached', 'withdrawn'] as const

/** Somebody outside whom we have promised to call back, in the place that they had in a queue. */
export interface CallBack {
  id: CallBackId
  /** `number` is E.164 wherever it may be seen. */
  party: Party
  line: LineId | null
  queue: DeviceId
  /** Since when their place counts, and what was put before it by hand. */
  since: number
  turn?: number
  promisedAt: number
  /** Who promised it; null: whoever waited asked for it themselves. */
  by: DeviceId | null
  /** Who does it; null: whoever of the queue is rung, or takes it. */
  assigned: DeviceId | null
  /** How many times they were rung. */
  tries: number
  /** When it is tried again; null: it may be at any time. */
  notBefore: number | null
  /** Members who were rung for it since it was last tried. */
  offered: DeviceId[]
  /** The call that is to keep it, and whether its caller is rung already. */
  call: CallId | null
  rung: boolean
  /** It is older than it may be, and the operators have been told so. */
  late?: true
  /** null while it is open. */
  end: typeof callBackEnds[number] | null
  endedBy: DeviceId | null
  endedAt: number | null
  /** What the caller was told at the end, by text. */
  word: Spoken | null
}

export type PageId = string

/**
 * Somebody speaks to telephones or loudspeakers at once, and hears nobody. It is no call: it holds, ends and joins none, and ends when its speaker goes,
 * talks to somebody, or is heard no more.
 */
export interface Page {
  id: PageId
  by: DeviceId
  /** A telephone, a group or a zone. */
  to: DeviceId
  rank: PageRank
  /** Of a page that waits for loudspeakers: since when; else since when the microphone is open. */
  at: number
  /** True while somebody else speaks there. */
  waits: boolean
  /** When the speaker was last heard, and when with words. */
  heardAt: number
  saidAt: number
  /** Telephones or loudspeakers that it sounds at, and whom it did not reach. */
  reached: string[]
  missed: { device: DeviceId, cause: Cause }[]
  /** What was said last: stands in for the voice. */
  text: string
  /** To one telephone: heard also while its owner talks. */
  private: boolean
}

/** Somebody with the right hears what a colleague hears in a call; `whispers`: and is heard by that colleague alone. */
export interface Listening {
  by: DeviceId
  to: DeviceId
  call: CallId
  whispers: boolean
  at: number
}

/**
 * Everything that an exchange knows: the company's configuration (large, changed rarely), what happens at its telephones, and its calls.
 * The maps are persistent: a changed one shares what did not change, so that no event costs more the more telephones or calls there are.
 */
export interface ExchangeState {
  /** One run of the exchange; sequence numbers and call ids count within it. */
  epoch: string
  seq: number
  time: number
  /** Added to a time of the exchange it gives the time that people read. */
  clockOffset: number
  /** Calls, outside legs and promises begun so far in this epoch. */
  serial: number
  company: Company
  /** Every telephone that the company has, or had until its present call ends. */
  devices: Map<DeviceId, Device>
  /** The members of the operators' group. */
  agents: Map<DeviceId, Agent>
  /** By E.164 number. */
  blocked: Map<string, Block>
  /** The latest notes that have outlived their call, oldest first. */
  outlived: Outlived[]
  /** Of lines and queues that have opening hours, or that somebody has opened or closed. What is not in here is open. */
  openings: Map<LineId | DeviceId, Opening>
  /** Trunks that are taken out of service or have channels out of order. */
  troubles: Map<TrunkId, TrunkTrouble>
  /** How long calls of a queue last with whoever answers them, in milliseconds: an average in which the latest weigh most. */
  handling: Map<DeviceId, number>
  /** How long all callers of a queue have waited together, in milliseconds, and how many of them gave up; the latest weigh most. */
  patience: Map<DeviceId, { waited: number, gaveUp: number }>
  /** Those that are open, and those that wait. */
  pages: Map<PageId, Page>
  /** By who listens. */
  listenings: Map<DeviceId, Listening>
  /** Promises that are open, and the latest that are over, oldest first. */
  callBacks: Map<CallBackId, CallBack>
  callBacksOver: CallBack[]
  calls: Map<CallId, Call>
  /** Follows from the rest (`indexes.ts`). */
  indexes: Indexes
}

/** The form of the events below, kept with each in the journal: whoever changes it raises this, and says how the older form is read. */
export const eventVersion = 1

/** Facts, in ECMA-269's names where it has one. Whoever brings a new kind about adds it here, from their own file. */
export interface Events {
  /** Stands for an event that whoever reads it may know nothing of. */
  concealed: object
}

export type EventName = keyof Events
export type CallEvent = { [E in EventName]: { type: E } & Events[E] }[EventName]
/** An event with its place in the one order of this epoch. */
export type NumberedEvent = CallEvent & { seq: number, at: number }
export type EventOf<E extends EventName> = { type: E } & Events[E] & { seq: number, at: number }

/** What an event says that is about a call and one telephone, or about a telephone alone. */
export interface OfCall { call: CallId, device: DeviceId }
export interface AtPlace { device: DeviceId }

/**
 * What each service is asked, in ECMA-269's names where it has one; each adds its own from its own file. `device` is who asks; `to` and `number` may be
 * an extension, a group, a slot, a mailbox or an outside number; `until` is a time that people read.
 */
export interface Requests {
  /** Time has come to `now`: whatever was due happens. */
  tick: object
}

export type ServiceName = keyof Requests
export type RequestOf<S extends ServiceName> = { service: S } & Requests[S]
export type Request = { [S in ServiceName]: RequestOf<S> }[ServiceName]

export const refusalCodes = [
  'unknownDevice', 'unknownCall', 'notYourCall', 'notPossibleNow', 'alreadyAnswered', 'invalidNumber', 'unallocatedNumber', 'toSelf', 'toCaller',
  'busy', 'doNotDisturb', 'outOfService', 'trunksBusy', 'tooManyCalls', 'callerOnHold', 'notAllowed', 'slotsFull', 'slotTaken', 'slotEmpty',
  'nobodyFree', 'nobodyServes', 'closed', 'blocked', 'conferenceFull', 'unknownAccount', 'idUsed', 'tooLate',
] as const
export type RefusalCode = typeof refusalCodes[number]

export interface Refusal {
  code: RefusalCode
  /** What happened, what became of the caller, what to do: for the person who asked. */
  why: Phrase
}

export type Decision = { events: CallEvent[] } | { refusal: Refusal }
