import { type IncomingInviteRequest, type IncomingReferRequest, type IncomingRequestMessage, type NameAddrHeader, URI } from 'sip.js/lib/core/index.js'
import { lookUp } from '../../core/company/lookups'
import type { Call, Connection, DeviceId, Party } from '../../core/calls/model'
import { callsOf, connectionOf } from '../../core/calls/questions'
import type { Switch } from '../switch'
import type { Way } from './carrier'
import { Calls, type Ground, statusOfCause, statusOfRefusal } from './calls'
import { type Line, newLine, noCall, type Shown } from './line'
import { refusedTimer, timerOf } from './session-timer'
import type { Peer } from './wire'

/** Milliseconds: whoever has not said anything by then is left for the next. */
const patience = 2_000
/** Milliseconds for which a caller hears us before the call counts as answered: carriers end one that only rings for long. */
const answersAfter = 30_000

/** The ways to the outside. */
export interface Ways {
  /** In the order in which a call tries them. */
  of: (trunk: string) => Way[]
  /** Whether it answers. */
  report: (way: Way, isThere: boolean) => void
}

/** The calls of parties outside, whom carriers bring and reach. */
export class TrunkCalls extends Calls {
  protected answersAfter = answersAfter

  constructor(exchange: Switch, ground: Ground, private readonly ways: Ways) {
    super(exchange, ground)
  }

  protected serves(device: DeviceId): boolean {
    return this.waysOf(this.legOf(device)).length > 0
  }

  private legOf(device: DeviceId): Connection | undefined {
    const [call] = callsOf(this.exchange.state, device)
    return call && connectionOf(call, device)
  }

  private waysOf(leg: Connection | undefined): Way[] {
    return leg?.trunk === undefined ? [] : this.ways.of(leg.trunk)
  }

  // Calls to the outside ———

  protected ring(device: DeviceId, call: Call, byItself: boolean): void {
    const leg = connectionOf(call, device)!
    const ways = this.waysOf(leg).filter(({ peer }) => peer !== null)
    const [first] = ways
    // Nobody outside lifts by themselves: a party that is connected and has no dialog is not there any more.
    if (byItself) return void this.ask({ service: 'clearConnection', device, call: call.id })
    if (!first) return void this.ask({ service: 'reportFailed', device, call: call.id, cause: 'trunksBusy' })
    const line = newLine({ device, call: call.id, state: 'rings', core: first.core, peer: first.peer! })
    this.add(line)
    void this.dial(line, ways, leg.party?.number ?? '').catch((error: Error) => {
      this.ground.log(`sip: ${error.message}`)
      this.failed(line, 503)
    })
  }

  private async dial(line: Line, ways: Way[], number: string): Promise<void> {
    const { sdp } = await this.describe(line, {})
    if (line.state !== 'rings' || sdp === null) return this.ground.sound.end(line.id)
    this.tryNext(line, [...ways], number, sdp)
  }

  private tryNext(line: Line, [way, ...others]: Way[], number: string, sdp: string): void {
    const call = this.exchange.state.calls.get(line.call ?? '')
    if (!way || !call) return this.failed(line, 503)
    const { core, host, port } = way
    const shown = this.numberFor(call)
    const from = call.withheld ? new URI('sip', 'anonymous', 'anonymous.invalid') : new URI('sip', shown, host)
    let isLeft = false
    const leave = () => {
      if (isLeft || line.state !== 'rings') return
      isLeft = true
      this.ways.report(way, false)
      this.tryNext(line, others, number, sdp)
    }
    const waiting = setTimeout(() => {
      fork.cancel()
      leave()
    }, patience)
    const to = new URI('sip', number, host, port)
    const fork = this.invite(line, {
      core, peer: way.peer!, uri: to, to, from, name: '', sdp,
      headers: [`P-Asserted-Identity: <sip:${shown}@${host}>`, ...call.withheld ? ['Privacy: id'] : []],
    }, {
      progress: () => clearTimeout(waiting),
      reject: (status) => {
        clearTimeout(waiting)
        if (isLeft) return
        this.ways.report(way, status !== 503 && status !== 408)
        if (status >= 500 && status < 600) leave()
        else this.failed(line, status)
      },
    })
  }

  /** Nobody is reached there. */
  private failed(line: Line, status: number): void {
    if (line.state !== 'rings') return
    line.state = 'refused'
    const { device } = line
    const call = line.call ?? ''
    if (connectionOf(this.exchange.state.calls.get(call) ?? noCall, device)?.state !== 'alerting') return this.unsettle(device)
    const cause = causeOfStatus(status)
    this.ask(cause ? { service: 'reportFailed', device, call, cause } : { service: 'clearConnection', device, call })
    this.unsettle(device)
  }

