import { randomUUID } from 'node:crypto'
import {
  C, type IncomingInviteRequest, type IncomingReferRequest, IncomingRequestMessage, type IncomingResponseMessage, Levels, LoggerFactory,
  type NameAddrHeader, type Session,
  SessionState, URI, UserAgentCore,
} from 'sip.js/lib/core/index.js'
import type { Call, CallId, Cause, DeviceId, NumberedEvent, RefusalCode, Request } from '../../core/calls/model'
import { isSlot } from '../../core/calls/names'
import { callsOf, connectionOf, othersOf } from '../../core/calls/questions'
import { lookUp } from '../../core/company/lookups'
import { type TelephoneAccount, telephoneRealm } from '../../shared/telephone-accounts'
import type { Reply, Switch } from '../switch'
import { dialled, slotOf } from './dialled'
import { Digest } from './digest'
import { Lamps } from './lamps'
import { type Binding, elsewhere, hangUp, isHold, type Line, newLine, quoted, sayBye, sdpBody } from './line'
import { unescaped } from './reading'
import { Registrar } from './registrar'
import { SoundDoor, SoundRefused } from './sound-door'
import { type Peer, type Protocol, Wire, type WireOptions } from './wire'

/**
 * Telephones of the network (RFC 3261) as one of those who hear what happens at the exchange and act: what is done at a telephone becomes the services that a
 * console asks for, and what happens is told to it. No rule about calls stands here.
 */

const allowed = 'INVITE, ACK, CANCEL, BYE, OPTIONS, INFO, NOTIFY, REFER, SUBSCRIBE, MESSAGE, REGISTER'

export interface TelephonesOptions extends WireOptions {
  /** The doors of the sound process, and its secret. */
  soundPort: number
  token: string
  log: (text: string) => void
}

export class Telephones {
  private readonly wire: Wire
  private readonly cores = new Map<Protocol, UserAgentCore>()
  private readonly digest: Digest
  private readonly registrar: Registrar
  private readonly sound: SoundDoor
  private readonly lamps: Lamps
  private readonly lines = new Map<DeviceId, Line[]>()
  private accounts = new Map<string, TelephoneAccount>()
  private byDevice = new Map<DeviceId, TelephoneAccount>()
  private readonly unsettled = new Set<DeviceId>()
  private settling = false
  /** Why the latest calls ended. */
  private readonly ends = new Map<CallId, Cause>()
  private readonly timer: NodeJS.Timeout

  constructor(private readonly exchange: Switch, private readonly options: TelephonesOptions) {
    const loggers = new LoggerFactory()
    loggers.builtinEnabled = false
    loggers.level = Levels.warn
    loggers.connector = (level, _category, _label, text) => level === 'error' && options.log(`sip: ${String(text)}`)
    this.wire = new Wire(options, loggers.getLogger('wire'), (message, peer) => this.hear(message, peer))
    this.digest = new Digest(telephoneRealm, name => this.accounts.get(name))
    this.registrar = new Registrar((device, isThere) => this.report(device, isThere))
    this.sound = new SoundDoor(options.soundPort, options.token, (session, word) => this.heard(session, word))
    this.lamps = new Lamps(() => this.exchange.state, {
      unheard: device => this.byDevice.get(device)?.unheard ?? 0,
      dialogs: device => this.linesOf(device).flatMap(({ call, session }) => call && session
        ? [{ call, callId: session.callId, localTag: session.localTag, remoteTag: session.remoteTag }]
        : []),
      host: options.address,
    })
    for (const protocol of ['udp', 'tcp', 'tls'] as const) this.cores.set(protocol, this.core(protocol, loggers))
    exchange.onEvent(event => this.happened(event))
    this.timer = setInterval(() => this.lamps.expire(), 5_000)
  }

  /** @throws when the address can't be listened on */
  async open(): Promise<void> {
    await this.wire.open()
    const { address, port } = this.wire
    for (const [protocol, core] of this.cores) {
      const at = protocol === 'tls' ? port + 1 : port
      const own = core.configuration as { viaHost: string }
      own.viaHost = `${address}:${at}`
      core.configuration.contact.uri.host = address
      core.configuration.contact.uri.port = at
      if (protocol !== 'udp') core.configuration.contact.uri.setParam('transport', protocol)
    }
  }

