import { randomUUID } from 'node:crypto'
import {
  C, type IncomingInviteRequest, type IncomingReferRequest, type IncomingRequestMessage, type OutgoingInviteRequest, type Session, SessionState, type URI,
  type UserAgentCore,
} from 'sip.js/lib/core/index.js'
import type { Call, CallId, Cause, DeviceId, NumberedEvent, RefusalCode, Request } from '../../core/calls/model'
import { callsOf, connectionOf, othersOf } from '../../core/calls/questions'
import type { TelephoneWord } from '../../shared/telephone-sound'
import type { Reply, Switch } from '../switch'
import { allowed, elsewhere, hangUp, isHold, type Line, noCall, sayBye, sdpBody, type Shown } from './line'
import { acceptedTimer, answeredTimer, dueIn, offeredTimer, refusedTimer, type SessionTimer, timerOf } from './session-timer'
import { type SoundDoor, SoundRefused } from './sound-door'
import type { Peer, Protocol } from './wire'

/** What calls stand on. */
export interface Ground {
  /** Of ours, that others reach. */
  readonly address: string
  readonly cores: ReadonlyMap<Protocol, UserAgentCore>
  readonly sound: SoundDoor
  learn: (uri: string, peer: Peer) => void
  log: (text: string) => void
}

/** Where an INVITE goes, and from whom it is. */
export interface Invitation { core: UserAgentCore, peer: Peer, uri: URI, from: URI, to: URI, name: string, headers: string[], sdp: string }

/**
 * Calls over the network: each is a dialog here and a connection at the exchange, and what happens to one is done to the other. Who is called how, and what is
 * made of a call that comes, is for those who know the other side: telephones of ours, or carriers.
 */
export abstract class Calls {
  protected readonly lines = new Map<DeviceId, Line[]>()
  private readonly unsettled = new Set<DeviceId>()
  private settling = false
  /** Why the latest calls ended. */
  protected readonly ends = new Map<CallId, Cause>()

  constructor(protected readonly exchange: Switch, protected readonly ground: Ground) {}

  close(): void {
    for (const line of [...this.lines.values()].flat()) clearTimeout(line.timer)
  }

  /** It has an end here: what happens at this telephone, or to this party outside, is for us to tell. */
  protected abstract serves(device: DeviceId): boolean
  /** Calls it about a call; `byItself`: it is to lift without anybody there. */
  protected abstract ring(device: DeviceId, call: Call, byItself: boolean): void
  /** What whoever is called or has called is shown of the other side. */
  protected abstract shownTo(device: DeviceId, call: Call): Shown
  /** How long somebody hears us before we say that the call is answered (milliseconds); null: as long as they like. */
  protected abstract answersAfter: number | null
  /** Asked to pass its call on to somebody. */
  protected abstract referred(line: Line, request: IncomingReferRequest): void
  /** Has put its call on hold, or taken it back. */
  protected abstract heldByIt(line: Line): void
  /** Something else that the other side does. */
  protected settled(_devices: ReadonlySet<DeviceId>): void {}
  /** What else there is to tell a telephone beside its calls. */
  protected settleMore(_device: DeviceId): void {}

  protected ask(request: Request): Reply {
    return this.exchange.request(`sip:${randomUUID()}`, request)
  }

  /** Something has happened at the exchange: those that it is about are told what follows from it. */
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

  /** What is told here is to be looked at again. */
  unsettle(device: DeviceId): void {
    this.unsettled.add(device)
    if (this.settling) return
    this.settling = true
    // What is done at a telephone may make more happen: each is looked at when the exchange has done everything that follows.
    queueMicrotask(() => {
      this.settling = false
      const devices = new Set(this.unsettled)
      this.unsettled.clear()
      for (const one of devices) if (this.serves(one) || this.lines.has(one)) this.settle(one)
      this.settled(devices)
    })
  }

  protected linesOf(device: DeviceId): Line[] {
    return this.lines.get(device) ?? []
  }

