import type { AwayReason } from '../../core/calls/model'
import type { Chance } from '../company/chance'

/** How many colleagues are away at which time of the day, and why: a working day that looks like one, however long it is watched. Times are milliseconds. */

const minute = 60_000
const hour = 60 * minute
const day = 24 * hour

/** Shares of all colleagues. */
const usuallyAway = 0.16
const awayAtNoon = 0.2
const homeInTheEnd = 0.97

/** Local hours of the clock. */
const lunch = { from: 11.5, to: 13.75 }
const morning = 8
const evening = 17
const leaving = 1

export class WorkingDay {
  private readonly firstEvening: number

  /**
   * @param start when the day is first looked at, in milliseconds since 1970; whoever looks in the evening or at night sees a late shift of eight hours
   * @param offset added to a time it gives the local one
   */
  constructor(start: number, private readonly offset: number) {
    const begun = this.hourOf(start)
    this.firstEvening = begun >= 5 && begun < evening - 1 ? start + (evening - begun) * hour : start + 8 * hour
  }

  /** The share of colleagues that is away at a time. */
  awayAt(now: number): number {
    const home = this.lastEvening(now)
    if (home !== null && now < this.morningAfter(home)) return Math.min(homeInTheEnd, usuallyAway + (now - home) / (leaving * hour))
    return this.isLunch(now) ? awayAtNoon : usuallyAway
  }

  /** Why somebody goes away at a time, and until when. */
  absence(now: number, chance: Chance): { reason: AwayReason | 'doNotDisturb', until: number } {
    const home = this.lastEvening(now)
    if (home !== null && now < this.morningAfter(home)) return { reason: 'gone', until: this.morningAfter(home) }
    if (this.isLunch(now)) return { reason: 'lunch', until: onTheFive(now + chance.between(20, 45) * minute) }
    const choice = chance.next()
    if (choice < 0.45) return { reason: 'meeting', until: onTheFive(now + chance.between(25, 75) * minute) }
    if (choice < 0.75) return { reason: 'break', until: onTheFive(now + chance.between(5, 20) * minute) }
    if (choice < 0.87) return { reason: 'doNotDisturb', until: onTheFive(now + chance.between(10, 40) * minute) }
    return { reason: 'travelling', until: onTheFive(now + chance.between(40, 110) * minute) }
  }

  /** The end of the working day that came last before a time, or null before the first. */
  private lastEvening(now: number): number | null {
    if (now < this.firstEvening) return null
    const today = now - (this.hourOf(now) - evening) * hour
    const latest = today <= now ? today : today - day
    return Math.max(this.firstEvening, latest)
  }

  private morningAfter(home: number): number {
    const ahead = (morning - this.hourOf(home) + 24) % 24
    return home + (ahead === 0 ? 24 : ahead) * hour
  }

  private isLunch(now: number): boolean {
    const at = this.hourOf(now)
    return at >= lunch.from && at < lunch.to
  }

  /** The local hour of the clock, with its fraction. */
  private hourOf(at: number): number {
    return (((at + this.offset) % day) + day) % day / hour
  }
}

function onTheFive(at: number): number {
  return Math.ceil(at / (5 * minute)) * 5 * minute
}
