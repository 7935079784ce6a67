import { createHash, randomUUID } from 'node:crypto'
import { createSocket } from 'node:dgram'
import { telephoneRealm } from '../shared/telephone-accounts'
import { fieldOf } from './carrier-set'

/** A telephone of the tests' own, for what those of others can't do: every message that it gets is kept, and it says what it is told to say. */

export interface Dialog { call: string, own: string, far: string, target: string, cseq: number, ownUri: string, farUri: string }

const tagOf = (field: string | undefined) => /;tag=([^;\s]+)/.exec(field ?? '')?.[1] ?? ''

export class WrittenTelephone {
  /** Requests that it has got, oldest first. */
  readonly asked: string[] = []
  /** What it says to the next changes of a dialog, one after the other; then 200. */
  readonly refusals: number[] = []
  private readonly socket = createSocket('udp4')
  private readonly waiting = new Map<string, (answer: string) => void>()
  /** An INVITE that rings. */
  private ringing: string | null = null

  private constructor(readonly name: string, private readonly secret: string, private readonly where: string) {}

  /** One that has not registered. */
  static async open(name: string, secret: string, where: string): Promise<WrittenTelephone> {
    const set = new WrittenTelephone(name, secret, where)
    set.socket.on('message', packet => set.hear(packet.toString()))
    await new Promise<void>(resolve => set.socket.bind(0, where.split(':')[0], resolve))
    return set
  }

  static async start(name: string, secret: string, where: string): Promise<WrittenTelephone> {
    const set = await WrittenTelephone.open(name, secret, where)
    const { answer } = await set.ask('REGISTER', `sip:${where}`, { fields: ['Expires: 300'] })
    if (!answer.startsWith('SIP/2.0 200')) throw new Error(answer)
    return set
  }

  stop(): void {
    this.socket.close()
  }

  /** What it says of its sound: it has none. */
  get sdp(): string {
    const { address, port } = this.socket.address()
    return `v=0\r\no=- 1 1 IN IP4 ${address}\r\ns=-\r\nc=IN IP4 ${address}\r\nt=0 0\r\nm=audio ${port} RTP/AVP 0\r\na=recvonly\r\n`
  }

  /** Asks something outside of any dialog, with a proof where one is wanted. */
  async ask(method: string, target: string, { fields = [], body = '' }: { fields?: string[], body?: string } = {}) {
    const own = `sip:${this.name}@${this.where}`
    const [call, tag] = [randomUUID(), randomUUID()]
    const send = (cseq: number, more: string[]) => this.request(method, target, [
      `To: <${method === 'REGISTER' ? own : target}>`, `From: <${own}>;tag=${tag}`, `Call-ID: ${call}`, `CSeq: ${cseq} ${method}`, ...fields, ...more,
    ], body)
    const first = await send(1, [])
    const answer = first.startsWith('SIP/2.0 401') ? await send(2, [this.proof(first, method, target)]) : first
    const dialog: Dialog = {
      call, own: tag, far: tagOf(fieldOf(answer, 'To')), target: /<([^>]+)>/.exec(fieldOf(answer, 'Contact') ?? '')?.[1] ?? target, cseq: 2, ownUri: own,
      farUri: target,
    }
    return { answer, dialog }
  }

  /** Calls a number, and acknowledges what comes of it. */
  async dial(number: string, fields: string[] = []): Promise<{ answer: string, dialog: Dialog }> {
    const called = await this.ask('INVITE', `sip:${number}@${this.where}`, { fields: [...fields, 'Content-Type: application/sdp'], body: this.sdp })
    if (called.answer.startsWith('SIP/2.0 200')) this.acknowledge(called.dialog)
    return called
  }

  /** Asks something in a dialog. */
  within(dialog: Dialog, method: string, fields: string[] = [], body = ''): Promise<string> {
    dialog.cseq++
    return this.request(method, dialog.target, this.dialogFields(dialog, method, fields), body)
  }