  get port(): number {
    return this.wire.port
  }

  /** Who guesses at accounts, and from where. */
  get guessing() {
    return this.digest.guessing
  }

  /** Those that may register from now on. Whoever is not among them any more is let go at once. */
  know(accounts: readonly TelephoneAccount[]): void {
    const before = this.byDevice
    this.accounts = new Map(accounts.map(account => [account.name, account]))
    this.byDevice = new Map(accounts.map(account => [account.device, account]))
    const changed = new Set<DeviceId>()
    for (const [device, { md5, name, unheard }] of before) {
      const now = this.byDevice.get(device)
      if (now && now.unheard !== unheard) changed.add(device)
      if (now?.md5 === md5 && now.name === name) continue
      this.registrar.removeAll(device)
      this.lamps.forget(device)
      const calls = this.linesOf(device).flatMap(({ call }) => call ?? [])
      for (const line of this.linesOf(device)) this.end(line, { statusCode: 403 })
      // Whoever has a console, or the stand-in handset, goes on there; else nobody is there any more.
      const { agents, devices } = this.exchange.state
      if (!agents.get(device)?.attended && !devices.get(device)?.handset) for (const call of calls) this.ask({ service: 'clearConnection', device, call })
      if (!now && devices.has(device)) this.ask({ service: 'reportTelephone', device, registered: null })
    }
    for (const device of this.byDevice.keys()) this.report(device, this.registrar.of(device).length > 0)
    this.lamps.changed(changed)
  }

  close(): void {
    clearInterval(this.timer)
    this.sound.close()
    this.registrar.close()
    for (const core of this.cores.values()) core.dispose()
    this.wire.close()
  }

  private core(protocol: Protocol, loggerFactory: LoggerFactory): UserAgentCore {
    const contact = new URI('sip', 'estafette', 'localhost', 5060)
    const core: UserAgentCore = new UserAgentCore({
      // An exchange answers for all of its numbers: it is asked for the number of each request before that reaches the core.
      aor: new URI('sip', 'estafette', 'localhost'),
      contact: { pubGruu: undefined, tempGruu: undefined, uri: contact, toString: () => `<${contact.toRaw()}>` },
      displayName: '', loggerFactory, hackViaTcp: false, routeSet: [], sipjsId: randomUUID().slice(0, 5), supportedOptionTags: ['replaces'],
      supportedOptionTagsResponse: ['replaces'], userAgentHeaderFieldValue: 'Estafette', viaForceRport: true, viaHost: 'localhost',
      authenticationFactory: () => undefined,
      transportAccessor: () => ({
        protocol: protocol.toUpperCase(),
        send: (text: string) => {
          this.wire.send(text)
          return Promise.resolve()
        },
      }),
    }, {
      onInvite: request => void this.invited(request, core).catch(error => this.options.log(`sip: ${(error as Error).message}`)),
      onRefer: request => request.reject({ statusCode: 403 }),
    })
    return core
  }

  // ———

  private hear(message: IncomingRequestMessage | IncomingResponseMessage, peer: Peer): void {
    const core = this.cores.get(peer.protocol)!
    try {
      if (message instanceof IncomingRequestMessage) this.asked(core, message, peer)
      else core.receiveIncomingResponseFromTransport(message)
    }
    catch (error) {
      this.options.log(`sip: ${(error as Error).message}`)
    }
  }

  private asked(core: UserAgentCore, message: IncomingRequestMessage, peer: Peer): void {
    const { method } = message
    const isWithin = Boolean(message.toTag) && method !== C.SUBSCRIBE
    if (method === C.ACK || method === C.CANCEL || isWithin) {
      if (isWithin && core.dialogs.has(message.callId + message.toTag + message.fromTag)) this.learn(message, peer)
      return this.pass(core, message)
    }
    // Strangers who look what is here hear nothing.
    if (method === C.OPTIONS) return this.isKnown(peer) ? void core.replyStateless(message, { statusCode: 200, extraHeaders: [`Allow: ${allowed}`] }) : undefined
    const proof = this.digest.prove(method, message.getHeader('authorization'), message.from.uri.user ?? '', peer.address)
    if (proof === 'throttled') return
    if ('challenge' in proof) return void core.replyStateless(message, { statusCode: 401, extraHeaders: proof.challenge })
    const { device, name } = proof.account
    if (method === C.REGISTER) {
      if (message.to.uri.user !== name) return void core.replyStateless(message, { statusCode: 403 })
      const answer = this.registrar.register(device, message, peer)
      if (answer.statusCode === 200) this.learn(message, peer)
      return void core.replyStateless(message, answer)
    }
    if (method === C.SUBSCRIBE) {
      this.learn(message, peer)
      return this.lamps.subscribe(core, device, message)
    }
    if (method === C.INVITE) {
      this.learn(message, peer)
      this.askers.set(message, { device, peer })
      return this.pass(core, message)
    }
    core.replyStateless(message, { statusCode: 405, extraHeaders: [`Allow: ${allowed}`] })
  }

