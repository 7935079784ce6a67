import { pagesRevealedTo, redactEvent, redactState, revealedTo } from '~~/core/calls/redaction'
import type { ExchangeState, NumberedEvent } from '~~/core/calls/model'
import { snapshotOf } from '~~/core/calls/snapshot'
import type { Company } from '~~/core/company/company'
import { feedBeat } from '~~/shared/beat'
import { type Role, seesCallers } from '~~/shared/roles'
import type { Replica } from '../exchange-link/replica'
import { mailboxesReadBy } from '../messages/readers'
import type { Position, ToBrowser } from '~~/shared/feed'
import type { NewsTopic } from '~~/shared/news'
import { companyIn, pictureOf } from '~~/shared/picture'

export interface Listener {
  role: Role
  signIn: string
  session: string
  /** The telephone of whoever listens. */
  device: string | null
  /** The version of the company's configuration that the browser has; 0 for none. */
  company: number
  /** When it last said something, by `performance.now()`. */
  heard: number
  send(text: string): void
  /** Closes the connection: whoever listens has to sign in, or to come again. */
  end(): void
}

/** No screen draws more often: of what happens within so many milliseconds the first goes out at once, the rest together. */
const frame = 16

/** Tells every browser what happens, in order, each as much as its role may know. */
export class Hub {
  private readonly listeners = new Set<Listener>()
  private readonly watched = new Map<Listener, (silentFor: number) => void>()
  private readonly beating: NodeJS.Timeout
  private exchange = false
  private untold: NumberedEvent[] = []
  private telling: NodeJS.Timeout | undefined
  /** When something last went out, by `performance.now()`. */
  private toldAt = -Infinity
  /** What was last sent of a whole state, by who may see what. */
  private snapshots: { of: ExchangeState | null, texts: Map<string, string> } = { of: null, texts: new Map() }
  private company: { of: Company | null, text: string } = { of: null, text: '' }
  /** The run of the exchange of which everybody has been told. */
  private told = ''

  /**
   * @param measure hears how long after it happened (milliseconds) something has gone out to the browsers
   * @param gathering milliseconds between two messages of events
   */
  constructor(private readonly replica: Replica, private readonly measure: (delay: number) => void = () => {}, private readonly gathering = frame) {
    this.beating = setInterval(() => {
      this.beat()
      for (const [listener, watch] of [...this.watched]) watch(performance.now() - listener.heard)
    }, feedBeat)
  }

  get listening(): number {
    return this.listeners.size
  }

  close(): void {
    clearInterval(this.beating)
    clearTimeout(this.telling)
  }

  /** With every beat it is told how long the listener has been silent, in milliseconds. */
  watch(listener: Listener, watch: (silentFor: number) => void): void {
    this.watched.set(listener, watch)
  }

  /** Sessions that are over, or whose person may see something else now. */
  end(sessions: readonly string[]): void {
    for (const listener of [...this.watched.keys()]) {
      if (!sessions.includes(listener.session)) continue
      this.listeners.delete(listener)
      listener.send(JSON.stringify({ type: 'over' } satisfies ToBrowser))
      listener.end()
    }
  }

  /** Brings a browser up to date and keeps it so. */
  join(listener: Listener, since: Position | undefined, company = 0): void {
    this.tellEvents()
    this.listeners.add(listener)
    listener.company = company
    const { state } = this
    if (!state) return
    const missed = this.replica.since(since)
    if (missed) {
      const message: ToBrowser = { type: 'events', now: this.replica.now, exchange: this.exchange, epoch: state.epoch, events: missed }
      listener.send(JSON.stringify(seesCallers(listener.role) ? message : redactedEvents(message)))
      listener.company = state.company.version
    }
    else listener.send(this.snapshotFor(listener, state))
    if (!seesCallers(listener.role)) this.revealOwn(listener, [...state.calls.keys()])
  }

  /** What the exchange is doing, as soon as it knows which company it serves. */
  private get state(): ExchangeState | null {
    const { state } = this.replica
    return state && state.company.version > 0 ? state : null
  }

  leave(listener: Listener): void {
    this.watched.delete(listener)
    this.listeners.delete(listener)
  }

  setExchange(up: boolean): void {
    this.exchange = up
    this.beat()
  }

  /** Everybody starts again from the present replica. */
  restart(): void {
    this.untold = []
    const { state } = this
    if (!state) return
    this.told = state.epoch
    for (const listener of this.listeners) {
      listener.send(this.snapshotFor(listener, state))
      if (!seesCallers(listener.role)) this.revealOwn(listener, [...state.calls.keys()])
    }
  }

