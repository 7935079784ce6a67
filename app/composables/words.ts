import type { AwayReason } from '~~/core/calls/model'

export const reasonWords: Record<AwayReason, string> = {
  lunch: 'lunch',
  break: 'break',
  meeting: 'meeting',
  travelling: 'travelling',
  gone: 'gone for the day',
}
