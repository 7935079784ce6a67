import type { PlainKey } from '~~/words/speaker'
import type { QueueAbsence } from '~~/core/calls/model'
import type { Ringing } from '~~/core/company/company'
import { spell } from '~~/core/durations/durations'
import { whyPaused } from '~~/core/queues/offers'
import { say, t } from '~/composables/language'

/** Why somebody does not serve a queue for the time being, and since or until when. */
export function absenceWords({ state, reason, since, until }: QueueAbsence, now: number): string {
  if (state === 'wrapUp') return t('queues.afterACallLeft', { time: spell(Math.max(0, (until ?? now) - now)) })
  const time = spell(now - since)
  return state === 'left' ? t('queues.leftAgo', { time }) : t('queues.pausedTimeReason', { time, reason: say(whyPaused(reason)) })
}

/** How a queue gives calls to its members. */
export const ringingWords: Record<Ringing, PlainKey> = {
  none: 'queues.membersTakeCallersByThemselves',
  longestFree: 'queues.ringsWhoeverHasBeenFree',
  all: 'queues.ringsAllWhoAreFree',
  order: 'queues.ringsItsMembersInTheir',
  turn: 'queues.ringsOneMemberAfterThe',
  skill: 'queues.ringsTheMostSkilledWho',
}
