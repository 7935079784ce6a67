/** Where the exchange takes its time from. */
export interface Clock {
  now(): number
  /** Calls back once at or after the given time; replaces an alarm set before. */
  wakeAt(at: number, wake: () => void): void
}

/**
 * Real time that runs steadily: it begins with what the clock on the wall says, and goes on whatever is done to that one.
 * @param begin milliseconds since 1970
 */
export class SteadyClock implements Clock {
  private readonly started: number
  private timer: NodeJS.Timeout | undefined

  constructor(private readonly begin: number, private readonly elapsed: () => number = () => performance.now()) {
    this.started = elapsed()
  }

  now(): number {
    return Math.round(this.begin + this.elapsed() - this.started)
  }

  wakeAt(at: number, wake: () => void): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(wake, Math.min(Math.max(0, at - this.now()), 60_000))
  }
}

/** The least by which the clock on the wall must differ (milliseconds) to be followed. */
const noticeable = 500

/**
 * What must be added to a steady time to read what the clock on the wall says, if that is news.
 * @param known what is added so far, in milliseconds
 */
export function clockOffset(steady: number, wall: number, known: number): number | null {
  const offset = Math.round(wall - steady)
  return Math.abs(offset - known) >= noticeable ? offset : null
}

/**
 * A clock that stands still until it is told otherwise: a working day in milliseconds, and the same every time. Like every clock it tells whole
 * milliseconds.
 */
export class InventedClock implements Clock {
  private alarm: { at: number, wake: () => void } | null = null

  constructor(private time: number) {}

  now(): number {
    return this.time
  }

  wakeAt(at: number, wake: () => void): void {
    this.alarm = { at, wake }
  }

  moveTo(at: number): void {
    this.advance(at - this.time)
  }

  /** Moves time on, stopping at every alarm on the way. */
  advance(by: number): void {
    const end = this.time + by
    while (this.alarm && Math.ceil(this.alarm.at) <= end) {
      const { at, wake } = this.alarm
      this.alarm = null
      this.time = Math.max(this.time, Math.ceil(at))
      wake()
    }
    this.time = end
  }
}

/** A steady clock that stands at a moment until somebody is there, and then goes on from it. */
export class WaitingClock implements Clock {
  private running: SteadyClock | null = null
  private alarm: { at: number, wake: () => void } | null = null

  constructor(private moment: number) {}

  /** Moves the moment at which it stands. */
  moveTo(moment: number): void {
    if (!this.running) this.moment = moment
  }

  now(): number {
    return this.running?.now() ?? this.moment
  }

  begin(): void {
    if (this.running) return
    this.running = new SteadyClock(this.moment)
    if (this.alarm) this.running.wakeAt(this.alarm.at, this.alarm.wake)
  }

  wakeAt(at: number, wake: () => void): void {
    this.alarm = { at, wake }
    this.running?.wakeAt(at, wake)
  }
}
