/** The scale of time on a ribbon: even up to the promise, then bending, so that one still tells twice from five times from ten times as long. */

const atPromise = 0.4
/** Beyond this many times the promise the ribbon is full. */
const fullAt = 12

/**
 * How much of a ribbon is filled, from 0 to 1: evenly up to the promise, with the logarithm beyond it.
 * @param used the part of the promise that is used up; over 1 it is broken
 */
export function filled(used: number): number {
  if (!(used > 0)) return 0
  return used <= 1 ? used * atPromise : Math.min(1, atPromise + (1 - atPromise) * Math.log(used) / Math.log(fullAt))
}

/** Where the ribbon is marked: at the promise, and at so many times it. */
export const marks = [1, 2, 5, 10].map(times => ({ times, at: filled(times) }))

export type Heat = 'calm' | 'warm' | 'late'

/** A ribbon warms as it nears its promise, and burns past it. */
export function heatOf(used: number): Heat {
  return used > 1 ? 'late' : used > 0.6 ? 'warm' : 'calm'
}
