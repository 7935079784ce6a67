import type { Engaged } from '../presence/presence'

/** Times that a calendar takes, in milliseconds since 1970 (UTC). */
interface Span { from: number, to: number, place: string }

/** What a calendar says of an instant: until when nothing in it ends without something else going on; null: nothing takes place. */
export function engagedAt(spans: readonly Span[], at: number): Engaged | null {
  const present = spans.filter(({ from, to }) => from <= at && at < to)
  if (present.length === 0) return null
  let until = at
  for (let next: Span | undefined = present[0]; next; next = spans.find(({ from, to }) => from <= until && until < to)) until = next.to
  return { until, place: present.find(({ place }) => place !== '')?.place ?? '' }
}
