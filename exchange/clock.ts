/** Where the exchange takes its time from. */
export interface Clock {
  now(): number
  /** Calls back once at or after the given time; replaces an alarm set before. */
  wakeAt(at: number, wake: () => void): void
}

export class WallClock implements Clock {
  private timer: NodeJS.Timeout | undefined

  now(): number {
    return Date.now()
  }

  wakeAt(at: number, wake: () => void): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(wake, Math.min(Math.max(0, at - Date.now()), 60_000))
  }
}

/** A clock that stands still until it is told otherwise: a working day in milliseconds, and the same every time. */
export class InventedClock implements Clock {
  private alarm: { at: number, wake: () => void } | null = null

  constructor(private time: number) {}

  now(): number {
    return this.time
  }

  wakeAt(at: number, wake: () => void): void {
    this.alarm = { at, wake }
  }

  /** Moves time on, stopping at every alarm on the way. */
  advance(by: number): void {
    const end = this.time + by
    while (this.alarm && this.alarm.at <= end) {
      const { at, wake } = this.alarm
      this.alarm = null
      this.time = Math.max(this.time, at)
      wake()
    }
    this.time = end
  }
}

/** A wall clock that stands at a moment until somebody is there, and then goes on from it. */
export class WaitingClock implements Clock {
  private offset: number | null = null
  private alarm: (() => void) | null = null
  private timer: NodeJS.Timeout | undefined

  constructor(private readonly moment: number) {}

  now(): number {
    return this.offset === null ? this.moment : Date.now() - this.offset
  }

  begin(): void {
    if (this.offset !== null) return
    this.offset = Date.now() - this.moment
    this.alarm?.()
  }

  wakeAt(at: number, wake: () => void): void {
    const set = () => {
      clearTimeout(this.timer)
      this.timer = setTimeout(wake, Math.min(Math.max(0, at - this.now()), 60_000))
    }
    if (this.offset === null) this.alarm = set
    else set()
  }
}
