import type { NumberedEvent } from '~~/core/calls/model'
import { feedBeat } from '~~/shared/feed'
import type { Role } from '~~/shared/people'
import { redactEvent, redactState, revealedTo, seesCallers } from '~~/shared/redaction'
import type { Picture } from '../exchange/picture'
import type { Position, ToBrowser } from '~~/shared/feed'

export interface Listener {
  role: Role
  signIn: string
  session: string
  /** The telephone of whoever listens. */
  device: string | null
  /** When it last said something, by `performance.now()`. */
  heard: number
  send(text: string): void
  /** Closes the connection: whoever listens has to sign in, or to come again. */
  end(): void
}

/** Tells every browser what happens, in order, each as much as its role may know. */
export class Hub {
  private readonly listeners = new Set<Listener>()
  private readonly watched = new Map<Listener, (silentFor: number) => void>()
  private readonly beating: NodeJS.Timeout
  private exchange = false
  private untold: NumberedEvent[] = []

  constructor(private readonly picture: Picture) {
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
  join(listener: Listener, since: Position | undefined): void {
    this.tellEvents()
    this.listeners.add(listener)
    const { state, now } = this.picture
    if (!state) return
    const missed = this.picture.since(since)
    const message: ToBrowser = missed
      ? { type: 'events', now, exchange: this.exchange, epoch: state.epoch, events: missed }
      : { type: 'snapshot', now, exchange: this.exchange, state }
    listener.send(JSON.stringify(seesCallers(listener.role) ? message : redactedMessage(message)))
    if (!seesCallers(listener.role)) this.revealOwn(listener, { type: 'snapshot', now, exchange: this.exchange, state })
  }

  leave(listener: Listener): void {
    this.watched.delete(listener)
    this.listeners.delete(listener)
  }

  setExchange(up: boolean): void {
    this.exchange = up
    this.beat()
  }

  /** Everybody starts again from the present picture. */
  restart(): void {
    this.untold = []
    const { state, now } = this.picture
    if (state) this.tell({ type: 'snapshot', now, exchange: this.exchange, state })
  }

  /** Events that come together go out together. */
  events(events: NumberedEvent[]): void {
    if (this.untold.length === 0) setImmediate(() => this.tellEvents())
    this.untold.push(...events)
  }

  private tellEvents(): void {
    const { state, now } = this.picture
    const events = this.untold.splice(0)
    if (state && events.length > 0) this.tell({ type: 'events', now, exchange: this.exchange, epoch: state.epoch, events })
  }

  beat(): void {
    const { state, now } = this.picture
    this.tell({ type: 'beat', now, exchange: this.exchange, epoch: state?.epoch ?? '', seq: state?.seq ?? 0 })
  }

  /** Messages have come or been read: whoever they concern asks for them. */
  news(concerned: readonly string[]): void {
    for (const listener of this.listeners) {
      const concerns = concerned.some(one => one === listener.signIn || one === listener.device || (seesCallers(listener.role) && !/^\d/.test(one)))
      if (concerns) listener.send(JSON.stringify({ type: 'news' } satisfies ToBrowser))
    }
  }

  /** One text for all who may see everything and one for the others, however many browsers there are. */
  private tell(message: ToBrowser): void {
    let full: string | undefined
    let redacted: string | undefined
    for (const listener of this.listeners) {
      if (seesCallers(listener.role)) listener.send(full ??= JSON.stringify(message))
      else {
        listener.send(redacted ??= JSON.stringify(redactedMessage(message)))
        this.revealOwn(listener, message)
      }
    }
  }

  /** Of the calls at their own telephone everybody may know who it is. */
  private revealOwn(listener: Listener, message: ToBrowser): void {
    const { state } = this.picture
    const { device } = listener
    if (!state || !device || (message.type !== 'events' && message.type !== 'snapshot')) return
    const touched = message.type === 'snapshot' ? Object.keys(state.calls) : [...new Set(message.events.flatMap(event => 'call' in event ? [event.call] : []))]
    const calls = touched.flatMap((id) => {
      const call = state.calls[id]
      return (call && revealedTo(device, call)) ?? []
    })
    const outlived = state.outlived.filter(note => note.for === device)
    if (calls.length > 0 || outlived.length > 0) listener.send(JSON.stringify({ type: 'reveal', epoch: state.epoch, seq: state.seq, calls, outlived } satisfies ToBrowser))
  }
}

function redactedMessage(message: ToBrowser): ToBrowser {
  if (message.type === 'snapshot') return { ...message, state: redactState(message.state) }
  if (message.type === 'events') return { ...message, events: message.events.map(redactEvent) }
  return message
}
