import { randomUUID } from 'node:crypto'
import {
  C, type IncomingRequestMessage, type IncomingResponseMessage, type NameAddrHeader, URI, type UserAgentCore,
} from 'sip.js/lib/core/index.js'
import type { DeviceId, Request } from '../../core/calls/model'
import { type TelephoneAccount, telephoneRealm } from '../../shared/telephone-accounts'
import type { Switch } from '../switch'
import { type Common, newAgent, pass, placeAgent } from './agent'
import { Digest } from './digest'
import { Lamps } from './lamps'
import { allowed } from './line'
import { Registrar } from './registrar'
import { TelephoneCalls } from './telephone-calls'
import { textFor } from './texts'
import type { Peer, Protocol } from './wire'

/** Telephones of the network: who may be one, where each is, what they call and what they are told. */
export class Telephones {
  private readonly cores = new Map<Protocol, UserAgentCore>()
  private readonly digest: Digest
  private readonly registrar: Registrar
  readonly calls: TelephoneCalls
  private readonly lamps: Lamps
  private accounts = new Map<string, TelephoneAccount>()
  private byDevice = new Map<DeviceId, TelephoneAccount>()
  /** Whose INVITE it is that the library has been given. */
  private readonly askers = new WeakMap<IncomingRequestMessage, { device: DeviceId, peer: Peer }>()
  private readonly timer: NodeJS.Timeout

  constructor(private readonly exchange: Switch, private readonly common: Common) {
    const { wire, sound, address, loggerFactory, log } = common
    this.digest = new Digest(telephoneRealm, name => this.accounts.get(name), (from, account) =>
      log(`sip: somebody at ${from} guesses the secret of ${JSON.stringify(account.slice(0, 40))}, and is not answered for five minutes`))
    this.registrar = new Registrar((device, isThere) => this.report(device, isThere))
    this.calls = new TelephoneCalls(exchange, { address, cores: this.cores, sound, log, learn: (uri, peer) => wire.learn(uri, peer) }, {
      nameOf: device => this.byDevice.get(device)?.name,
      placesOf: device => this.registrar.of(device),
      gone: (device, uri) => this.registrar.remove(device, uri),
      onSettled: devices => this.lamps.changed(devices),
    })
    this.lamps = new Lamps(() => this.exchange.state, {
      unheard: device => this.byDevice.get(device)?.unheard ?? 0,
      dialogs: device => this.calls.dialogsOf(device),
      host: address,
    })
    for (const protocol of ['udp', 'tcp', 'tls'] as const) {
      this.cores.set(protocol, newAgent({
        user: 'estafette', protocol, loggerFactory, send: text => wire.send(text),
        invited: (request, core) => {
          const asker = this.askers.get(request.message)
          if (!asker) return void request.reject({ statusCode: 403 })
          this.calls.invited(request, core, asker).catch((error: Error) => log(`sip: ${error.message}`))
        },
      }))
    }
    exchange.onEvent((event) => {
      if (event.type === 'configured') for (const device of this.byDevice.keys()) this.report(device, this.registrar.of(device).length > 0)
      this.calls.happened(event)
      const said = textFor(exchange.state, event)
      if (said) this.show(said.device, said.text)
    })
    this.timer = setInterval(() => this.lamps.expire(), 5_000)
  }

  open(): void {
    const { address, port } = this.common.wire
    for (const [protocol, core] of this.cores) placeAgent(core, protocol, address, port)
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
  }

  /** A connection has gone, and with it the telephones that came by it. */
  lose(peer: Peer): void {
    this.registrar.lose(peer)
  }

  answered(message: IncomingResponseMessage, peer: Peer): void {
    this.cores.get(peer.protocol)!.receiveIncomingResponseFromTransport(message)
  }

  asked(message: IncomingRequestMessage, peer: Peer): void {
    const core = this.cores.get(peer.protocol)!
    const { method } = message
    const isWithin = Boolean(message.toTag) && method !== C.SUBSCRIBE
    if (method === C.ACK || method === C.CANCEL || isWithin) {
      if (isWithin && core.dialogs.has(message.callId + message.toTag + message.fromTag)) this.learn(message, peer)
      return pass(core, message)
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
      return pass(core, message)
    }
    core.replyStateless(message, { statusCode: 405, extraHeaders: [`Allow: ${allowed}`] })
  }

  /** Shows something on the displays of a telephone; one that shows no texts says so, and that is all. */
  private show(device: DeviceId, text: string): void {
    const { address } = this.common
    for (const { uri, peer } of this.registrar.of(device)) {
      const core = this.cores.get(peer.protocol)!
      this.common.wire.learn(uri.toRaw(), peer)
      const from = new URI('sip', 'estafette', address)
      const to = new URI('sip', this.byDevice.get(device)?.name ?? device, address)
      core.message(core.makeOutgoingRequestMessage(C.MESSAGE, uri, from, to, { fromDisplayName: 'Estafette' }, [], {
        contentDisposition: 'render', contentType: 'text/plain;charset=UTF-8', content: text,
      }))
    }
  }

  private isKnown({ address }: Peer): boolean {
    return [...this.byDevice.keys()].some(device => this.registrar.of(device).some(({ peer }) => peer.address === address))
  }

  private learn(message: IncomingRequestMessage, peer: Peer): void {
    for (const at of message.getHeaders('contact').keys()) this.common.wire.learn((message.parseHeader('contact', at) as NameAddrHeader).uri.toRaw(), peer)
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