  private readonly askers = new WeakMap<IncomingRequestMessage, { device: DeviceId, peer: Peer }>()

  private pass(core: UserAgentCore, message: IncomingRequestMessage): void {
    if (message.ruri) core.configuration.aor.user = message.ruri.user
    core.receiveIncomingRequestFromTransport(message)
  }

  private isKnown({ address }: Peer): boolean {
    return [...this.byDevice.keys()].some(device => this.registrar.of(device).some(({ peer }) => peer.address === address))
  }

  private learn(message: IncomingRequestMessage, peer: Peer): void {
    for (const at of message.getHeaders('contact').keys()) this.wire.learn((message.parseHeader('contact', at) as NameAddrHeader).uri.toRaw(), peer)
  }

  private ask(request: Request): Reply {
    return this.exchange.request(`sip:${randomUUID()}`, request)
  }

  private report(device: DeviceId, isThere: boolean): void {
    if (this.byDevice.has(device) && this.exchange.state.devices.has(device)) this.ask({ service: 'reportTelephone', device, registered: isThere })
    this.unsettle(device)
  }

  // What happens at the exchange ———

  private happened(event: NumberedEvent): void {
    if (event.type === 'configured') for (const device of this.byDevice.keys()) this.report(device, this.registrar.of(device).length > 0)
    if (event.type === 'callCleared' || event.type === 'failed') {
      this.ends.set(event.call, event.cause)
      if (this.ends.size > 2_000) this.ends.delete(this.ends.keys().next().value!)
    }
    const { state } = this.exchange
    const call = 'call' in event ? state.calls.get(event.call) : undefined
    const concerned = new Set(call?.connections.map(({ device }) => device))
    if ('device' in event && event.device) concerned.add(event.device)
    if ('slot' in event) concerned.add(event.slot)
    if ('call' in event) for (const [device, lines] of this.lines) if (lines.some(line => line.call === event.call)) concerned.add(device)
    for (const device of concerned) this.unsettle(device)
  }

  private unsettle(device: DeviceId): void {
    this.unsettled.add(device)
    if (this.settling) return
    this.settling = true
    // What is done at a telephone may make more happen: each is looked at when the exchange has done everything that follows.
    queueMicrotask(() => {
      this.settling = false
      const devices = new Set(this.unsettled)
      this.unsettled.clear()
      for (const one of devices) if (this.byDevice.has(one) || this.lines.has(one)) this.settle(one)
      this.lamps.changed(devices)
    })
  }

  private linesOf(device: DeviceId): Line[] {
    return this.lines.get(device) ?? []
  }

  private add(line: Line): void {
    this.lines.set(line.device, [...this.linesOf(line.device), line])
  }

  private end(line: Line, why: { statusCode: number, reason?: string }): void {
    hangUp(line, why)
    this.drop(line)
  }

  private drop(line: Line): void {
    line.state = 'over'
    this.sound.end(line.id)
    const rest = this.linesOf(line.device).filter(other => other !== line)
    if (rest.length > 0) this.lines.set(line.device, rest)
    else this.lines.delete(line.device)
  }

