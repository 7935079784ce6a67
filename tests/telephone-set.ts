import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { createHash, randomUUID } from 'node:crypto'
import { createSocket } from 'node:dgram'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { connect, type Socket } from 'node:net'
import { networkInterfaces, tmpdir } from 'node:os'
import { join } from 'node:path'
import { anyPort } from '../scripts/processes.mjs'
import { type TelephoneAccount, telephoneRealm } from '../shared/telephone-accounts'
import { WrittenTelephone } from './written-telephone'

/** Telephones that nobody here wrote: Debian's baresip, with a tone as microphone and what it hears in a file. */

/** An address of this machine that is not loopback: baresip takes no other. */
export function ownAddress(): string {
  const own = Object.values(networkInterfaces()).flat().find(one => one && one.family === 'IPv4' && !one.internal)
  if (!own) throw new Error('This machine has no address beside loopback.')
  return own.address
}

/** What the exchange is told of a telephone, by its secret. */
export function accountOf(device: string, name: string, secret: string, unheard = 0): TelephoneAccount {
  const hash = (algorithm: string) => createHash(algorithm).update(`${name}:${telephoneRealm}:${secret}`).digest('hex')
  return { device, name, md5: hash('md5'), sha256: hash('sha256'), unheard }
}

/** What a server shows that speaks TLS (PEM), made here. */
export function ownCertificate(): { key: string, cert: string } {
  const folder = mkdtempSync(join(tmpdir(), 'certificate-'))
  const [key, cert] = [join(folder, 'key.pem'), join(folder, 'cert.pem')]
  const asked = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=estafette']
  execFileSync('openssl', [...asked, '-keyout', key, '-out', cert], { stdio: 'ignore' })
  return { key: readFileSync(key, 'utf8'), cert: readFileSync(cert, 'utf8') }
}

/** A tone as WAV (8 kHz, 16 bits). */
function toneOf(frequency: number, seconds: number): Buffer {
  const samples = Int16Array.from({ length: 8_000 * seconds }, (_, at) => Math.round(8_000 * Math.sin(2 * Math.PI * frequency * at / 8_000)))
  const head = Buffer.alloc(44)
  head.write('RIFF', 0)
  head.writeUInt32LE(36 + samples.byteLength, 4)
  head.write('WAVEfmt ', 8)
  head.writeUInt32LE(16, 16)
  head.writeUInt16LE(1, 20)
  head.writeUInt16LE(1, 22)
  head.writeUInt32LE(8_000, 24)
  head.writeUInt32LE(16_000, 28)
  head.writeUInt16LE(2, 32)
  head.writeUInt16LE(16, 34)
  head.write('data', 36)
  head.writeUInt32LE(samples.byteLength, 40)
  return Buffer.concat([head, Buffer.from(samples.buffer)])
}

/** How loud one frequency is in samples (Goertzel), from 0 to 1 of a tone at full strength. */
export function loudness(samples: Int16Array, frequency: number): number {
  const turn = 2 * Math.PI * frequency / 8_000
  let [one, two] = [0, 0]
  for (const sample of samples) [one, two] = [sample / 32_768 + 2 * Math.cos(turn) * one - two, one]
  return 2 * Math.sqrt(Math.max(0, one * one + two * two - 2 * Math.cos(turn) * one * two)) / Math.max(1, samples.length)
}

export type BaresipEvent = { event: true, type: string, class: string, id?: string, peeruri?: string, peerdisplayname?: string, param?: string }

/** This make says nothing when it is asked for SHA-256, and tries again a minute later: that first try is made for it. */
async function firstTry(name: string, where: string): Promise<void> {
  const [address, port] = where.split(':') as [string, string]
  const socket = createSocket('udp4')
  const answered = new Promise(resolve => socket.once('message', resolve))
  socket.send([
    `REGISTER sip:${where} SIP/2.0`, `Via: SIP/2.0/UDP ${address}:9;branch=z9hG4bK${randomUUID()};rport`, 'Max-Forwards: 70', `To: <sip:${name}@${where}>`,
    `From: <sip:${name}@${where}>;tag=first`, `Call-ID: ${randomUUID()}`, 'CSeq: 1 REGISTER', 'Content-Length: 0', '', '',
  ].join('\r\n'), Number(port), address)
  await answered
  socket.close()
}

export class Baresip {
  readonly events: BaresipEvent[] = []
  private readonly folder = mkdtempSync(join(tmpdir(), 'telephone-'))
  private child!: ChildProcess
  private control!: Socket
  output = ''

  private static readonly started = new Set<Baresip>()

  /** Also those of a test that has failed half-way. */
  static async stopAll(): Promise<void> {
    await Promise.all([...Baresip.started].map(set => set.stop()))
  }

  /** Where it listens itself. */
  port = 0

  /** @param where `address:port` of the exchange; without a secret it does not register; `secret`: by TLS, and what is said is encrypted */
  static async start(name: string, password: string | null, where: string, tone: number, { secret = false } = {}): Promise<Baresip> {
    const set = new Baresip()
    Baresip.started.add(set)
    const { folder } = set
    if (password !== null) await firstTry(name, where)
    mkdirSync(join(folder, 'heard'), { recursive: true })
    writeFileSync(join(folder, 'tone.wav'), toneOf(tone, 120))
    // The port of TLS is the next one.
    const [address, port] = where.split(':')
    const account = `<sip:${name}@${address}:${Number(port) + Number(secret)};transport=${secret ? 'tls' : 'udp'}>`
    const proof = password === null ? 'regint=0' : `auth_pass=${password};regint=60`
    writeFileSync(join(folder, 'accounts'), `${account};${proof}${secret ? ';mediaenc=srtp' : ''}\n`)
    // A free port of TCP need not be one of UDP, nor the next one.
    for (let tried = 0; !await set.open(address!); tried++) if (tried > 5) throw new Error(`baresip did not start: ${set.output}`)
    return set
  }

