import { wrongInput } from './read'
import { t } from '../language'

const day = 24 * 60 * 60_000
const longest = 366 * 5

/**
 * The midnights of the first and the last day of a period, as the clock shows them, as if in UTC.
 * @throws 422
 */
export function daysOf({ from, to }: { from: string, to: string }): { first: number, last: number } {
  const [first, last] = [Date.parse(from), Date.parse(to)]
  if (last < first) throw wrongInput('to', t('answers.toBeforeFrom'))
  if (last - first > longest * day) throw wrongInput('to', t('answers.fiveYearsAtMost'))
  return { first, last }
}