  /** Makes the dialogs of a telephone what the calls at it are. */
  private settle(device: DeviceId): void {
    const { state } = this.exchange
    const calls = callsOf(state, device)
    const isFree = (call: Call) => !this.linesOf(device).some(line => line.call === call.id)
    for (const line of this.linesOf(device)) {
      const call = line.call === null ? undefined : state.calls.get(line.call)
      const own = call && connectionOf(call, device)
      if (line.state === 'calls') this.settleCalling(line, own && call)
      else if (line.state === 'refused' && own?.state !== 'alerting') this.drop(line)
      else if (line.state === 'rings' && own?.state !== 'alerting' && !(line.byItself && own)) {
        // Answered at the console: the telephone is to answer by itself, or to be silent if somebody is heard there already.
        this.end(line, { statusCode: 487, reason: call ? elsewhere : undefined })
      }
      else if (line.state === 'up' && !own) {
        const next = calls.find(other => isFree(other) && connectionOf(other, device)!.state !== 'alerting')
        if (next) line.call = next.id
        else this.end(line, { statusCode: 487 })
      }
    }
    for (const call of calls.filter(isFree)) {
      const own = connectionOf(call, device)!
      if (own.state === 'alerting') this.ring(device, call, false)
      if (own.state !== 'connected') continue
      const idle = this.linesOf(device).find(line => line.state === 'up' && !line.onHold && this.isHeldHere(line))
      if (idle) idle.call = call.id
      else this.ring(device, call, true)
    }
  }

  private isHeldHere({ call, device }: Line): boolean {
    const its = this.exchange.state.calls.get(call ?? '')
    return !its || connectionOf(its, device)?.state === 'held'
  }

  private settleCalling(line: Line, call: Call | undefined): void {
    if (!line.asked || !line.sdp) return
    if (!call) return this.end(line, { statusCode: statusOfCause(this.ends.get(line.call ?? '')) })
    if (call.failed) {
      const { cause } = call.failed
      this.ask({ service: 'clearConnection', device: line.device, call: call.id })
      return this.end(line, { statusCode: statusOfCause(cause) })
    }
    const others = othersOf(call, line.device)
    if (others.some(({ state }) => state === 'connected' || state === 'held')) {
      const { asked } = line
      line.asked = undefined
      line.state = 'up'
      const { session } = asked.accept({ statusCode: 200, body: sdpBody(line.sdp) })
      return this.follow(line, session)
    }
    // Who waits in a queue hears where they stand; while somebody is rung the telephone makes its own tone.
    const status = others.some(({ state }) => state === 'queued') ? 183 : 180
    if (line.told === status) return
    line.told = status
    line.asked.progress({ statusCode: status, ...status === 183 && { body: sdpBody(line.sdp) } })
  }

  // Calls to a telephone ———

  private ring(device: DeviceId, call: Call, byItself: boolean): void {
    const bindings = this.registrar.of(device)
    const [first] = bindings
    if (!first) return
    const line = newLine({ device, call: call.id, state: 'rings', core: this.cores.get(first.peer.protocol)!, peer: first.peer, byItself })
    this.add(line)
    void this.invite(line, bindings, this.callerOf(call, device)).catch((error: Error) => {
      this.options.log(`sip: ${error.message}`)
      line.state = 'refused'
    })
  }

  private async invite(line: Line, bindings: readonly Binding[], caller: { name: string, number: string }): Promise<void> {
    const { device, byItself } = line
    const { sdp } = await this.sound.describe({
      session: line.id, device, address: this.wire.address, peer: line.peer.address, ...byItself && { alone: true },
    })
    if (line.state !== 'rings') return this.sound.end(line.id)
    if (sdp === null) return this.drop(line)
    const from = new URI('sip', caller.number || 'anonymous', caller.number ? this.wire.address : 'anonymous.invalid')
    for (const { uri, peer } of bindings) {
      const core = this.cores.get(peer.protocol)!
      this.wire.learn(uri.toRaw(), peer)
      const message = core.makeOutgoingRequestMessage(
        C.INVITE, uri, from, new URI('sip', this.byDevice.get(device)?.name ?? device, this.wire.address), { fromDisplayName: caller.name },
        [
          `Contact: ${core.configuration.contact.toString()}`, `Allow: ${allowed}`,
          `P-Asserted-Identity: "${caller.name}" <${from.toRaw()}>`,
          ...byItself ? ['Answer-Mode: Auto', 'Alert-Info: <urn:alert:source:internal>;info=alert-autoanswer', `Call-Info: <${from.toRaw()}>;answer-after=0`] : [],
        ],
        sdpBody(sdp),
      )
      const fork = core.invite(message, {
        onAccept: (response) => {
          line.forks.delete(fork)
          void this.accepted(line, core, peer, response.session, response.message.body).catch((error: Error) => {
            this.options.log(`sip: ${error.message}`)
          })
          response.ack()
          if (line.state === 'over' || line.session !== response.session) sayBye(response.session, elsewhere)
        },
        onReject: ({ message: { statusCode } }) => this.rejected(line, fork, uri, statusCode ?? 500),
      })
      line.forks.add(fork)
    }
  }

