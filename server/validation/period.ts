import { wrongInput } from './read'

const day = 24 * 60 * 60_000
const longest = 366 * 5

/**
 * The midnights of the first and the last day of a period, as the clock shows them, as if in UTC.
 * @throws 422
 */
export function daysOf({ from, to }: { from: string, to: string }): { first: number, last: number } {
  const [first, last] = [Date.parse(from), Date.parse(to)]
  if (last < first) throw wrongInput('to', 'to must not lie before from.')
  if (last - first > longest * day) throw wrongInput('to', 'to: five years at most are counted at once.')
  return { first, last }
}
