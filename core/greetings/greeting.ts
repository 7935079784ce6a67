import type { Greeting, Line } from '../company/company'
import type { Speaker } from '../../words/speaker'

/** Minutes since midnight. */
const noon = 12 * 60
const evening = 18 * 60

/**
 * What to say on answering a line, right for the time of day and for the caller's language: what the line has for that, the latest that has begun; else its
 * words after the usual opening.
 * @param minute of the company's own clock, since midnight
 * @param language of the caller, as somebody has written it down; empty: not known
 */
export function greetingAt(t: Speaker, { greeting, greetings }: Pick<Line, 'greeting' | 'greetings'>, minute: number, language = ''): string {
  const of = (wanted: string) => latest(greetings.filter(one => same(one.language, wanted)), minute)
  const own = of(language) ?? of('')
  if (own) return own.text
  const opening = minute < noon ? t('greeting.goodMorning') : minute < evening ? t('greeting.goodAfternoon') : t('greeting.goodEvening')
  return `${opening}, ${greeting}`
}

/** The one that has begun last; before the first of a day, the last of the day before goes on. */
function latest(all: readonly Greeting[], minute: number): Greeting | undefined {
  const inOrder = [...all].sort((a, b) => a.from - b.from)
  return inOrder.findLast(({ from }) => from <= minute) ?? inOrder.at(-1)
}

function same(one: string, other: string): boolean {
  return one.trim().toLowerCase() === other.trim().toLowerCase()
}