  /** Somebody has lifted: the first of several, and they may be too late. */
  private async accepted(line: Line, core: UserAgentCore, peer: Peer, session: Session, answer: string): Promise<void> {
    if (line.state !== 'rings') return
    line.state = 'up'
    line.core = core
    line.peer = peer
    this.follow(line, session)
    for (const fork of line.forks) fork.cancel(elsewhere)
    line.forks.clear()
    const { call, device } = line
    const own = connectionOf(this.exchange.state.calls.get(call ?? '') ?? noCall, device)
    if (own?.state === 'alerting' && this.ask({ service: 'answerCall', device, call: call! }).refusal) return this.end(line, { statusCode: 487, reason: elsewhere })
    // A telephone that has been lifted is heard: nobody speaks into an empty room any more.
    if (own?.byItself) this.unsettle(device)
    try {
      await this.sound.describe({ session: line.id, device, address: this.wire.address, peer: peer.address, answer })
    }
    catch (error) {
      // Nothing that it can do: it hears silence, and the call goes back to where unanswered calls go.
      if (error instanceof SoundRefused) this.left(line)
      else throw error
    }
  }

  private rejected(line: Line, fork: unknown, uri: URI, status: number): void {
    line.forks.delete(fork as never)
    if (line.state !== 'rings') return
    // Nobody is there any more.
    if (status === 408 || status === 503 || status === 404) this.registrar.remove(line.device, uri)
    const isRefused = status >= 600 || status === 486 || status === 480 || status === 603
    if (status >= 600) {
      for (const other of line.forks) other.cancel(elsewhere)
      line.forks.clear()
    }
    if (line.forks.size > 0) return
    line.state = 'refused'
    const own = connectionOf(this.exchange.state.calls.get(line.call ?? '') ?? noCall, line.device)
    if (isRefused && own?.state === 'alerting') this.ask({ service: 'clearConnection', device: line.device, call: line.call! })
    this.unsettle(line.device)
  }

  // Calls of a telephone ———

  private async invited(request: IncomingInviteRequest, core: UserAgentCore): Promise<void> {
    const { message } = request
    const asker = this.askers.get(message)
    if (!asker) return void request.reject({ statusCode: 403 })
    const { device, peer } = asker
    let cancelled = false
    request.delegate = { onCancel: () => {
      cancelled = true
      const line = this.linesOf(device).find(({ asked }) => asked === request)
      request.reject({ statusCode: 487 })
      if (!line) return
      line.asked = undefined
      this.left(line)
    } }
    request.trying()
    const line = newLine({ device, call: null, state: 'calls', core, peer, asked: request })
    let sdp: string | null
    try {
      const offer = message.body && /^application\/sdp/i.test(message.getHeader('content-type') ?? '') ? { offer: message.body } : {}
      sdp = (await this.sound.describe({ session: line.id, device, address: this.wire.address, peer: peer.address, ...offer })).sdp
    }
    catch (error) {
      if (!cancelled) request.reject(error instanceof SoundRefused ? { statusCode: 488 } : { statusCode: 503, extraHeaders: ['Retry-After: 5'] })
      return
    }
    if (cancelled) return this.sound.end(line.id)
    const begun = this.begin(device, message)
    if (!begun || 'refusal' in begun) {
      this.sound.end(line.id)
      return void request.reject({ statusCode: begun ? statusOfRefusal[begun.refusal] ?? 403 : 404 })
    }
    line.sdp = sdp!
    line.call = begun.call
    this.add(line)
    if (begun.call === null) {
      // What was dialled is done: the telephone hears that by the end of its call.
      line.state = 'up'
      line.asked = undefined
      const { session } = request.accept({ statusCode: 200, body: sdpBody(sdp!) })
      line.session = session
      return this.end(line, { statusCode: 200 })
    }
    this.settle(device)
  }

