import {
  type IncomingInviteRequest, type IncomingReferRequest, type IncomingRequestMessage, SessionState, URI, type UserAgentCore,
} from 'sip.js/lib/core/index.js'
import type { Call, CallId, DeviceId, NumberedEvent, RefusalCode, Request } from '../../core/calls/model'
import { isSlot } from '../../core/calls/names'
import { pagesHeardAt } from '../../core/calls/paging/pages'
import { callsOf, connectionOf, othersOf } from '../../core/calls/questions'
import { lookUp } from '../../core/company/lookups'
import type { Switch } from '../switch'
import { Calls, type Ground, statusOfRefusal } from './calls'
import { dialled, slotOf } from './dialled'
import type { KnownDialog } from './lamps'
import { elsewhere, type Line, newLine, noCall, quoted, sdpBody, type Shown } from './line'
import { unescaped } from './reading'
import type { Binding } from './registrar'
import { refusedTimer, timerOf } from './session-timer'
import { SoundRefused } from './sound-door'
import type { Peer } from './wire'

/** What calls need to know of the telephones. */
export interface House {
  /** The name of its account; undefined: it has none. */
  nameOf: (device: DeviceId) => string | undefined
  /** Where it is. */
  placesOf: (device: DeviceId) => Binding[]
  /** Nobody answers there any more. */
  gone: (device: DeviceId, uri: URI) => void
  /** What these telephones do has become what happens at the exchange. */
  onSettled: (devices: ReadonlySet<DeviceId>) => void
}

/** The calls of telephones of ours. */
export class TelephoneCalls extends Calls {
  /** Whoever waits hears it as long as they like: it is their own house. */
  protected answersAfter = null

  constructor(exchange: Switch, ground: Ground, private readonly house: House) {
    super(exchange, ground)
  }

  /** The dialogs of a telephone, as others may name them. */
  dialogsOf(device: DeviceId): KnownDialog[] {
    return this.linesOf(device).flatMap(({ call, session, early }) => {
      const { callId, localTag, remoteTag } = session ?? early ?? {}
      return call && callId ? [{ call, callId, localTag: localTag!, remoteTag: remoteTag! }] : []
    })
  }

  /** A telephone may be here no more. Whoever has a console, or the stand-in handset, goes on there; else nobody is there any more. */
  letGo(device: DeviceId): void {
    const calls = this.linesOf(device).flatMap(({ call }) => call ?? [])
    for (const line of this.linesOf(device)) this.end(line, { statusCode: 403 })
    const { agents, devices } = this.exchange.state
    if (!agents.get(device)?.attended && !devices.get(device)?.handset) for (const call of calls) this.ask({ service: 'clearConnection', device, call })
  }

  override happened(event: NumberedEvent): void {
    super.happened(event)
    if (!('page' in event)) return
    for (const device of this.exchange.state.pages.get(event.page)?.reached ?? []) this.unsettle(device)
    for (const [device, lines] of this.lines) if (lines.some(({ page }) => page === event.page)) this.unsettle(device)
  }

  protected serves(device: DeviceId): boolean {
    return this.house.nameOf(device) !== undefined
  }

  protected override settled(devices: ReadonlySet<DeviceId>): void {
    this.house.onSettled(devices)
  }

  /** A page is heard also where nobody talks: the telephone lifts by itself for it, and hangs up after it. */
  protected override settleMore(device: DeviceId): void {
    const page = pagesHeardAt(this.exchange.state, device)[0]?.id
    for (const line of this.linesOf(device)) if (line.page !== undefined && line.call === null && line.page !== page) this.end(line, { statusCode: 487 })
    if (page !== undefined && !this.linesOf(device).some(({ state, page: its }) => state === 'up' || its !== undefined)) this.ringFor(device, null, true, page)
  }

  // Calls to a telephone ———

  protected ring(device: DeviceId, call: Call, byItself: boolean): void {
    this.ringFor(device, call, byItself)
  }

  private ringFor(device: DeviceId, call: Call | null, byItself: boolean, page?: string): void {
    const bindings = this.house.placesOf(device)
    const [first] = bindings
    if (!first) return
    const line = newLine({
      device, call: call?.id ?? null, state: 'rings', core: this.ground.cores.get(first.peer.protocol)!, peer: first.peer, byItself,
      ...page !== undefined && { page },
    })
    this.add(line)
    void this.inviteAll(line, bindings, call ? this.shownTo(device, call) : this.speaks(page!)).catch((error: Error) => {
      this.ground.log(`sip: ${error.message}`)
      line.state = 'refused'
    })
  }