  /** Answers what rings. */
  lift(fields: string[] = []): Dialog {
    const invite = this.ringing!
    this.ringing = null
    const own = randomUUID()
    this.reply(invite, 200, { tag: own, fields: ['Content-Type: application/sdp', ...fields], body: this.sdp })
    const uriOf = (name: string) => /<([^>]+)>/.exec(fieldOf(invite, name) ?? '')![1]!
    return {
      call: fieldOf(invite, 'Call-ID')!, own, far: tagOf(fieldOf(invite, 'From')), target: uriOf('Contact'), cseq: 1, ownUri: uriOf('To'),
      farUri: uriOf('From'),
    }
  }

  get rings(): boolean {
    return this.ringing !== null
  }

  private acknowledge(dialog: Dialog): void {
    this.say(`ACK ${dialog.target} SIP/2.0`, this.dialogFields(dialog, 'ACK'), '')
  }

  private dialogFields({ call, own, far, ownUri, farUri, cseq }: Dialog, method: string, fields: string[] = []): string[] {
    return [`To: <${farUri}>;tag=${far}`, `From: <${ownUri}>;tag=${own}`, `Call-ID: ${call}`, `CSeq: ${cseq} ${method}`, ...fields]
  }

  private request(method: string, target: string, fields: string[], body: string): Promise<string> {
    const branch = `z9hG4bK${randomUUID()}`
    const answered = new Promise<string>(resolve => this.waiting.set(branch, resolve))
    this.say(`${method} ${target} SIP/2.0`, fields, body, branch)
    return answered
  }

  private say(line: string, fields: string[], body: string, branch = `z9hG4bK${randomUUID()}`): void {
    const { address, port } = this.socket.address()
    this.send([
      line, `Via: SIP/2.0/UDP ${address}:${port};branch=${branch};rport`, 'Max-Forwards: 70', ...fields, `Contact: <sip:${this.name}@${address}:${port}>`,
      `Content-Length: ${Buffer.byteLength(body)}`, '', body,
    ].join('\r\n'))
  }

  private send(text: string): void {
    const [address, port] = this.where.split(':')
    this.socket.send(text, Number(port), address)
  }

  private reply(request: string, status: number, { tag = 'own', fields = [] as string[], body = '' } = {}): void {
    const kept = request.split('\r\n').filter(line => /^(via|from|call-id|cseq):/i.test(line))
    const to = fieldOf(request, 'To')!
    const { address, port } = this.socket.address()
    this.send([
      `SIP/2.0 ${status} So`, ...kept, `To: ${to.includes('tag=') ? to : `${to};tag=${tag}`}`, `Contact: <sip:${this.name}@${address}:${port}>`, ...fields,
      `Content-Length: ${Buffer.byteLength(body)}`, '', body,
    ].join('\r\n'))
  }

  private hear(text: string): void {
    // What it is to hear comes here too, and nobody listens.
    if (!/^[A-Z]/.test(text)) return
    if (text.startsWith('SIP/2.0')) {
      const branch = /branch=([^;\s]+)/.exec(text)![1]!
      if (text.startsWith('SIP/2.0 1')) return
      this.waiting.get(branch)?.(text)
      return void this.waiting.delete(branch)
    }
    this.asked.push(text)
    const [method] = text.split(' ')
    if (method === 'ACK') return
    if (method !== 'INVITE') return this.reply(text, 200)
    const refusal = this.refusals.shift()
    if (refusal !== undefined) return this.reply(text, refusal)
    if (fieldOf(text, 'To')!.includes('tag=')) return this.reply(text, 200, { fields: ['Content-Type: application/sdp'], body: this.sdp })
    this.ringing = text
    this.reply(text, 180)
  }

  private proof(challenge: string, method: string, target: string): string {
    const nonce = /nonce="([^"]+)"/.exec(challenge)![1]!
    const hash = (text: string) => createHash('sha256').update(text).digest('hex')
    const response = hash(`${hash(`${this.name}:${telephoneRealm}:${this.secret}`)}:${nonce}:00000001:c:auth:${hash(`${method}:${target}`)}`)
    return `Authorization: Digest username="${this.name}", realm="${telephoneRealm}", nonce="${nonce}", uri="${target}", response="${response}", `
      + 'algorithm=SHA-256, qop=auth, nc=00000001, cnonce="c"'
  }
}