  /** What a telephone wants that has dialled: the call that it has then, or null when something has been done. */
  private begin(device: DeviceId, message: IncomingRequestMessage): { call: CallId | null } | { refusal: RefusalCode } | null {
    const replaces = message.getHeader('replaces')
    const { state } = this.exchange
    if (replaces) {
      const replaced = this.dialogNamed(replaces)
      if (!replaced?.call) return null
      const reply = this.ask({ service: 'directedPickupCall', device, call: replaced.call })
      return reply.refusal ? { refusal: reply.refusal.code } : { call: replaced.call }
    }
    const digits = message.ruri?.user ?? ''
    const wanted = dialled(state, device, digits)
    if (!wanted) return null
    const request = 'begins' in wanted ? wanted.begins : wanted.does
    const before = new Set(callsOf(state, device).map(({ id }) => id))
    const reply = this.ask(request)
    if (reply.refusal) return { refusal: reply.refusal.code }
    if ('does' in wanted) return { call: null }
    const call = reply.call ?? callsOf(this.exchange.state, device).find(({ id }) => !before.has(id))?.id
    return call ? { call } : null
  }

  private dialogNamed(replaces: string): Line | undefined {
    const [callId, ...parameters] = replaces.split(';').map(part => part.trim())
    const tag = (name: string) => parameters.find(parameter => parameter.toLowerCase().startsWith(`${name}=`))?.split('=')[1]
    const [to, from] = [tag('to-tag'), tag('from-tag')]
    return [...this.lines.values()].flat().find(({ session }) => session?.callId === callId
      && ((session?.localTag === to && session?.remoteTag === from) || (session?.localTag === from && session?.remoteTag === to)))
  }

  // A dialog ———

  private ownHeaders({ core }: Line): string[] {
    return [`Contact: ${core.configuration.contact.toString()}`, `Allow: ${allowed}`]
  }