  /** @returns false where its ports were taken, so that it has ended */
  private async open(address: string): Promise<boolean> {
    const { folder } = this
    const [sip, control] = [await anyPort(), await anyPort()]
    this.port = sip
    writeFileSync(join(folder, 'config'), [
      'module_path /usr/lib/baresip/modules', 'module srtp.so', 'module account.so', 'module g711.so', 'module aufile.so', 'module sndfile.so',
      'module_app menu.so', 'module_app ctrl_tcp.so', `sip_listen ${address}:${sip}`, `ctrl_tcp_listen 127.0.0.1:${control}`,
      `audio_source aufile,${join(folder, 'tone.wav')}`,
      `snd_path ${join(folder, 'heard')}`, 'ausrc_srate 8000', 'auplay_srate 8000', 'call_max_calls 4', 'ring_aufile none', 'ringback_disabled yes', '',
    ].join('\n'))
    const child = spawn('baresip', ['-f', folder], { stdio: ['ignore', 'pipe', 'pipe'] })
    this.child = child
    for (const stream of [child.stdout, child.stderr]) stream.on('data', chunk => this.output += chunk)
    const ended = new Promise<false>(resolve => child.once('exit', () => resolve(false)).once('error', () => resolve(false)))
    for (;;) {
      const socket = connect(control, '127.0.0.1')
      const isThere = await new Promise<boolean>(resolve => socket.once('connect', () => resolve(true)).once('error', () => resolve(false)))
      if (isThere) {
        this.listen(socket)
        return true
      }
      const goesOn = await Promise.race([ended, new Promise<true>(resolve => setTimeout(() => resolve(true), 50))])
      if (!goesOn) return false
    }
  }

  /** Does something at the telephone: dial, accept, hangup, hold, resume, transfer … */
  press(command: string, params = ''): void {
    const text = JSON.stringify({ command, params })
    this.control.write(`${Buffer.byteLength(text)}:${text},`)
  }

  saw(type: string): boolean {
    return this.events.some(event => event.type === type)
  }

  count(type: string): number {
    return this.events.filter(event => event.type === type).length
  }

  /** What happened before is of no interest any more. */
  clear(): void {
    this.events.length = 0
  }

  /** Bytes of what it has heard in its latest call. */
  get heard(): number {
    return this.latest?.length ?? 0
  }

  /** What it has heard in the last second of what it kept, by frequency. */
  hears(frequency: number, second = 1): number {
    const bytes = this.latest
    if (!bytes) return 0
    const begin = bytes.indexOf('data') + 8
    const samples = new Int16Array(bytes.buffer.slice(bytes.byteOffset + begin, bytes.byteOffset + bytes.length - ((bytes.length - begin) % 2)))
    return samples.length < 8_000 * second ? 0 : loudness(samples.slice(-8_000 * second), frequency)
  }

  private get latest(): Buffer | null {
    const folder = join(this.folder, 'heard')
    const files = readdirSync(folder).filter(name => name.endsWith('-dec.wav')).map(name => join(folder, name))
    const latest = files.sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs)[0]
    return latest ? readFileSync(latest) : null
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    this.control?.destroy()
    if (!this.child || this.child.exitCode !== null || this.child.signalCode !== null) return
    const ended = new Promise(resolve => this.child.once('exit', resolve))
    this.child.kill(signal)
    await ended
  }

  private listen(socket: Socket): void {
    this.control = socket
    socket.on('error', () => {})
    let rest = ''
    socket.on('data', (chunk) => {
      rest += chunk.toString()
      for (;;) {
        const [, length] = /^(\d+):/.exec(rest) ?? []
        if (!length || rest.length < length.length + 2 + Number(length)) return
        const said = JSON.parse(rest.slice(length.length + 1, length.length + 1 + Number(length))) as BaresipEvent
        rest = rest.slice(length.length + 2 + Number(length))
        if (said.event) this.events.push(said)
        else this.output += `${JSON.stringify(said)}\n`
      }
    })
  }
}

/** The lamp of a telephone (RFC 6665), as its maker would write it: asks for what it shows, and says that it has heard. */
export class Lamp {
  private constructor(private readonly telephone: WrittenTelephone) {}

  /** @param what `message-summary` or `dialog`; `of` whose number it is */
  static async ask(what: string, of: string, account: { name: string, secret: string }, where: string): Promise<Lamp> {
    const telephone = await WrittenTelephone.open(account.name, account.secret, where)
    const { answer } = await telephone.ask('SUBSCRIBE', `sip:${of}@${where}`, { fields: [`Event: ${what}`, 'Expires: 600'] })
    if (!answer.startsWith('SIP/2.0 200')) throw new Error(answer)
    return new Lamp(telephone)
  }

  /** What it was told last. */
  get shown(): string {
    return this.telephone.asked.findLast(text => text.startsWith('NOTIFY'))?.split('\r\n\r\n')[1] ?? ''
  }

  stop(): void {
    this.telephone.stop()
  }
}
