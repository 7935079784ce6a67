import type { QueueAbsence } from '~~/core/calls/model'
import { spell } from '~~/core/durations/durations'

/** Why somebody does not serve a queue for the time being, and since or until when. */
export function absenceWords({ state, reason, since, until }: QueueAbsence, now: number): string {
  if (state === 'wrapUp') return `after a call, ${spell(Math.max(0, (until ?? now) - now))} left`
  return state === 'left' ? `left ${spell(now - since)} ago` : `paused ${spell(now - since)}: ${reason ?? ''}`
}