  protected add(line: Line): void {
    this.lines.set(line.device, [...this.linesOf(line.device), line])
  }

  protected end(line: Line, why: { statusCode: number, reason?: string }): void {
    hangUp(line, why)
    this.drop(line)
  }

  protected drop(line: Line): void {
    line.state = 'over'
    clearTimeout(line.timer)
    clearInterval(line.telling)
    this.ground.sound.end(line.id)
    const rest = this.linesOf(line.device).filter(other => other !== line)
    if (rest.length > 0) this.lines.set(line.device, rest)
    else this.lines.delete(line.device)
  }

  /** Makes the dialogs of a telephone what the calls at it are. */
  protected settle(device: DeviceId): void {
    const { state } = this.exchange
    const calls = callsOf(state, device)
    const isFree = (call: Call) => !this.linesOf(device).some(line => line.call === call.id)
    for (const line of this.linesOf(device)) {
      const call = line.call === null ? undefined : state.calls.get(line.call)
      const own = call && connectionOf(call, device)
      if (line.state === 'calls') this.settleCalling(line, own && call)
      else if (line.page !== undefined && line.call === null) continue
      // One that will not answer by itself is not asked again.
      else if (line.state === 'refused' && (!own || (own.state !== 'alerting' && !line.byItself))) this.drop(line)
      else if (line.state === 'rings' && own?.state !== 'alerting' && !(line.byItself && own)) {
        // Answered at the console: the telephone is to answer by itself, or to be silent if somebody is heard there already.
        this.end(line, { statusCode: 487, reason: call ? elsewhere : undefined })
      }
      else if (line.state === 'up' && !own) {
        const next = calls.find(other => isFree(other) && connectionOf(other, device)!.state !== 'alerting')
        if (next) this.goOnWith(line, next)
        else if (line.page === undefined) this.end(line, { statusCode: 487 })
        else line.call = null
      }
      else if (line.state === 'up') this.show(line, call!)
    }
    for (const call of calls.filter(isFree)) {
      const own = connectionOf(call, device)!
      if (own.state === 'alerting') this.ring(device, call, false)
      if (own.state !== 'connected') continue
      const idle = this.linesOf(device).find(line => line.state === 'up' && !line.onHold && this.isHeldHere(line))
      if (idle) this.goOnWith(idle, call)
      else this.ring(device, call, true)
    }
    this.settleMore(device)
  }

  private goOnWith(line: Line, call: Call): void {
    line.call = call.id
    this.show(line, call)
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
    if (others.some(({ state }) => state === 'connected' || state === 'held')) return this.answer(line)
    // Who waits in a queue hears where they stand; while somebody is rung the telephone makes its own tone.
    const status = this.answersAfter !== null || others.some(({ state }) => state === 'queued') ? 183 : 180
    if (line.told === status) return
    line.told = status
    const tell = () => line.asked?.progress({ statusCode: status, extraHeaders: this.ownHeaders(line), ...status === 183 && { body: sdpBody(line.sdp!) } })
    tell()
    // Said again every minute, so that nobody on the way takes the call for a dead one (RFC 3261, section 13.3.1.1).
    line.telling ??= setInterval(tell, 60_000)
    if (this.answersAfter !== null) line.timer ??= setTimeout(() => this.answer(line), this.answersAfter)
  }

  /** Somebody is there for whoever has called us, or something is heard. */
  private answer(line: Line): void {
    const { asked, sdp } = line
    if (!asked || !sdp) return
    line.asked = undefined
    line.state = 'up'
    clearInterval(line.telling)
    clearTimeout(line.timer)
    const timer = timerOf(asked.message)
    const { session } = asked.accept({ statusCode: 200, body: sdpBody(sdp), extraHeaders: [...this.ownHeaders(line), ...acceptedTimer(timer)] })
    this.follow(line, session)
    this.keep(line, timer)
    const call = this.exchange.state.calls.get(line.call ?? '')
    if (call) line.shown = this.identity(this.shownTo(line.device, call))
  }

