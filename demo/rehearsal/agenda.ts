import type { ExchangeState, Request } from '../../core/calls/model'

/** What somebody means to ask for, if it still makes sense when its time has come. */
export type Intention = (state: ExchangeState, now: number) => Request | null

/** What is to happen when, earliest first; what is due at the same time happens in the order it was entered. */
export class Agenda<T> {
  private readonly entries: { at: number, what: T }[] = []

  add(at: number, what: T): void {
    let low = 0
    let high = this.entries.length
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.entries[middle]!.at <= at) low = middle + 1
      else high = middle
    }
    this.entries.splice(low, 0, { at, what })
  }

  /** The time of the next entry, or null. */
  next(): number | null {
    return this.entries[0]?.at ?? null
  }

  /** Takes the next entry if it is due at `now`. */
  takeDue(now: number): T | null {
    return this.entries.length > 0 && this.entries[0]!.at <= now ? this.entries.shift()!.what : null
  }
}
