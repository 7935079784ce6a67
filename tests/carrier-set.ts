import { createHash, randomUUID } from 'node:crypto'
import { createSocket } from 'node:dgram'

/** A carrier at the other end of a wire, which says what it is told to say. */

/** The value of a header field. */
export function fieldOf(message: string, name: string): string | undefined {
  return new RegExp(`^${name}:[ \\t]*(.*)$`, 'im').exec(message)?.[1]?.trim()
}

export class CarrierSet {
  /** What it has been asked, oldest first. */
  private asked: string[] = []
  private readonly forgotten = new Set<string>()
  /** The status with which it answers a method; undefined: it says nothing. */
  answers: Record<string, number | undefined> = { OPTIONS: 200, REGISTER: 200, CANCEL: 200, BYE: 200 }
  private readonly socket = createSocket('udp4')

  private constructor(private readonly address: string) {}

  static async open(address: string): Promise<CarrierSet> {
    const set = new CarrierSet(address)
    set.socket.on('message', (packet, { port }) => set.hear(packet.toString(), port))
    await new Promise<void>(resolve => set.socket.bind(0, address, resolve))
    return set
  }

  get port(): number {
    return this.socket.address().port
  }

  /** Those of one method, without what was said again. */
  all(method: string): string[] {
    const seen = new Set(this.forgotten)
    return this.asked.filter(text => text.startsWith(`${method} `) && !seen.has(fieldOf(text, 'Via')!) && seen.add(fieldOf(text, 'Via')!))
  }

  /** What it was asked so far is of no interest any more, also when it is said again. */
  forget(method: string): void {
    for (const text of this.all(method)) this.forgotten.add(fieldOf(text, 'Via')!)
    this.asked = this.asked.filter(text => !text.startsWith(`${method} `))
  }

  send(text: string, port: number): void {
    this.socket.send(text, port, this.address)
  }

  /** Shows that it is there. */
  async appears(port: number): Promise<void> {
    const call = randomUUID()
    const answered = new Promise<void>((resolve) => {
      const hear = (packet: Buffer) => {
        if (!packet.toString().startsWith('SIP/2.0 200') || !packet.includes(call)) return
        this.socket.off('message', hear)
        resolve()
      }
      this.socket.on('message', hear)
    })
    const own = `sip:far@${this.address}:${this.port}`
    this.send([
      `OPTIONS sip:here@${this.address}:${port} SIP/2.0`, `Via: SIP/2.0/UDP ${this.address}:${this.port};branch=z9hG4bK${call};rport`, 'Max-Forwards: 70',
      `To: <sip:here@${this.address}>`, `From: <${own}>;tag=t`, `Call-ID: ${call}`, 'CSeq: 1 OPTIONS', 'Content-Length: 0', '', '',
    ].join('\r\n'), port)
    await answered
  }

  close(): void {
    this.socket.close()
  }

  private hear(text: string, port: number): void {
    this.asked.push(text)
    const method = text.split(' ', 1)[0]!
    // Whoever proves who they are has what they ask for.
    const status = this.answers[method] === 401 && fieldOf(text, 'Authorization') ? 200 : this.answers[method]
    if (status === undefined || method === 'ACK' || method.startsWith('SIP')) return
    const kept = text.split('\r\n').filter(line => /^(via|from|call-id|cseq):/i.test(line))
    const challenge = status === 401 ? ['WWW-Authenticate: Digest realm="bay", nonce="n1", algorithm=MD5, qop="auth"'] : []
    this.send([`SIP/2.0 ${status} So`, ...kept, `To: ${fieldOf(text, 'To')};tag=far`, ...challenge, 'Content-Length: 0', '', ''].join('\r\n'), port)
  }
}

/** True where a request proves that its sender knows a secret (RFC 2617, MD5). */
export function isProved(text: string, name: string, secret: string): boolean {
  const proof = fieldOf(text, 'Authorization') ?? ''
  const part = (key: string) => new RegExp(`[ ,]${key}="?([^",]+)"?`).exec(proof)?.[1] ?? ''
  const hash = (of: string) => createHash('md5').update(of).digest('hex')
  const [method] = text.split(' ')
  const parts = [hash(`${name}:bay:${secret}`), part('nonce'), part('nc'), part('cnonce'), 'auth', hash(`${method}:${part('uri')}`)]
  return part('response') === hash(parts.join(':'))
}
