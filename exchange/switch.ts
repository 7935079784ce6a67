import { phrase, type Phrase } from '../words/phrase'
import { decide } from '../core/calls/decide'
import { evolve } from '../core/calls/evolve'
import type { CallEvent, ExchangeState, NumberedEvent, Refusal, RefusalCode, Request } from '../core/calls/model'
import { nextDeadline } from '../core/calls/timers'
import type { Clock } from './clock'

const eventsKept = 50_000
const checkpointEvery = 250
const repliesKept = 20_000

export interface Reply {
  /** The sequence number after the request. */
  seq: number
  /** The call that a makeCall or offerCall began. */
  call?: string
  refusal?: Refusal
}

/** People who hear what happens and act: whoever plays callers and colleagues. */
export interface Players {
  /** When somebody next wants to do something, or null. */
  next(): number | null
  /** The next request that somebody makes at `now`, or null when nobody wants anything more now. */
  take(state: ExchangeState, now: number): Request | null
  /** `state` is the state after the event. */
  hear(event: NumberedEvent, state: ExchangeState): void
}

/**
 * The switching part of the stand-in exchange: runs the call model on a clock, remembers recent events, and lets
 * people hear and act. Knows nothing of networks.
 */
export class Switch {
  private events: NumberedEvent[] = []
  private checkpoints: ExchangeState[]
  private readonly replies = new Map<string, { asked: string, reply: Reply }>()
  private readonly listeners = new Set<(event: NumberedEvent) => void>()

  constructor(private current: ExchangeState, private readonly clock: Clock, private players: Players | null = null) {
    this.checkpoints = [current]
    this.sleep()
  }

  get state(): ExchangeState {
    return this.current
  }

  now(): number {
    return Math.max(this.clock.now(), this.current.time)
  }

  onEvent(listener: (event: NumberedEvent) => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** From now on these people hear and act. */
  letIn(players: Players): void {
    this.players = players
    this.sleep()
  }

  /**
   * Carries out a request. The same id again gives the same reply and changes nothing; for another request it is refused.
   * @param before the time after which it is too late: whoever asked has been told by then that nobody knows what became of it
   */
  request(id: string, request: Request, before = Infinity): Reply {
    const asked = JSON.stringify(request)
    const known = this.replies.get(id)
    if (known)
      return known.asked === asked
        ? known.reply
        : this.refused('idUsed', phrase('refusals.thatIdWasUsed'))
    const reply = this.now() > before ? this.refused('tooLate', phrase('refusals.askedTooLate')) : this.carryOut(request)
    this.replies.set(id, { asked, reply })
    if (this.replies.size > repliesKept) this.replies.delete(this.replies.keys().next().value!)
    this.sleep()
    return reply
  }

  /** What became of a request, or null when none with that id has come. */
  outcome(id: string): Reply | null {
    return this.replies.get(id)?.reply ?? null
  }

  private refused(code: RefusalCode, why: Phrase): Reply {
    return { seq: this.current.seq, refusal: { code, why } }
  }

  /**
   * A state and the events that lead from it to the present. `complete` says that nothing after `since` is missing;
   * without `since`, or with one of another epoch, everything since the beginning of this epoch is wanted.
   */
  history(since?: { epoch: string, seq: number }): { state: ExchangeState, events: NumberedEvent[], complete: boolean } {
    const from = since?.epoch === this.current.epoch ? since.seq : 0
    const state = this.checkpoints.findLast(checkpoint => checkpoint.seq <= from) ?? this.checkpoints[0]!
    return {
      state,
      events: this.events.filter(event => event.seq > state.seq),
      complete: state.seq <= from,
    }
  }

  private carryOut(request: Request): Reply {
    const decision = decide(this.current, request, this.now())
    if ('refusal' in decision) return { seq: this.current.seq, refusal: decision.refusal }
    for (const event of decision.events) this.apply(event)
    const began = decision.events.find(event => event.type === 'originated')
    return { seq: this.current.seq, ...(began && { call: began.call }) }
  }

  private apply(event: CallEvent): void {
    const numbered: NumberedEvent = { ...event, seq: this.current.seq + 1, at: this.now() }
    this.current = evolve(this.current, numbered)
    this.events.push(numbered)
    if (numbered.seq % checkpointEvery === 0) this.checkpoints.push(this.current)
    if (this.events.length > eventsKept + checkpointEvery) this.forget()
    this.players?.hear(numbered, this.current)
    for (const listener of this.listeners) listener(numbered)
  }

  private forget(): void {
    const oldest = this.current.seq - eventsKept
    const keep = this.checkpoints.findLastIndex(checkpoint => checkpoint.seq <= oldest)
    this.checkpoints = this.checkpoints.slice(Math.max(0, keep))
    this.events = this.events.filter(event => event.seq > this.checkpoints[0]!.seq)
  }

  private sleep(): void {
    const times = [nextDeadline(this.current), this.players?.next() ?? null].filter(time => time !== null)
    if (times.length > 0) this.clock.wakeAt(Math.min(...times), () => this.wake())
  }

  private wake(): void {
    const due = nextDeadline(this.current)
    if (due !== null && due <= this.now()) this.carryOut({ service: 'tick' })
    for (;;) {
      const request = this.players?.take(this.current, this.now())
      if (!request) break
      this.carryOut(request)
    }
    this.sleep()
  }
}