  /** The present replica for one browser, without the configuration if it has that. One text for all who may see the same, however many ask for it. */
  private snapshotFor(listener: Listener, state: ExchangeState): string {
    const { version } = state.company
    const whole = listener.company !== version
    const kind = `${seesCallers(listener.role)} ${whole} ${this.exchange}`
    listener.company = version
    if (this.snapshots.of !== state) this.snapshots = { of: state, texts: new Map() }
    let text = this.snapshots.texts.get(kind)
    if (text === undefined) {
      const picture = pictureOf(snapshotOf(seesCallers(listener.role) ? state : redactState(state)))
      text = JSON.stringify({ exchange: this.exchange, ...picture } satisfies Omit<Extract<ToBrowser, { type: 'snapshot' }>, 'type' | 'now' | 'company'>)
      if (whole) text = `${text.slice(0, -1)},"company":${this.textOf(state.company)}}`
      this.snapshots.texts.set(kind, text)
    }
    return `{"type":"snapshot","now":${this.replica.now},${text.slice(1)}`
  }

  /** The company changes seldom, and is by far the largest part of a picture. */
  private textOf(company: Company): string {
    if (this.company.of !== company) this.company = { of: company, text: JSON.stringify(companyIn(company)) }
    return this.company.text
  }

  /** Events that come together go out together. */
  events(events: NumberedEvent[]): void {
    const { state } = this
    if (!state) return
    // An exchange that has just been told which company it serves.
    if (this.told !== state.epoch) return this.restart()
    if (this.untold.length === 0) this.tellSoon()
    this.untold.push(...events)
  }

  private tellSoon(): void {
    clearTimeout(this.telling)
    const wait = this.toldAt + this.gathering - performance.now()
    if (wait > 0) this.telling = setTimeout(() => this.tellEvents(), wait)
    else setImmediate(() => this.tellEvents())
  }

  private tellEvents(): void {
    const { state } = this
    const events = this.untold.splice(0)
    if (!state || events.length === 0) return
    this.toldAt = performance.now()
    this.tell({ type: 'events', now: this.replica.now, exchange: this.exchange, epoch: state.epoch, events })
    if (this.listeners.size > 0) this.measure(this.replica.now - events[0]!.at)
    if (events.some(({ type }) => type === 'configured')) for (const listener of this.listeners) listener.company = state.company.version
  }

  beat(): void {
    this.tellEvents()
    const { state } = this
    this.tell({ type: 'beat', now: this.replica.now, exchange: this.exchange && state !== null, epoch: state?.epoch ?? '', seq: state?.seq ?? 0 })
  }

  /** Messages have come or been read: whoever they concern asks for them, whoever answers for the company for how many wait. */
  newsOfMessages(concerned: readonly string[]): void {
    this.news('waiting', ({ role }) => seesCallers(role))
    const { company } = this.state ?? {}
    this.news('messages', (listener) => {
      const own = company ? mailboxesReadBy(company, listener) : [listener.device]
      return concerned.some(one => one === listener.signIn || own.includes(one))
    })
  }

  /** Something that whoever answers for the company looks at has changed. */
  newsForAnswering(about: NewsTopic): void {
    this.news(about, ({ role }) => seesCallers(role))
  }

  /** For everybody: something has changed, or, without a topic, anything may have. */
  newsForAll(about?: NewsTopic): void {
    this.news(about, () => true)
  }

  private news(about: NewsTopic | undefined, concerns: (listener: Listener) => boolean): void {
    const text = JSON.stringify({ type: 'news', ...about && { about } } satisfies ToBrowser)
    for (const listener of this.listeners) if (concerns(listener)) listener.send(text)
  }

  /** One text for all who may see everything and one for the others, however many browsers there are. */
  private tell(message: Extract<ToBrowser, { type: 'events' | 'beat' }>): void {
    let full: string | undefined
    let redacted: string | undefined
    const touched = message.type === 'events' ? [...new Set(message.events.flatMap(event => 'call' in event ? [event.call] : []))] : []
    for (const listener of this.listeners) {
      if (seesCallers(listener.role)) listener.send(full ??= JSON.stringify(message))
      else {
        listener.send(redacted ??= JSON.stringify(redactedEvents(message)))
        if (message.type === 'events') this.revealOwn(listener, touched)
      }
    }
  }

  /** Of the calls at their own telephone everybody may know who it is. */
  private revealOwn(listener: Listener, touched: readonly string[]): void {
    const { state } = this
    const { device } = listener
    if (!state || !device) return
    const calls = touched.flatMap((id) => {
      const call = state.calls.get(id)
      return (call && revealedTo(device, call)) ?? []
    })
    const outlived = state.outlived.filter(note => note.for === device)
    const pages = pagesRevealedTo(device, state)
    if (calls.length > 0 || outlived.length > 0 || pages.length > 0)
      listener.send(JSON.stringify({ type: 'reveal', epoch: state.epoch, seq: state.seq, calls, outlived, pages } satisfies ToBrowser))
  }
}

function redactedEvents<M extends ToBrowser>(message: M): M {
  return message.type === 'events' ? { ...message, events: message.events.map(redactEvent) } : message
}
