import { randomUUID } from 'node:crypto'
import { lookup } from 'node:dns/promises'
import {
  C, DigestAuthentication, type IncomingRequestMessage, type IncomingResponseMessage, type OutgoingRequestDelegate, URI,
} from 'sip.js/lib/core/index.js'
import type { TrunkId } from '../../core/calls/model'
import type { Switch } from '../switch'
import { type Common, newAgent, pass, placeAgent } from './agent'
import { type Carrier, comesFrom, inOrder, type Way } from './carrier'
import { allowed } from './line'
import { TrunkCalls } from './trunk-calls'
import type { Peer } from './wire'

/** Trunks of carriers: which of them answers, what they are told of us, and the calls that they bring and take. */

/** Milliseconds: how often a carrier is asked whether it is there, and one that was not; and how long it may take to say so. */
const [often, oftener, patience] = [30_000, 5_000, 2_000]
/** Seconds for which a carrier is told where we are. */
const registeredFor = 300

export class Trunks {
  readonly calls: TrunkCalls
  private readonly ways: Way[]
  /** By whom an INVITE came that the library has been given. */
  private readonly bringers = new WeakMap<IncomingRequestMessage, { way: Way, peer: Peer }>()
  private isClosed = false

  constructor(private readonly exchange: Switch, private readonly common: Common, carriers: readonly Carrier[]) {
    const { wire, sound, address, log, loggerFactory } = common
    this.ways = carriers.map(carrier => ({
      ...carrier, peer: null, isDown: false, heardAt: -Infinity,
      core: newAgent({
        user: carrier.account?.name ?? 'estafette', protocol: carrier.protocol, loggerFactory, send: text => wire.send(text),
        invited: (request) => {
          const { way, peer } = this.bringers.get(request.message)!
          this.calls.invited(request, way, peer).catch((error: Error) => log(`sip: ${error.message}`))
        },
        authenticationFactory: () => carrier.account
          ? new DigestAuthentication(loggerFactory, undefined, carrier.account.name, carrier.account.secret)
          : undefined,
      }),
    }))
    this.calls = new TrunkCalls(exchange, { address, cores: new Map(), sound, log, learn: (uri, peer) => wire.learn(uri, peer) }, {
      of: trunk => inOrder(this.ways.filter(way => way.trunk === trunk), ({ isDown }) => isDown, Math.random),
      report: (way, isThere) => this.found(way, isThere),
    })
    exchange.onEvent((event) => {
      if (event.type === 'configured') for (const { trunk } of this.ways) this.report(trunk)
      this.calls.happened(event)
    })
  }

  async open(): Promise<void> {
    const { wire } = this.common
    for (const { core, protocol } of this.ways) placeAgent(core, protocol, wire.address, wire.port)
    await Promise.all(this.ways.map(way => this.tend(way)))
  }

  close(): void {
    this.isClosed = true
    this.calls.close()
    for (const { core, timer } of this.ways) {
      clearTimeout(timer)
      core.dispose()
    }
  }

  /** The carrier whose calls come from there. */
  at(peer: Peer): Way | undefined {
    return this.ways.find(way => comesFrom(way.from, peer) || (way.from.length === 0 && way.peer?.address === peer.address && way.peer.port === peer.port))
  }

  /** A carrier asks something of us. */
  asked(message: IncomingRequestMessage, peer: Peer, way: Way): void {
    const { core } = way
    const { method } = message
    if (method === C.ACK || method === C.CANCEL || message.toTag) return pass(this.ways.find(other => isIn(other, message))?.core ?? core, message)
    // Whoever calls is there.
    way.heardAt = performance.now()
    this.found(way, true)
    if (method === C.OPTIONS) return void core.replyStateless(message, { statusCode: 200, extraHeaders: [`Allow: ${allowed}`] })
    if (method !== C.INVITE) return void core.replyStateless(message, { statusCode: 405, extraHeaders: [`Allow: ${allowed}`] })
    this.bringers.set(message, { way, peer })
    pass(core, message)
  }

  /** An answer to something that we have asked a carrier; false: it was none of them. */
  answered(message: IncomingResponseMessage): boolean {
    const way = this.ways.find(({ core }) => core.userAgentClients.has(message.viaBranch + message.method))
    way?.core.receiveIncomingResponseFromTransport(message)
    return way !== undefined
  }

  private found(way: Way, isThere: boolean): void {
    if (way.isDown !== isThere) return
    way.isDown = !isThere
    this.common.log(`sip: carrier ${way.name} ${isThere ? 'answers again' : 'does not answer'}`)
    this.report(way.trunk)
    if (!isThere) this.again(way)
  }

  /** A trunk none of whose carriers answers has no channel. */
  private report(trunk: TrunkId): void {
    const channels = this.exchange.state.company.trunks[trunk]?.channels
    if (channels === undefined) return
    const isDown = this.ways.every(way => way.trunk !== trunk || way.isDown)
    this.exchange.request(`sip:${randomUUID()}`, { service: 'reportTrunk', trunk, faulty: isDown ? channels : 0 })
  }

  /** Asks a carrier whether it is there, or tells it that we are, now and from then on. */
  private async tend(way: Way): Promise<void> {
    const { host, port, protocol } = way
    const found = await lookup(host.replace(/^\[|\]$/g, '')).catch(() => null)
    if (this.isClosed) return
    way.peer = found && { protocol, address: found.address, port }
    if (way.peer) {
      this.common.wire.reach(way.peer, host)
      // One that has just called need not be asked whether it is there.
      if (way.registers || performance.now() - way.heardAt > often) this.say(way, way.peer)
    }
    else this.found(way, false)
    this.again(way)
  }

  private again(way: Way): void {
    clearTimeout(way.timer)
    if (!this.isClosed) way.timer = setTimeout(() => void this.tend(way), way.isDown ? oftener : often)
  }

  private say(way: Way, peer: Peer): void {
    const { core, host, port, account, registers } = way
    const late = setTimeout(() => this.found(way, false), patience)
    const answered = (isThere: boolean) => {
      clearTimeout(late)
      this.found(way, isThere)
    }
    const delegate: OutgoingRequestDelegate = {
      onAccept: () => answered(true),
      // Whoever refuses an OPTIONS is there; a REGISTER that is refused brings no calls.
      onReject: ({ message: { statusCode } }) => answered(!registers && statusCode !== 503 && statusCode !== 408),
    }
    const at = new URI('sip', '', host, port)
    this.common.wire.learn(at.toRaw(), peer)
    if (!registers) return void core.request(core.makeOutgoingRequestMessage(C.OPTIONS, at, core.configuration.contact.uri, at, {}), delegate)
    const own = new URI('sip', account!.name, host, port)
    core.register(core.makeOutgoingRequestMessage(C.REGISTER, at, own, own, {}, [
      `Contact: ${core.configuration.contact.toString()}`, `Expires: ${registeredFor}`,
    ]), delegate)
  }
}

/** True where a message belongs to something that goes on with a carrier. */
function isIn({ core }: Way, { callId, toTag, fromTag, viaBranch }: IncomingRequestMessage): boolean {
  return core.dialogs.has(callId + toTag + fromTag) || core.userAgentServers.has(viaBranch)
}
