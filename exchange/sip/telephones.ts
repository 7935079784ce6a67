import { randomUUID } from 'node:crypto'
import {
  C, IncomingRequestMessage, type IncomingResponseMessage, Levels, LoggerFactory, type NameAddrHeader, URI, UserAgentCore,
} from 'sip.js/lib/core/index.js'
import type { DeviceId, Request } from '../../core/calls/model'
import { type TelephoneAccount, telephoneRealm } from '../../shared/telephone-accounts'
import type { Switch } from '../switch'
import { allowed, TelephoneCalls } from './calls'
import { Digest } from './digest'
import { Lamps } from './lamps'
import { Registrar } from './registrar'
import { type Peer, type Protocol, Wire, type WireOptions } from './wire'

/**
 * Telephones of the network (RFC 3261) as one of those who hear what happens at the exchange and act: what is done at a telephone becomes the services that a
 * console asks for, and what happens is told to it. No rule about calls stands here.
 */

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
  private readonly calls: TelephoneCalls
  private readonly lamps: Lamps
  private accounts = new Map<string, TelephoneAccount>()
  private byDevice = new Map<DeviceId, TelephoneAccount>()
  /** Whose INVITE it is that the library has been given. */
  private readonly askers = new WeakMap<IncomingRequestMessage, { device: DeviceId, peer: Peer }>()
  private readonly timer: NodeJS.Timeout

  constructor(private readonly exchange: Switch, private readonly options: TelephonesOptions) {
    const loggers = new LoggerFactory()
    loggers.builtinEnabled = false
    loggers.level = Levels.warn
    loggers.connector = (level, _category, _label, text) => level === 'error' && options.log(`sip: ${String(text)}`)
    this.wire = new Wire(options, loggers.getLogger('wire'), {
      hear: (message, peer) => this.hear(message, peer),
      lose: peer => this.registrar.lose(peer),
    })
    this.digest = new Digest(telephoneRealm, name => this.accounts.get(name))
    this.registrar = new Registrar((device, isThere) => this.report(device, isThere))
    this.calls = new TelephoneCalls(exchange, {
      address: options.address, cores: this.cores, log: options.log,
      nameOf: device => this.byDevice.get(device)?.name,
      placesOf: device => this.registrar.of(device),
      gone: (device, uri) => this.registrar.remove(device, uri),
      learn: (uri, peer) => this.wire.learn(uri, peer),
      onSettled: devices => this.lamps.changed(devices),
    }, { port: options.soundPort, token: options.token })
    this.lamps = new Lamps(() => this.exchange.state, {
      unheard: device => this.byDevice.get(device)?.unheard ?? 0,
      dialogs: device => this.calls.dialogsOf(device),
      host: options.address,
    })
    for (const protocol of ['udp', 'tcp', 'tls'] as const) this.cores.set(protocol, this.core(protocol, loggers))
    exchange.onEvent((event) => {
      if (event.type === 'configured') for (const device of this.byDevice.keys()) this.report(device, this.registrar.of(device).length > 0)
      this.calls.happened(event)
    })
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
      this.calls.letGo(device)
      if (!now && this.exchange.state.devices.has(device)) this.ask({ service: 'reportTelephone', device, registered: null })
    }
    for (const device of this.byDevice.keys()) this.report(device, this.registrar.of(device).length > 0)
    this.lamps.changed(changed)
  }

  close(): void {
    clearInterval(this.timer)
    this.calls.close()
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
      onInvite: (request) => {
        const asker = this.askers.get(request.message)
        if (!asker) return void request.reject({ statusCode: 403 })
        this.calls.invited(request, core, asker).catch((error: Error) => this.options.log(`sip: ${error.message}`))
      },
      onRefer: request => request.reject({ statusCode: 403 }),
    })
    return core
  }

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
    if (method === C.OPTIONS) {
      if (this.isKnown(peer)) core.replyStateless(message, { statusCode: 200, extraHeaders: [`Allow: ${allowed}`] })
      return
    }
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

  private ask(request: Request): void {
    this.exchange.request(`sip:${randomUUID()}`, request)
  }

  private report(device: DeviceId, isThere: boolean): void {
    const known = this.exchange.state.devices.get(device)
    if (this.byDevice.has(device) && known && known.registered !== isThere) this.ask({ service: 'reportTelephone', device, registered: isThere })
    this.calls.unsettle(device)
  }
}
