import { isPrompt } from '../calls/call-backs/call-backs'
import type { Call, CallId, DeviceId, ExchangeState, Party, Request } from '../calls/model'
import { connectionOf, othersOf } from '../calls/questions'
import type { Track } from './track'
import type { Speaker } from '../../words/speaker'

/** What an operator's screen knows when it says what can be done: all of it is computed from the calls as they are. */
export interface Console {
  state: ExchangeState
  /** The operator's own telephone. */
  device: DeviceId
  track: Track
  /** A line of text to send along with the next call that is passed on. */
  note: string
  /** Account or cost code for the next call outside. */
  account: string
  /** Now, as people read it: milliseconds since 1970. */
  wall: number
  nameOf: NameOf
  /** In the operator's language. */
  t: Speaker
}

export type NameOf = (device: DeviceId, party?: Party | null) => string

/** A request as it is asked with a telephone that is known already. */
export type WithoutDevice<R> = R extends { device: DeviceId } ? Omit<R, 'device'> : never
/** What is asked of the exchange with one's own telephone. */
export type Asked = WithoutDevice<Extract<Request, { device: DeviceId }>>

/** What a key, a button or Enter does: asks the exchange for something, or opens or moves something on the screen. */
export type Deed
  = | { do: 'ask', request: Asked }
  /** One after the other, until one is refused. */
    | { do: 'askAll', requests: Asked[] }
  /** Picks a call up from the track to be put down on somebody; null puts it back. */
    | { do: 'carry', call: CallId | null }
  /** `to` null: for whom is still to be said. */
    | { do: 'takeMessage', to: DeviceId | null, call: CallId | null }
    | { do: 'sendDigits' }
  /** Says where the calls of a telephone go. */
    | { do: 'forward', of: DeviceId }
  /** Says until when somebody is not to be disturbed. */
    | { do: 'quiet', of: DeviceId }
  /** Makes ringing calls silent here; they can still be answered. */
    | { do: 'hush', calls: CallId[] }
  /** Ends one's part in a call: where somebody is connected it takes a second press. */
    | { do: 'end', call: CallId }

export const ask = (request: Asked): Deed => ({ do: 'ask', request })

/** The party outside on a call, as far as it is known. */
export function outsideParty(call: Call, device: DeviceId | null): Party | null {
  return connectionOf(call, call.calling)?.party ?? othersOf(call, device ?? '')[0]?.party ?? call.party
}

/** The other side of a call as the operator's screen names it. */
export function otherName(t: Speaker, call: Call, device: DeviceId | null, nameOf: NameOf): string {
  // Nobody is on the line yet: whom one is to call back.
  if (isPrompt(call)) return nameOf('', call.party)
  const own = device && connectionOf(call, device)
  const others = own ? othersOf(call, device).filter(other => !other.invitedBy && (own.state !== 'alerting' || other.device === call.calling)) : []
  if (others.length > 1) return others.map(other => nameOf(other.device, other.party)).join(', ')
  if (own && call.failed) return nameOf(call.failed.device)
  const other = others[0] ?? connectionOf(call, call.calling)
  return other ? nameOf(other.device, other.party) : t('track.nobody')
}

/** The same, told apart from another call of that name: by the end of its number, else by where it came. */
export function apart(t: Speaker, name: string, call: Call, lineName: string): string {
  const number = call.party?.number
  return number && !name.includes(number) ? t('track.numberEnding', { name, digits: number.slice(-3).split('').join(' ') }) : `${name}, ${lineName}`
}
