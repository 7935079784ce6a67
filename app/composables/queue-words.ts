import type { QueueAbsence } from '~~/core/calls/model'
import type { Ringing } from '~~/core/company/company'
import { spell } from '~~/core/durations/durations'

/** Why somebody does not serve a queue for the time being, and since or until when. */
export function absenceWords({ state, reason, since, until }: QueueAbsence, now: number): string {
  if (state === 'wrapUp') return `after a call, ${spell(Math.max(0, (until ?? now) - now))} left`
  return state === 'left' ? `left ${spell(now - since)} ago` : `paused ${spell(now - since)}: ${reason ?? ''}`
}

/** How a queue gives calls to its members. */
export const ringingWords: Record<Ringing, string> = {
  none: 'Members take callers by themselves',
  longestFree: 'Rings whoever has been free longest',
  all: 'Rings all who are free',
  order: 'Rings its members in their order',
  turn: 'Rings one member after the other',
  skill: 'Rings the most skilled who is free',
}
