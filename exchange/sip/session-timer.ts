import type { IncomingRequestMessage, IncomingResponseMessage } from 'sip.js/lib/core/index.js'

/** Session timers (RFC 4028): one side says every so often that a dialog goes on; without that it is over. */

export interface SessionTimer {
  seconds: number
  /** Who says it. */
  by: 'us' | 'them'
}

/** Seconds: nobody is asked more often (section 4). */
const shortest = 90

/** What a request of theirs asks for. Whoever does not say who is to refresh does it themselves, if they can. */
export function timerOf(message: IncomingRequestMessage | IncomingResponseMessage): SessionTimer | null {
  const [, seconds, refresher] = /^\s*(\d{1,9})\s*(?:;.*?refresher\s*=\s*(ua[cs]))?/i.exec(message.getHeader('session-expires') ?? '') ?? []
  if (seconds === undefined) return null
  const isTheirs = refresher ? refresher.toLowerCase() === 'uac' : /\btimer\b/i.test(message.getHeader('supported') ?? '')
  return { seconds: Number(seconds), by: isTheirs ? 'them' : 'us' }
}

/** The same of an answer to a request of ours, where it is we who ask. */
export function answeredTimer(message: IncomingResponseMessage): SessionTimer | null {
  const timer = timerOf(message)
  return timer && { ...timer, by: timer.by === 'them' ? 'us' : 'them' }
}

/** Null: it is not too short; else what is said of it. */
export function refusedTimer(timer: SessionTimer | null): string[] | null {
  return timer && timer.seconds < shortest ? [`Min-SE: ${shortest}`] : null
}

/** What an answer of ours says of it. */
export function acceptedTimer(timer: SessionTimer | null): string[] {
  if (!timer) return []
  return [`Session-Expires: ${timer.seconds};refresher=${timer.by === 'them' ? 'uac' : 'uas'}`, ...timer.by === 'them' ? ['Require: timer'] : []]
}

/** What a request of ours says of it. */
export function offeredTimer(timer: SessionTimer | null): string[] {
  return timer ? [`Session-Expires: ${timer.seconds};refresher=${timer.by === 'us' ? 'uac' : 'uas'}`, `Min-SE: ${shortest}`] : []
}

/** When something is to be done about it: we say that we are there, or they have not for too long (section 10). Milliseconds. */
export function dueIn({ seconds, by }: SessionTimer): number {
  return 1_000 * (by === 'us' ? seconds / 2 : seconds - Math.min(32, seconds / 3))
}
