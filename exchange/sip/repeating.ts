import type { IncomingRequestMessage } from 'sip.js/lib/core/index.js'
import type { Peer } from './wire'

/** What UDP loses is sent again, and what comes twice is taken once (RFC 3261, section 17). The times are milliseconds. */

const [t1, t2] = [500, 4_000]
const giveUpAfter = 64 * t1
const mostKept = 50_000

interface Sent { timer: NodeJS.Timeout, isInvite: boolean, slow: boolean }

/** Says requests again until they are answered, and refusals of an INVITE until they are acknowledged. */
export class Repeater {
  private readonly sent_ = new Map<string, Sent>()

  constructor(private readonly put: (text: string, peer: Peer) => void) {}

  /** Something was sent over UDP for the first time. */
  sent(text: string, peer: Peer): void {
    const branch = /;[ \t]*branch=([^;,\s]+)/i.exec(text)?.[1]
    const method = /^cseq[ \t]*:[ \t]*\d+[ \t]+([A-Z]+)/im.exec(text)?.[1]
    if (!branch || !method) return
    const status = Number(/^SIP\/2\.0 (\d{3})/.exec(text)?.[1] ?? 0)
    if (status === 0 ? method === 'ACK' : method !== 'INVITE' || status < 300) return
    const key = status === 0 ? `${branch} ${method}` : `ack ${branch}`
    if (this.sent_.has(key) || this.sent_.size > mostKept) return
    const begin = performance.now()
    const one: Sent = { isInvite: status === 0 && method === 'INVITE', slow: false, timer: setTimeout(() => again(t1), t1) }
    const again = (after: number) => {
      if (performance.now() - begin > giveUpAfter) return void this.sent_.delete(key)
      this.put(text, peer)
      // An INVITE is asked for at ever longer intervals, everything else every four seconds at most.
      const next = one.slow ? t2 : one.isInvite ? after * 2 : Math.min(after * 2, t2)
      one.timer = setTimeout(() => again(next), next)
    }
    this.sent_.set(key, one)
  }

  /** A request has been answered: an INVITE for now, everything else for good unless it is only heard of. */
  answered(branch: string, method: string, status: number): void {
    const key = `${branch} ${method}`
    const one = this.sent_.get(key)
    if (!one) return
    if (status < 200 && !one.isInvite) one.slow = true
    else this.forget(key)
  }

  acknowledged(branch: string): void {
    this.forget(`ack ${branch}`)
  }

  close(): void {
    for (const key of [...this.sent_.keys()]) this.forget(key)
  }

  private forget(key: string): void {
    clearTimeout(this.sent_.get(key)?.timer)
    this.sent_.delete(key)
  }
}

/** Knows a request that has come before. */
export class Once {
  private readonly known = new Map<string, { answer: string, until: number }>()

  /** What to say to a request that has come before ('': nothing yet); null: it is new. */
  take(message: IncomingRequestMessage): string | null {
    const key = `${message.viaBranch} ${message.cseq} ${message.method} ${message.callId}`
    const known = this.known.get(key)
    if (known) return known.answer
    if (this.known.size < mostKept) this.known.set(key, { answer: '', until: performance.now() + giveUpAfter })
    return null
  }

  /** This is said again when its request comes again. */
  answered(text: string): void {
    const [, branch] = /;[ \t]*branch=([^;,\s]+)/i.exec(text) ?? []
    const [, cseq, method] = /^cseq[ \t]*:[ \t]*(\d+)[ \t]+([A-Z]+)/im.exec(text) ?? []
    const call = /^(?:call-id|i)[ \t]*:[ \t]*([^\r\n]+)/im.exec(text)?.[1]?.trim()
    const known = this.known.get(`${branch} ${cseq} ${method} ${call}`)
    if (!known) return
    known.answer = text
    known.until = performance.now() + giveUpAfter
  }

  /** Those that nobody says again by now. */
  forget(): void {
    const now = performance.now()
    for (const [key, { until, answer }] of this.known) if (until < now && answer !== '') this.known.delete(key)
    // What was never answered: nobody waits for it any more.
    for (const [key, { until }] of this.known) if (until + 600_000 < now) this.known.delete(key)
  }
}
