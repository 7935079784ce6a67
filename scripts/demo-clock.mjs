import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './processes.mjs'

/** Where Merrowby Ferries is. */
const clock = new Intl.DateTimeFormat('en-GB', { timeZone: 'Europe/London', weekday: 'short', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })
const minute = 60_000
const opens = 8 * 60 + 30
const begins = 9 * 60 + 30
const closes = 16 * 60

/**
 * By how much the demo's clock is ahead of the machine's, so that it begins in a working day: nothing when it is one, else until the next morning.
 * @param {number} now milliseconds since 1970
 * @param {number} kept by how much it was ahead before: what has happened since then must not lie in the future
 */
export function aheadBy(now, kept) {
  let at = now + kept
  if (isWithin(at, opens, closes)) return kept
  at = Math.ceil(at / minute) * minute
  while (!isWithin(at, begins, closes)) at += minute
  return at - now
}

/**
 * @param {number} at
 * @param {number} from minutes since midnight
 * @param {number} until
 */
function isWithin(at, from, until) {
  const parts = Object.fromEntries(clock.formatToParts(at).map(({ type, value }) => [type, value]))
  const time = Number(parts.hour) * 60 + Number(parts.minute)
  return !['Sat', 'Sun'].includes(parts.weekday ?? '') && time >= from && time < until
}

/**
 * The same, kept from one start to the next.
 * @param {string} name of the database whose clock it is
 * @param {boolean} fresh
 */
export function demoClock(name, fresh) {
  const file = join(root, '.data', `${name}-clock`)
  const kept = !fresh && existsSync(file) ? Number(readFileSync(file, 'utf8')) || 0 : 0
  const ahead = aheadBy(Date.now(), kept)
  mkdirSync(join(root, '.data'), { recursive: true })
  writeFileSync(file, String(ahead))
  return ahead
}

/** @param {number} at */
export function asClock(at) {
  return clock.format(at)
}
