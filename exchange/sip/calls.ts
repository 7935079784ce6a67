import { randomUUID } from 'node:crypto'
import {
  C, type IncomingInviteRequest, type IncomingReferRequest, type IncomingRequestMessage, type Session, SessionState, URI, type UserAgentCore,
} from 'sip.js/lib/core/index.js'
import type { Call, CallId, Cause, DeviceId, NumberedEvent, RefusalCode, Request } from '../../core/calls/model'
import { isSlot } from '../../core/calls/names'
import { callsOf, connectionOf, othersOf } from '../../core/calls/questions'
import { lookUp } from '../../core/company/lookups'
import type { Reply, Switch } from '../switch'
import { dialled, slotOf } from './dialled'
import type { KnownDialog } from './lamps'
import { elsewhere, hangUp, isHold, type Line, newLine, quoted, sayBye, sdpBody } from './line'
import { unescaped } from './reading'
import type { Binding } from './registrar'
import { SoundDoor, SoundRefused } from './sound-door'
import type { Peer, Protocol } from './wire'

/** What calls need to know of the telephones. */
export interface House {
  /** Of ours, that telephones reach. */
  readonly address: string
  readonly cores: ReadonlyMap<Protocol, UserAgentCore>
  /** The name of its account; undefined: it has none. */
  nameOf: (device: DeviceId) => string | undefined
  /** Where it is. */
  placesOf: (device: DeviceId) => Binding[]
  /** Nobody answers there any more. */
  gone: (device: DeviceId, uri: URI) => void
  learn: (uri: string, peer: Peer) => void
  /** What these telephones do has become what happens at the exchange. */
  onSettled: (devices: ReadonlySet<DeviceId>) => void
  log: (text: string) => void
}

export const allowed = 'INVITE, ACK, CANCEL, BYE, OPTIONS, INFO, NOTIFY, REFER, SUBSCRIBE, MESSAGE, REGISTER'

/** The calls of telephones of the network: each is a dialog here and a connection at the exchange, and what happens to one is done to the other. */
export class TelephoneCalls {
  private readonly sound: SoundDoor
  private readonly lines = new Map<DeviceId, Line[]>()
  private readonly unsettled = new Set<DeviceId>()
  private settling = false
  /** Why the latest calls ended. */
  private readonly ends = new Map<CallId, Cause>()

  /** @param sound the port of the sound process, and its secret */
  constructor(private readonly exchange: Switch, private readonly house: House, sound: { port: number, token: string }) {
    this.sound = new SoundDoor(sound.port, sound.token, (session, word) => this.heard(session, word))
  }

  close(): void {
    this.sound.close()
  }

  /** The dialogs of a telephone, as others may name them. */
  dialogsOf(device: DeviceId): KnownDialog[] {
    return this.linesOf(device).flatMap(({ call, session }) => call && session
      ? [{ call, callId: session.callId, localTag: session.localTag, remoteTag: session.remoteTag }]
      : [])
  }

  /** A telephone may be here no more. Whoever has a console, or the stand-in handset, goes on there; else nobody is there any more. */
  letGo(device: DeviceId): void {
    const calls = this.linesOf(device).flatMap(({ call }) => call ?? [])
    for (const line of this.linesOf(device)) this.end(line, { statusCode: 403 })
    const { agents, devices } = this.exchange.state
    if (!agents.get(device)?.attended && !devices.get(device)?.handset) for (const call of calls) this.ask({ service: 'clearConnection', device, call })
  }

  private ask(request: Request): Reply {
    return this.exchange.request(`sip:${randomUUID()}`, request)
  }