  /**
   * Calls somebody at one place.
   * @param on what comes of it: it rings there, or whoever is there does not answer
   */
  protected invite(
    line: Line, { core, peer, uri, from, to, name, headers, sdp }: Invitation, on: { progress: () => void, reject: (status: number) => void },
  ): OutgoingInviteRequest {
    this.ground.learn(uri.toRaw(), peer)
    const message = core.makeOutgoingRequestMessage(
      C.INVITE, uri, from, to, { fromDisplayName: name }, [...this.ownHeaders({ core }), ...headers], sdpBody(sdp),
    )
    const fork = core.invite(message, {
      onTrying: () => on.progress(),
      onProgress: ({ session }) => {
        // Lamps name it, so that others can take it.
        if (line.early !== session) this.unsettle(line.device)
        line.early = session
        on.progress()
      },
      onAccept: (response) => {
        line.forks.delete(fork)
        response.ack()
        void this.accepted(line, core, peer, response.session, response.message.body).catch((error: Error) => {
          this.ground.log(`sip: ${error.message}`)
        })
        if (line.session !== response.session) sayBye(response.session, elsewhere)
        else this.keep(line, answeredTimer(response.message))
      },
      onReject: ({ message: { statusCode } }) => {
        line.forks.delete(fork)
        on.reject(statusCode ?? 500)
      },
    })
    line.forks.add(fork)
    return fork
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

  // A dialog ———

  protected ownHeaders({ core }: Pick<Line, 'core'>): string[] {
    return [`Contact: ${core.configuration.contact.toString()}`, `Allow: ${allowed}`]
  }

  /** From now on what is done at the telephone in this dialog is heard. */
  protected follow(line: Line, session: Session): void {
    line.session = session
    session.delegate = {
      onAck: ({ message }) => {
        // Its answer, where we have offered.
        if (/^v=0/.test(message.body ?? '')) void this.describe(line, { answer: message.body }).catch(() => this.left(line))
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

  /** Who the other side is (RFC 3325). */
  protected identity({ name, number }: Shown): string {
    return `P-Asserted-Identity: "${name}" <${number ? `sip:${number}@${this.ground.address}` : 'sip:anonymous@anonymous.invalid'}>`
  }

  protected describe(line: Line, description: { offer?: string, answer?: string, alone?: true }) {
    const { address } = this.ground
    const { protocol, address: peer } = line.peer
    return this.ground.sound.describe({ session: line.id, device: line.device, address, peer, ...protocol === 'tls' && { secret: true }, ...description })
  }

  /** Answers an INVITE that begins a call with our sound, as it asks for it. */
  protected async describeFor(line: Line, message: IncomingRequestMessage): Promise<string> {
    const isOffer = message.body && /^application\/sdp/i.test(message.getHeader('content-type') ?? '')
    return (await this.describe(line, isOffer ? { offer: message.body } : {})).sdp!
  }

  /** The other side changes its sound: it puts its call on hold, takes it back, or has moved; or it says that it is still there. */
  private async changed(line: Line, request: IncomingInviteRequest): Promise<void> {
    const { body } = request.message
    const timer = timerOf(request.message)
    const refused = refusedTimer(timer)
    if (refused) return void request.reject({ statusCode: 422, extraHeaders: refused })
    try {
      const { sdp } = await this.describe(line, body ? { offer: body } : {})
      request.accept({ statusCode: 200, body: sdpBody(sdp!), extraHeaders: [...this.ownHeaders(line), ...acceptedTimer(timer)] })
    }
    catch (error) {
      return void request.reject(error instanceof SoundRefused ? { statusCode: 488 } : { statusCode: 503, extraHeaders: ['Retry-After: 5'] })
    }
    this.keep(line, timer)
    if (!body) return
    const wasOnHold = line.onHold
    line.onHold = isHold(body)
    if (line.call !== null && wasOnHold !== line.onHold) this.heldByIt(line)
  }

  /** Waits for the next time that somebody says that this dialog goes on, or says so (RFC 4028). */
  private keep(line: Line, timer: SessionTimer | null): void {
    clearTimeout(line.timer)
    line.kept = timer
    if (timer && line.state === 'up') line.timer = setTimeout(() => timer.by === 'us' ? this.offerAgain(line) : this.lose(line), dueIn(timer))
  }

  /** Who the other side is now has changed: a display is told (RFC 4916). */
  protected show(line: Line, call: Call): void {
    const shown = this.identity(this.shownTo(line.device, call))
    if (line.shown === shown) return
    const isFirst = line.shown === undefined
    line.shown = shown
    if (!isFirst && !line.onHold && connectionOf(call, line.device)?.state === 'connected') this.offerAgain(line)
  }

  /** Says how things stand once more: that we are there, and who speaks. */
  private offerAgain(line: Line, tries = 5): void {
    void this.reinvite(line, tries).catch((error: Error) => this.ground.log(`sip: ${error.message}`))
  }

  private async reinvite(line: Line, tries: number): Promise<void> {
    const { sdp } = await this.describe(line, {})
    const { session } = line
    if (line.state !== 'up' || !session || !sdp) return
    // Both sides at once, or ours not acknowledged yet: tried again after a while (RFC 3261, section 14.1).
    const later = () => {
      if (tries === 0) return this.keep(line, line.kept)
      clearTimeout(line.timer)
      line.timer = setTimeout(() => this.offerAgain(line, tries - 1), 500 + Math.random() * 1_500)
    }
    if (session.sessionState !== SessionState.Confirmed || session.signalingState !== 'Stable') return later()
    try {
      session.invite({
        onAccept: ({ ack, message }) => {
          ack()
          if (message.body) void this.describe(line, { answer: message.body }).catch(() => this.left(line))
          this.keep(line, answeredTimer(message))
        },
        onReject: ({ message: { statusCode } }) => {
          if (statusCode === 491 || statusCode === 500) later()
          else if (statusCode === 481 || statusCode === 408) this.lose(line)
        },
      }, { body: sdpBody(sdp), extraHeaders: [...this.ownHeaders(line), ...line.shown === undefined ? [] : [line.shown], ...offeredTimer(line.kept)] })
    }
    catch {
      later()
    }
  }

  private pressed({ call, device }: Line, digit: string): void {
    if (call !== null) this.ask({ service: 'generateDigits', device, call, digits: digit })
  }

  /** What is heard of the sound of a dialog; false: it is none of these. */
  heard(session: string, { digit, over }: TelephoneWord): boolean {
    const line = [...this.lines.values()].flat().find(({ id }) => id === session)
    if (!line) return false
    if (digit) this.pressed(line, digit)
    // Nothing comes from it any more: it has lost its power, or its cable.
    if (over && line.state === 'up') this.lose(line)
    return true
  }

  /** Nobody is at the other end any more. */
  private lose(line: Line): void {
    const { session } = line
    this.left(line)
    if (session && session.sessionState !== SessionState.Terminated) sayBye(session)
  }

  /** The other side has hung up, or has gone. A caller who is on hold there stays, and comes back by the rules of holding. */
  protected left(line: Line): void {
    const { device, call } = line
    this.drop(line)
    if (call !== null) this.ask({ service: 'clearConnection', device, call })
    this.unsettle(device)
  }
}

export const statusOfRefusal: Partial<Record<RefusalCode, number>> = {
  unallocatedNumber: 404, invalidNumber: 484, busy: 486, doNotDisturb: 480, outOfService: 480, trunksBusy: 503, tooManyCalls: 486, slotEmpty: 404,
  slotsFull: 486, slotTaken: 486, notPossibleNow: 403, nobodyFree: 480, nobodyServes: 480, closed: 480, unknownCall: 404,
}

/** How whoever called is told why nobody was reached. */
export function statusOfCause(cause: Cause | undefined): number {
  if (cause === 'busy' || cause === 'declined') return 486
  if (cause === 'trunksBusy') return 503
  return cause === 'blocked' ? 403 : 480
}
