/** Clocks of places, by the IANA time zone database. Times are milliseconds since 1970 (UTC); a local time is what the clock there shows, as if in UTC. */

const day = 24 * 60 * 60_000

const clocks = new Map<string, Intl.DateTimeFormat>()
function clockOf(zone: string): Intl.DateTimeFormat {
  const known = clocks.get(zone) ?? new Intl.DateTimeFormat('en-GB', {
    timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit', hour: '2-digit', minute: '2-digit', second: '2-digit', hourCycle: 'h23',
  })
  clocks.set(zone, known)
  return known
}

/** A minute of the day as people write it: "14:05". */
export function clockOfMinute(minute: number): string {
  return `${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`
}

/** True for a name that the database has. */
export function isZone(name: string): boolean {
  try {
    clockOf(name)
    return true
  }
  catch {
    return false
  }
}

/**
 * What the clock on the wall shows.
 * @throws RangeError for a zone that the database does not have
 */
export function localTime(zone: string, at: number): number {
  const parts = Object.fromEntries(clockOf(zone).formatToParts(at).map(({ type, value }) => [type, Number(value)])) as Record<string, number>
  return Date.UTC(parts.year!, parts.month! - 1, parts.day, parts.hour, parts.minute, parts.second)
}

/**
 * The instant at which the clock shows a local time: the first, when it shows it twice; when it never does, as if it had not been changed yet
 * (RFC 5545, 3.3.5).
 * @throws RangeError for a zone that the database does not have
 */
export function instantOf(zone: string, local: number): number {
  const offset = (at: number) => localTime(zone, at) - Math.floor(at / 1_000) * 1_000
  const before = offset(local - day)
  if (offset(local - before) === before) return local - before
  const after = offset(local + day)
  return offset(local - after) === after ? local - after : local - before
}

/** Midnight at which the day of an instant began, and that at which it ends. */
export function dayOf(zone: string, at: number): { begins: number, ends: number } {
  const midnight = Math.floor(localTime(zone, at) / day) * day
  return { begins: instantOf(zone, midnight), ends: instantOf(zone, midnight + day) }
}

/** From an instant on, a clock is ahead of UTC by an offset, in milliseconds. */
export interface Offset { from: number, offset: number }

/**
 * By how much a clock is ahead of UTC in a period, in the order of time; the first from its beginning on. A clock is changed once a day at most, at a whole
 * minute.
 */
export function offsetsOf(zone: string, from: number, until: number): Offset[] {
  const offsetAt = (at: number) => localTime(zone, at) - Math.floor(at / 1_000) * 1_000
  const offsets = [{ from, offset: offsetAt(from) }]
  for (let at = from; at < until; at += day) {
    const { offset } = offsets.at(-1)!
    let [before, after] = [at, Math.min(at + day, until)]
    if (offsetAt(after) === offset) continue
    while (after - before > 60_000) {
      const middle = Math.floor((before + after) / 120_000) * 60_000
      if (middle <= before) break
      if (offsetAt(middle) === offset) before = middle
      else after = middle
    }
    const changes = Math.ceil(after / 60_000) * 60_000
    offsets.push({ from: changes, offset: offsetAt(changes) })
  }
  return offsets
}