  /** Something has happened at the exchange: the telephones that it is about do what follows from it. */
  happened(event: NumberedEvent): void {
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

  /** What this telephone does is to be looked at again. */
  unsettle(device: DeviceId): void {
    this.unsettled.add(device)
    if (this.settling) return
    this.settling = true
    // What is done at a telephone may make more happen: each is looked at when the exchange has done everything that follows.
    queueMicrotask(() => {
      this.settling = false
      const devices = new Set(this.unsettled)
      this.unsettled.clear()
      for (const one of devices) if (this.house.nameOf(one) !== undefined || this.lines.has(one)) this.settle(one)
      this.house.onSettled(devices)
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
      // One that will not answer by itself is not asked again.
      else if (line.state === 'refused' && (!own || (own.state !== 'alerting' && !line.byItself))) this.drop(line)
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
    const bindings = this.house.placesOf(device)
    const [first] = bindings
    if (!first) return
    const line = newLine({ device, call: call.id, state: 'rings', core: this.house.cores.get(first.peer.protocol)!, peer: first.peer, byItself })
    this.add(line)
    void this.invite(line, bindings, this.callerOf(call, device)).catch((error: Error) => {
      this.house.log(`sip: ${error.message}`)
      line.state = 'refused'
    })
  }

  private async invite(line: Line, bindings: readonly Binding[], caller: { name: string, number: string }): Promise<void> {
    const { device, byItself } = line
    const { sdp } = await this.describe(line, byItself ? { alone: true } : {})
    if (line.state !== 'rings') return this.sound.end(line.id)
    if (sdp === null) return this.drop(line)
    const from = new URI('sip', caller.number || 'anonymous', caller.number ? this.house.address : 'anonymous.invalid')
    for (const { uri, peer } of bindings) {
      const core = this.house.cores.get(peer.protocol)!
      this.house.learn(uri.toRaw(), peer)
      const message = core.makeOutgoingRequestMessage(
        C.INVITE, uri, from, new URI('sip', this.house.nameOf(device) ?? device, this.house.address), { fromDisplayName: caller.name },
        [
          `Contact: ${core.configuration.contact.toString()}`, `Allow: ${allowed}`,
          `P-Asserted-Identity: "${caller.name}" <${from.toRaw()}>`,
          ...byItself ? answersByItself(from) : [],
        ],
        sdpBody(sdp),
      )
      const fork = core.invite(message, {
        onAccept: (response) => {
          line.forks.delete(fork)
          void this.accepted(line, core, peer, response.session, response.message.body).catch((error: Error) => {
            this.house.log(`sip: ${error.message}`)
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
    if (own?.state === 'alerting' && this.ask({ service: 'answerCall', device, call: call! }).refusal)
      return this.end(line, { statusCode: 487, reason: elsewhere })
    try {
      await this.describe(line, { answer })
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
    if (status === 408 || status === 503 || status === 404) this.house.gone(line.device, uri)
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

  /** A telephone that has proved who it is calls somebody. */
  async invited(request: IncomingInviteRequest, core: UserAgentCore, { device, peer }: { device: DeviceId, peer: Peer }): Promise<void> {
    const { message } = request
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
      sdp = (await this.describe(line, offer)).sdp
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

  private describe(line: Line, description: { offer?: string, answer?: string, alone?: true }) {
    return this.sound.describe({ session: line.id, device: line.device, address: this.house.address, peer: line.peer.address, ...description })
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
    const { passing, recall } = call
    const by = passing?.to === device || recall?.to === device ? lookUp(company.telephones, passing?.by ?? recall?.from ?? '')?.name : undefined
    const name = party?.name ?? party?.number ?? (isSlot(other?.device ?? '') ? lookUp(company.slots, other!.device)?.name : undefined) ?? ''
    return { name: quoted(by ? `${name} / ${by}` : name), number: (party?.number ?? '').replace(/[^0-9+*#]/g, '') }
  }
}

/** The telephone lifts without anybody there (RFC 5373, and as telephones understood it before). */
const answersByItself = (from: URI) =>
  ['Answer-Mode: Auto', 'Alert-Info: <urn:alert:source:internal>;info=alert-autoanswer', `Call-Info: <${from.toRaw()}>;answer-after=0`]

const noCall = { connections: [] } as unknown as Call

const statusOfRefusal: Partial<Record<RefusalCode, number>> = {
  unallocatedNumber: 404, invalidNumber: 484, busy: 486, doNotDisturb: 480, outOfService: 480, trunksBusy: 503, tooManyCalls: 486, slotEmpty: 404,
  slotsFull: 486, slotTaken: 486, notPossibleNow: 403, nobodyFree: 480, nobodyServes: 480, closed: 480, unknownCall: 404,
}

/** How a telephone is told why nobody was reached. */
function statusOfCause(cause: Cause | undefined): number {
  if (cause === 'busy' || cause === 'declined') return 486
  if (cause === 'trunksBusy') return 503
  return cause === 'blocked' ? 403 : 480
}
