/**
 * The vocabulary of calls, after the open standard ECMA-269: a call, a device, and between them a connection in one state.
 * Everything here is plain data that survives JSON unchanged. All times are milliseconds since 1970 (UTC).
 */

/** An extension's number ("2417"), a group ("operators"), or an outside party's leg ("trunk-1#17"). */
export type DeviceId = string
export type CallId = string
export type LineId = string
export type TrunkId = string

/** A connection in ECMA-269's state `null` is simply absent. */
export type ConnectionState = 'initiated' | 'alerting' | 'connected' | 'held' | 'queued' | 'failed'

/** What the network says about an outside party; both are absent when withheld. Hostile input: never trusted, never markup. */
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
}

export const causes = [
  'noAnswer', 'busy', 'doNotDisturb', 'outOfService', 'declined', 'trunksBusy', 'normalClearing', 'abandoned', 'exchangeLost',
] as const
export type Cause = typeof causes[number]

/** A blind transfer that nobody has answered yet: whoever passed the call on stays responsible for it. */
export interface Passing {
  by: DeviceId
  to: DeviceId
  at: number
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

/** One thing that happened to a call, kept with it so that its story can be told anywhere. */
export interface Step {
  at: number
  type: 'originated' | 'queued' | 'delivered' | 'established' | 'held' | 'retrieved' | 'transferred' | 'diverted' | 'failed' | 'connectionCleared' | 'callCleared'
  device: DeviceId
  to?: DeviceId
  cause?: Cause
}

export interface Caption {
  device: DeviceId
  text: string
  at: number
}

export interface Call {
  id: CallId
  direction: 'inbound' | 'outbound' | 'internal'
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
  recall: Recall | null
  /** When a tick moves the call on by itself; what happens then follows from its connections. */
  deadline: number | null
  /** What an outside party was last heard to say: stands in for the voice. */
  caption: Caption | null
  story: Step[]
}

export const awayReasons = ['lunch', 'break', 'meeting', 'travelling', 'gone'] as const
export type AwayReason = typeof awayReasons[number]

/** A person's own word about themselves. `reason` is null exactly when available. */
export interface Status {
  reason: AwayReason | null
  since: number
  until: number | null
}

export interface Device {
  id: DeviceId
  name: string
  /** How many calls it can have at once; a call more finds it busy. */
  capacity: number
  inService: boolean
  doNotDisturb: boolean
  status: Status
}

/** Devices that share one queue: every member may answer any call in it. */
export interface Group {
  id: DeviceId
  name: string
  /** The short number that reaches it from inside. */
  number: string
  members: DeviceId[]
}

/** A number of ours and where its calls go. */
export interface Line {
  id: LineId
  number: string
  target: DeviceId
}

export interface Trunk {
  id: TrunkId
  channels: number
}

export interface Settings {
  /** One cycle of ringing, to say a time as a number of rings. */
  ringCycle: number
  /** A transferred call that nobody answers comes back after this long. */
  transferRecall: number
  /** A direct call that nobody answers is moved on after this long. */
  noAnswer: number
  /** How long the tone after a failed call lasts. */
  failedTone: number
  /** Direct numbers of extensions: this prefix and the extension's last three digits. */
  directPrefix: string
  /** The group that unanswered and returning calls go to. */
  operators: DeviceId
}

export interface ExchangeState {
  /** One run of the exchange; sequence numbers and call ids count within it. */
  epoch: string
  seq: number
  time: number
  /** Calls and outside legs begun so far in this epoch. */
  serial: number
  devices: Record<DeviceId, Device>
  groups: Record<DeviceId, Group>
  lines: Record<LineId, Line>
  trunks: Record<TrunkId, Trunk>
  calls: Record<CallId, Call>
  settings: Settings
}

/** Facts, in ECMA-269's names where it has one. */
export type CallEvent
  = | { type: 'originated', call: CallId, device: DeviceId, direction: Call['direction'], dialled: string, line: LineId | null, party?: Party, trunk?: TrunkId }
    | { type: 'queued', call: CallId, device: DeviceId }
    | { type: 'delivered', call: CallId, device: DeviceId, deadline: number, party?: Party, trunk?: TrunkId }
    | { type: 'established', call: CallId, device: DeviceId }
    | { type: 'held', call: CallId, device: DeviceId }
    | { type: 'retrieved', call: CallId, device: DeviceId }
    | { type: 'transferred', call: CallId, device: DeviceId, to: DeviceId }
    | { type: 'diverted', call: CallId, device: DeviceId, to: DeviceId, cause: Cause }
    | { type: 'failed', call: CallId, device: DeviceId, cause: Cause, deadline: number }
    | { type: 'connectionCleared', call: CallId, device: DeviceId, cause: Cause }
    | { type: 'callCleared', call: CallId, device: DeviceId, cause: Cause }
    | { type: 'callInformation', call: CallId, device: DeviceId, text: string }
    | { type: 'doNotDisturb', device: DeviceId, on: boolean }
    | { type: 'statusChanged', device: DeviceId, reason: AwayReason | null, until: number | null }

/** An event with its place in the one order of this epoch. */
export type NumberedEvent = CallEvent & { seq: number, at: number }

/** Requests, in ECMA-269's names where it has one. `device` is who asks. */
export type Request
  = | { service: 'makeCall', device: DeviceId, number: string }
    | { service: 'answerCall', device: DeviceId, call: CallId }
    | { service: 'clearConnection', device: DeviceId, call: CallId }
    | { service: 'holdCall', device: DeviceId, call: CallId }
    | { service: 'retrieveCall', device: DeviceId, call: CallId }
    | { service: 'singleStepTransferCall', device: DeviceId, call: CallId, to: string }
    | { service: 'sendUserInformation', device: DeviceId, call: CallId, text: string }
    | { service: 'setDoNotDisturb', device: DeviceId, on: boolean }
    | { service: 'setStatus', device: DeviceId, reason: AwayReason | null, until: number | null }
  /** The network brings a call in on a trunk. */
    | { service: 'offerCall', trunk: TrunkId, party: Party, number: string }
  /** Time has come to `now`: whatever was due happens. */
    | { service: 'tick' }

export const refusalCodes = [
  'unknownDevice', 'unknownCall', 'notYourCall', 'notPossibleNow', 'alreadyAnswered', 'invalidNumber', 'unallocatedNumber', 'toSelf', 'toCaller',
  'busy', 'doNotDisturb', 'outOfService', 'trunksBusy', 'tooManyCalls', 'callerOnHold',
] as const
export type RefusalCode = typeof refusalCodes[number]

export interface Refusal {
  code: RefusalCode
  /** What happened, what became of the caller, what to do: for the person who asked. */
  sentence: string
}

export type Decision = { events: CallEvent[] } | { refusal: Refusal }