  private async inviteAll(line: Line, bindings: readonly Binding[], caller: Shown): Promise<void> {
    const { device, byItself } = line
    const { sdp } = await this.describe(line, byItself ? { alone: true } : {})
    if (line.state !== 'rings') return this.ground.sound.end(line.id)
    if (sdp === null) return this.drop(line)
    line.shown = this.identity(caller)
    const { address } = this.ground
    const from = new URI('sip', caller.number || 'anonymous', caller.number ? address : 'anonymous.invalid')
    const to = new URI('sip', this.house.nameOf(device) ?? device, address)
    for (const { uri, peer } of bindings) {
      this.invite(line, {
        core: this.ground.cores.get(peer.protocol)!, peer, uri, from, to, name: caller.name, sdp,
        headers: [line.shown, ...byItself ? answersByItself(from) : []],
      }, { progress() {}, reject: status => this.rejected(line, uri, status) })
    }
  }

  private rejected(line: Line, uri: URI, status: number): void {
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
    const refused = refusedTimer(timerOf(message))
    if (refused) return void request.reject({ statusCode: 422, extraHeaders: refused })
    request.trying()
    const line = newLine({ device, call: null, state: 'calls', core, peer, asked: request })
    let sdp: string
    try {
      sdp = await this.describeFor(line, message)
    }
    catch (error) {
      if (!cancelled) request.reject(error instanceof SoundRefused ? { statusCode: 488 } : { statusCode: 503, extraHeaders: ['Retry-After: 5'] })
      return
    }
    if (cancelled) return this.ground.sound.end(line.id)
    const begun = this.begin(device, message)
    if (!begun || 'refusal' in begun) {
      this.ground.sound.end(line.id)
      return void request.reject({ statusCode: begun ? statusOfRefusal[begun.refusal] ?? 403 : 404 })
    }
    line.sdp = sdp
    line.call = begun.call
    this.add(line)
    if (begun.call === null) {
      // What was dialled is done: the telephone hears that by the end of its call.
      line.state = 'up'
      line.asked = undefined
      const { session } = request.accept({ statusCode: 200, body: sdpBody(sdp) })
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
    return [...this.lines.values()].flat().find(({ session, early }) => {
      const its = session ?? early
      return its?.callId === callId && ((its?.localTag === to && its?.remoteTag === from) || (its?.localTag === from && its?.remoteTag === to))
    })
  }

  // In a dialog ———

  protected heldByIt({ device, call, onHold }: Line): void {
    this.ask({ service: onHold ? 'holdCall' : 'retrieveCall', device, call: call! })
    this.unsettle(device)
  }

  /** The telephone passes its caller on: without asking (RFC 3515), or to whom it has asked (RFC 3891). */
  protected referred(line: Line, request: IncomingReferRequest): void {
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

  /** Who calls, for a display: who it is about, and by whom they were put through. */
  protected shownTo(device: DeviceId, call: Call): Shown {
    const { company } = this.exchange.state
    const other = connectionOf(call, call.calling === device ? othersOf(call, device)[0]?.device ?? '' : call.calling) ?? othersOf(call, device)[0]
    const telephone = lookUp(company.telephones, other?.device ?? '')
    const party = other?.party ?? (telephone ? { name: telephone.name, number: telephone.number } : call.party)
    const { passing, recall } = call
    const by = passing?.to === device || recall?.to === device ? lookUp(company.telephones, passing?.by ?? recall?.from ?? '')?.name : undefined
    const name = party?.name ?? party?.number ?? (isSlot(other?.device ?? '') ? lookUp(company.slots, other!.device)?.name : undefined) ?? ''
    return { name: quoted(by ? `${name} / ${by}` : name), number: (party?.number ?? '').replace(/[^0-9+*#]/g, '') }
  }

  private speaks(page: string): Shown {
    const { company, pages } = this.exchange.state
    const by = lookUp(company.telephones, pages.get(page)?.by ?? '')
    return { name: quoted(by?.name ?? ''), number: by?.number ?? '' }
  }
}

/** The telephone lifts without anybody there (RFC 5373, and as telephones understood it before). */
const answersByItself = (from: URI) =>
  ['Answer-Mode: Auto', 'Alert-Info: <urn:alert:source:internal>;info=alert-autoanswer', `Call-Info: <${from.toRaw()}>;answer-after=0`]
