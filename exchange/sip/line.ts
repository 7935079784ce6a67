import { randomUUID } from 'node:crypto'
import {
  type Body, type IncomingInviteRequest, type OutgoingInviteRequest, type Session, SessionState, type UserAgentCore,
} from 'sip.js/lib/core/index.js'
import type { Call, CallId, DeviceId } from '../../core/calls/model'
import type { SessionTimer } from './session-timer'
import type { Peer } from './wire'

/**
 * A dialog with a telephone, or what may become one. `calls`: it has dialled, and nobody has answered yet; `rings`: we call it; `up`: it has answered, or was;
 * `refused`: it will not answer this call; `over`.
 */
export type LineState = 'calls' | 'rings' | 'up' | 'refused' | 'over'

export interface Line {
  /** Its name for the sound process. */
  id: string
  device: DeviceId
  core: UserAgentCore
  peer: Peer
  state: LineState
  /** What is heard there; null: a page, or nothing yet. */
  call: CallId | null
  /** The page for which it was called. */
  page?: string
  /** It has put what it hears on hold. */
  onHold: boolean
  /** Of `calls`: who waits for an answer, and the answer of our sound; what it was last told. */
  asked?: IncomingInviteRequest
  sdp?: string
  told?: number
  /** Of `rings`: each place where it rings; whether it is to answer by itself. */
  forks: Set<OutgoingInviteRequest>
  byItself: boolean
  session?: Session
  /** Of `rings`: what may become one. */
  early?: Session
  /** Who says that the dialog goes on, and what is to be done next at a time: of `calls` that it is answered. */
  kept: SessionTimer | null
  timer?: NodeJS.Timeout
  /** Of `calls`: says every minute that it goes on. */
  telling?: NodeJS.Timeout
  /** Who it was told that it talks with. */
  shown?: string
}

/** Who somebody talks with, or is called by, as a display shows it: no number is one that is withheld. */
export interface Shown { name: string, number: string }

export const allowed = 'INVITE, ACK, CANCEL, BYE, OPTIONS, INFO, NOTIFY, REFER, SUBSCRIBE, MESSAGE, REGISTER'

/** A call that is over: nobody is in it. */
export const noCall = { connections: [] } as unknown as Call

export function newLine(fields: Pick<Line, 'device' | 'core' | 'peer' | 'state' | 'call'> & Partial<Line>): Line {
  return { id: randomUUID(), onHold: false, forks: new Set(), byItself: false, kept: null, ...fields }
}

export const sdpBody = (content: string): Body => ({ contentDisposition: 'session', contentType: 'application/sdp', content })

/** Ends a dialog from our side, whatever state it is in. */
export function hangUp(line: Line, why: { statusCode: number, reason?: string }): void {
  const { state, session } = line
  line.state = 'over'
  if (state === 'calls' && line.asked) line.asked.reject({ statusCode: why.statusCode })
  for (const fork of line.forks) fork.cancel(why.reason)
  if (session && session.sessionState !== SessionState.Terminated) sayBye(session, why.reason)
}

/** Says goodbye: at once, or as soon as the other side has acknowledged our answer (RFC 3261, section 15). */
export function sayBye(session: Session, reason?: string): void {
  const bye = () => void session.bye(undefined, reason ? { extraHeaders: [`Reason: ${reason}`] } : undefined)
  if (session.sessionState !== SessionState.AckWait) return bye()
  session.delegate = { onAck: bye, onAckTimeout: () => session.dispose(), onBye: request => void request.accept() }
}

/** Answered at another place (RFC 3326). */
export const elsewhere = 'SIP ;cause=200 ;text="Call completed elsewhere"'

/** Text of others for a name in a header field: nothing in it ends the field or the quotes. */
export function quoted(text: string): string {
  // eslint-disable-next-line no-control-regex
  return text.replace(/[\u0000-\u001F\u007F"\\<>]+/g, ' ').trim().slice(0, 60)
}

/** How a telephone has described itself: it does not want to hear, or to be heard. */
export function isHold(sdp: string): boolean {
  return /^a=(sendonly|inactive)\s*$/m.test(sdp) || /^c=IN IP4 0\.0\.0\.0\s*$/m.test(sdp)
}
