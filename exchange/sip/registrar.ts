import type { IncomingRequestMessage, NameAddrHeader, URI } from 'sip.js/lib/core/index.js'
import type { DeviceId } from '../../core/calls/model'
import { allContacts } from './reading'
import type { Peer } from './wire'

/** Where telephones are (RFC 3261, section 10): a person may have several at one number, and all of them ring. */

export interface Binding {
  uri: URI
  peer: Peer
  /** By the clock of this machine, in milliseconds. */
  until: number
  callId: string
  cseq: number
}

/** Seconds. Whoever asks for less, or more, gets these. */
const [shortest, usual, longest] = [30, 300, 3_600]
const mostOfOne = 6

export class Registrar {
  private readonly bindings = new Map<DeviceId, Map<string, Binding>>()
  private readonly watching: NodeJS.Timeout

  /** @param onChange a telephone can be reached now, or no longer */
  constructor(private readonly onChange: (device: DeviceId, isThere: boolean) => void, private readonly now: () => number = Date.now) {
    this.watching = setInterval(() => this.expire(), 1_000)
  }

  of(device: DeviceId): Binding[] {
    return [...this.bindings.get(device)?.values() ?? []]
  }

  /**
   * Takes a REGISTER of a telephone that has proved who it is.
   * @returns what it is answered: a status, and header fields
   */
  register(device: DeviceId, message: IncomingRequestMessage, peer: Peer): { statusCode: number, extraHeaders: string[] } {
    const contacts = message.getHeaders('contact').map((_, at) => message.parseHeader('contact', at) as NameAddrHeader)
    const asked = seconds(message.getHeader('expires'))
    const own = this.bindings.get(device) ?? new Map<string, Binding>()
    if (message.hasHeader(allContacts)) {
      if (asked !== 0 || contacts.length > 0) return { statusCode: 400, extraHeaders: [] }
      own.clear()
    }
    else {
      const changes = []
      for (const contact of contacts) {
        const { uri } = contact
        if (uri.scheme !== 'sip') return { statusCode: 400, extraHeaders: [] }
        const wanted = seconds(contact.getParam('expires') ?? undefined) ?? asked ?? usual
        changes.push({ uri, lasts: wanted === 0 ? 0 : Math.min(longest, Math.max(shortest, wanted)) })
      }
      const later = changes.some(({ uri }) => isLater(own.get(uri.toString()), message))
      // A request that was overtaken on its way changes nothing (RFC 3261, section 10.3).
      if (later) return { statusCode: 500, extraHeaders: [] }
      for (const { uri, lasts } of changes) {
        const key = uri.toString()
        own.delete(key)
        if (lasts > 0) own.set(key, { uri, peer, until: this.now() + lasts * 1_000, callId: message.callId, cseq: message.cseq })
      }
      while (own.size > mostOfOne) own.delete(own.keys().next().value!)
    }
    this.keep(device, own)
    return {
      statusCode: 200,
      extraHeaders: [...own.values()].map(({ uri, until }) => `Contact: <${uri.toRaw()}>;expires=${Math.max(1, Math.round((until - this.now()) / 1_000))}`),
    }
  }

  /** A telephone that does not answer there any more. */
  remove(device: DeviceId, uri: URI): void {
    const own = this.bindings.get(device)
    if (own?.delete(uri.toString())) this.keep(device, own)
  }

  /** The connection by which telephones came has gone: they are not there until they come again. */
  lose({ protocol, address, port }: Peer): void {
    for (const [device, own] of this.bindings) {
      const gone = [...own].filter(([, { peer }]) => peer.protocol === protocol && peer.address === address && peer.port === port)
      for (const [key] of gone) own.delete(key)
      if (gone.length > 0) this.keep(device, own)
    }
  }

  /** A telephone that has no account any more. */
  removeAll(device: DeviceId): void {
    if (this.bindings.has(device)) this.keep(device, new Map())
  }

  close(): void {
    clearInterval(this.watching)
  }

  private keep(device: DeviceId, own: Map<string, Binding>): void {
    if (own.size > 0) this.bindings.set(device, own)
    else this.bindings.delete(device)
    this.onChange(device, own.size > 0)
  }

  private expire(): void {
    const now = this.now()
    for (const [device, own] of this.bindings) {
      const gone = [...own].filter(([, { until }]) => until <= now)
      for (const [key] of gone) own.delete(key)
      if (gone.length > 0) this.keep(device, own)
    }
  }
}

function seconds(text: string | undefined): number | null {
  return text !== undefined && /^\s*\d{1,9}\s*$/.test(text) ? Number(text) : null
}

/** What is known is younger than what this says. */
function isLater(known: Binding | undefined, { callId, cseq }: IncomingRequestMessage): boolean {
  return known !== undefined && known.callId === callId && known.cseq > cseq
}
