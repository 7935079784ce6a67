import { evolve } from '~~/core/calls/evolve'
import type { ExchangeState, NumberedEvent } from '~~/core/calls/model'
import type { Position } from '~~/shared/feed'

const eventsKept = 20_000

/** What the server knows of the exchange: the same replica that every browser holds, and the latest events that led to it. */
export class Replica {
  private current: ExchangeState | null = null
  private events: NumberedEvent[] = []
  private clockOffset = 0

  get state(): ExchangeState | null {
    return this.current
  }

  /** The exchange's time now: it runs steadily, whatever is done to the clock on the wall. */
  get now(): number {
    return Math.round(performance.now() + this.clockOffset)
  }

  setTime(now: number): void {
    this.clockOffset = now - performance.now()
  }

  /** Begins anew from a state of the exchange. */
  begin(state: ExchangeState): void {
    this.current = state
    this.events = []
  }

  knows(event: NumberedEvent): boolean {
    return this.current !== null && event.seq <= this.current.seq
  }

  /** Takes the next event and gives back the states before and after it. */
  apply(event: NumberedEvent): { before: ExchangeState, after: ExchangeState } {
    const before = this.current!
    const after = evolve(before, event)
    this.current = after
    this.events.push(event)
    if (this.events.length > eventsKept * 1.1) this.events = this.events.slice(-eventsKept)
    return { before, after }
  }

  /** The events after a position, or null when they are no longer all here. */
  since(position: Position | undefined): NumberedEvent[] | null {
    if (!position || !this.current || position.epoch !== this.current.epoch || position.seq > this.current.seq) return null
    if (position.seq === this.current.seq) return []
    const first = this.events[0]
    if (!first || first.seq > position.seq + 1) return null
    return this.events.slice(position.seq + 1 - first.seq)
  }
}