  /** From now on what is done at the telephone in this dialog is heard. */
  private follow(line: Line, session: Session): void {
    line.session = session
    session.delegate = {
      onAck: ({ message }) => {
        // Its answer, where we have offered.
        if (/^v=0/.test(message.body)) void this.describe(line, { answer: message.body }).catch(() => this.left(line))
      },
      onAckTimeout: () => this.left(line),
      onBye: (request) => {
        request.accept()
        this.left(line)
      },
      onInvite: request => void this.changed(line, request),
      onRefer: request => this.referred(line, request),
      onInfo: (request) => {
        const digit = /^\s*(?:Signal\s*=\s*)?([0-9*#A-D])\s*$/im.exec(request.message.body)?.[1]
        request.accept()
        if (digit) this.pressed(line, digit)
      },
      onMessage: request => request.reject({ statusCode: 405 }),
      onNotify: request => request.accept(),
    }
  }

  private describe(line: Line, description: { offer?: string, answer?: string }) {
    return this.sound.describe({ session: line.id, device: line.device, address: this.wire.address, peer: line.peer.address, ...description })
  }

  /** The telephone changes its sound: it puts its call on hold, takes it back, or has moved. */
  private async changed(line: Line, request: IncomingInviteRequest): Promise<void> {
    const { body } = request.message
    try {
      const { sdp } = await this.describe(line, body ? { offer: body } : {})
      request.accept({ statusCode: 200, body: sdpBody(sdp!) })
    }
    catch (error) {
      return void request.reject(error instanceof SoundRefused ? { statusCode: 488 } : { statusCode: 503, extraHeaders: ['Retry-After: 5'] })
    }
    if (!body) return
    const { device, call } = line
    const wasOnHold = line.onHold
    line.onHold = isHold(body)
    if (call === null || wasOnHold === line.onHold) return
    this.ask({ service: line.onHold ? 'holdCall' : 'retrieveCall', device, call })
    this.unsettle(device)
  }

  /** The telephone passes its caller on: without asking (RFC 3515), or to whom it has asked (RFC 3891). */
  private referred(line: Line, request: IncomingReferRequest): void {
    const { device, call } = line
    const [, user, query] = /sips?:([^@;?>]+)@[^?>]*(?:\?([^>]*))?/i.exec(request.message.getHeader('refer-to') ?? '') ?? []
    if (!user || call === null) return void request.reject({ statusCode: user ? 481 : 400 })
    const replaces = new URLSearchParams(query ?? '').get('Replaces')
    const reply = this.ask(this.passedOn(device, call, unescaped(user) ?? '', replaces))
    if (reply.refusal) return void request.reject({ statusCode: 603, reasonPhrase: 'Declined' })
    request.accept({ statusCode: 202, extraHeaders: this.ownHeaders(line) })
    if (request.message.getHeader('refer-sub')?.trim().toLowerCase() === 'false') return
    const { session } = line
    if (session?.sessionState !== SessionState.Confirmed) return
    session.notify(undefined, {
      extraHeaders: ['Event: refer', 'Subscription-State: terminated;reason=noresource', `Contact: ${line.core.configuration.contact.toString()}`],
      body: { contentDisposition: 'render', contentType: 'message/sipfrag;version=2.0', content: 'SIP/2.0 200 OK\r\n' },
    })
  }

  private passedOn(device: DeviceId, call: CallId, to: string, replaces: string | null): Request {
    const { state } = this.exchange
    const asking = replaces ? this.dialogNamed(replaces)?.call : null
    if (replaces) return { service: 'transferCall', device, call, consultation: asking ?? '' }
    const slot = slotOf(state, to)
    return slot ? { service: 'parkCall', device, call, slot, for: null } : { service: 'singleStepTransferCall', device, call, to }
  }

  private pressed({ call, device }: Line, digit: string): void {
    if (call !== null) this.ask({ service: 'generateDigits', device, call, digits: digit })
  }

  /** What is heard of the sound of a telephone. */
  private heard(session: string, { digit, over }: { digit?: string, over?: boolean }): void {
    const line = [...this.lines.values()].flat().find(({ id }) => id === session)
    if (!line) return
    if (digit) this.pressed(line, digit)
    // Nothing comes from it any more: it has lost its power, or its cable.
    if (over && line.state === 'up') {
      const { session: dialog } = line
      this.left(line)
      if (dialog) sayBye(dialog)
    }
  }

  /** The telephone has hung up, or has gone. A caller who is on hold there stays, and comes back by the rules of holding. */
  private left(line: Line): void {
    const { device, call } = line
    this.drop(line)
    if (call !== null) this.ask({ service: 'clearConnection', device, call })
    this.unsettle(device)
  }

  /** Who calls, for a display: who it is about, and by whom they were put through. */
  private callerOf(call: Call, device: DeviceId): { name: string, number: string } {
    const { company } = this.exchange.state
    const other = connectionOf(call, call.calling === device ? othersOf(call, device)[0]?.device ?? '' : call.calling) ?? othersOf(call, device)[0]
    const telephone = lookUp(company.telephones, other?.device ?? '')
    const party = other?.party ?? (telephone ? { name: telephone.name, number: telephone.number } : call.party)
    const by = call.passing?.to === device || call.recall?.to === device ? lookUp(company.telephones, call.passing?.by ?? call.recall?.from ?? '')?.name : undefined
    const name = party?.name ?? party?.number ?? (isSlot(other?.device ?? '') ? lookUp(company.slots, other!.device)?.name : undefined) ?? ''
    return { name: quoted(by ? `${name} / ${by}` : name), number: (party?.number ?? '').replace(/[^0-9+*#]/g, '') }
  }
}

const noCall = { connections: [] } as unknown as Call

const statusOfRefusal: Partial<Record<RefusalCode, number>> = {
  unallocatedNumber: 404, invalidNumber: 484, busy: 486, doNotDisturb: 480, outOfService: 480, trunksBusy: 503, tooManyCalls: 486, slotEmpty: 404, slotsFull: 486,
  slotTaken: 486, notPossibleNow: 403, nobodyFree: 480, nobodyServes: 480, closed: 480, unknownCall: 404,
}

/** How a telephone is told why nobody was reached. */
function statusOfCause(cause: Cause | undefined): number {
  if (cause === 'busy' || cause === 'declined') return 486
  if (cause === 'trunksBusy') return 503
  return cause === 'blocked' ? 403 : 480
}