  /** The number that is shown outside, of whoever sends a call there: their own, or that of the line. E.164. */
  private numberFor(call: Call): string {
    const { telephones, lines } = this.exchange.state.company
    const by = call.passing?.by ?? call.forwardedBy?.at(-1) ?? call.calling
    return lookUp(telephones, by)?.direct ?? lookUp(lines, call.line ?? '')?.number ?? Object.values(lines)[0]?.number ?? 'anonymous'
  }

  // Calls from the outside ———

  /** A carrier brings a call. */
  async invited(request: IncomingInviteRequest, way: Way, peer: Peer): Promise<void> {
    const { message } = request
    const refused = refusedTimer(timerOf(message))
    if (refused) return void request.reject({ statusCode: 422, extraHeaders: refused })
    request.trying()
    const reply = this.ask({ service: 'offerCall', trunk: way.trunk, party: callerOf(message), number: dialledIn(message, way.account?.name) })
    if (reply.refusal) {
      const statusCode = statusOfRefusal[reply.refusal.code] ?? 480
      return void request.reject({ statusCode, ...statusCode === 503 && { extraHeaders: ['Retry-After: 5'] } })
    }
    const call = reply.call!
    const device = this.exchange.state.calls.get(call)?.calling
    // One that we do not take is over at once.
    if (device === undefined) return void request.reject({ statusCode: statusOfCause(this.ends.get(call)) })
    const line = newLine({ device, call, state: 'calls', core: way.core, peer, asked: request })
    this.add(line)
    request.delegate = { onCancel: () => {
      request.reject({ statusCode: 487 })
      line.asked = undefined
      this.left(line)
    } }
    try {
      line.sdp = await this.describeFor(line, message)
    }
    catch {
      if (line.state === 'over') return
      request.reject({ statusCode: 488 })
      line.asked = undefined
      return this.left(line)
    }
    if (this.linesOf(device).includes(line)) this.settle(device)
    else this.ground.sound.end(line.id)
  }

  protected shownTo(_device: DeviceId, { dialled }: Call): Shown {
    return { name: '', number: dialled.replace(/[^0-9+]/g, '') }
  }

  /** Whom a caller talks with is nobody's business outside. */
  protected override show(): void {}

  /** Whoever is outside may hold us, and hears music of their own: nothing changes here. */
  protected heldByIt(): void {}

  /** Carriers move nobody of ours. */
  protected referred(_line: Line, request: IncomingReferRequest): void {
    request.reject({ statusCode: 403 })
  }
}

/** Who calls: as a carrier whom we trust asserts it (RFC 3325), or as the caller says; nobody who has asked for that (RFC 3323). */
function callerOf(message: IncomingRequestMessage): Party {
  const isHidden = /\b(id|user|header|full)\b/i.test(message.getHeader('privacy') ?? '')
  if (isHidden) return { number: null, name: null }
  const asserted = message.hasHeader('p-asserted-identity') ? message.parseHeader('p-asserted-identity') as NameAddrHeader | undefined : undefined
  const { displayName, uri } = asserted ?? message.from
  const user = uri?.user ?? ''
  const isUnknown = /^(anonymous|unavailable|unknown|restricted)?$/i.test(user)
  return { number: isUnknown ? null : user, name: (asserted?.displayName || displayName || message.from.displayName) || null }
}

/** The number that was dialled: a carrier who sends calls to our account says it beside. */
function dialledIn(message: IncomingRequestMessage, account: string | undefined): string {
  const user = message.ruri?.user ?? ''
  if (user !== account && user !== '') return user
  const called = message.hasHeader('p-called-party-id') ? message.parseHeader('p-called-party-id') as NameAddrHeader | undefined : undefined
  return called?.uri.user ?? message.to.uri.user ?? ''
}

/** Why a number outside is not reached (RFC 3398, section 8.2.6.1, the other way round); null: whoever is there declines. */
function causeOfStatus(status: number): 'busy' | 'outOfService' | 'trunksBusy' | 'noAnswer' | null {
  if (status === 486 || status === 600) return 'busy'
  if (status === 480 || status === 408 || status === 487) return 'noAnswer'
  if (status === 603 || status === 403) return null
  return status >= 500 && status < 600 ? 'trunksBusy' : 'outOfService'
}
