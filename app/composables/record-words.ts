import { say, t } from '~/composables/language'
import { formatNumber } from '~/composables/numbers'
import { tellStory } from '~~/core/calls/story'
import { spell } from '~~/core/durations/durations'
import { missedOutcomes } from '~~/core/calls/record'
import { useContacts } from '~/stores/contacts'
import type { LogRow } from '~~/shared/log'

/** A call of the log in words. */

/** As we know them, else as the network said then. */
export function whoCalled(row: LogRow): string {
  return useContacts().of(row.number)?.name ?? row.name ?? (row.number ? formatNumber(row.number) : t('common.numberWithheld'))
}

/** The name of a device as it was at the time of the call. */
export function nameIn(row: LogRow) {
  return (device: string) => say(row.names[device] ?? whoCalled(row))
}

/** Its story, line by line. */
export function storyOf(row: LogRow): { at: number, text: string, lasted: string }[] {
  return tellStory(t, row.story, nameIn(row)).map(({ at, text, lasted }) => ({ at, text, lasted: lasted === null ? '' : spell(lasted) }))
}

/** Nobody talked with them to the end, and nobody has dealt with it yet. */
export function isMissed(row: LogRow): boolean {
  return row.dealtWith === null && missedOutcomes.some(outcome => outcome === row.outcome)
}

export function becameOf(row: LogRow): string {
  const name = nameIn(row)
  const last = row.endedWith && name(row.endedWith)
  switch (row.outcome) {
    case 'live': return last ? t('records.withNow', { last }) : t('records.notAnsweredYet')
    case 'answered':
      if (row.answeredBy && row.endedWith !== row.answeredBy) return t('records.nameThenLast', { name: name(row.answeredBy), last: last! })
      return last ? t('records.lastAnswered', { last }) : t('records.answered')
    case 'joined': return t('records.askedAboutACallerAnd')
    case 'missed': return t('records.missedNobodyAnswered')
    case 'promised': return t('records.leftToBeCalledBack')
    case 'gaveUp': return row.answeredBy ? t('records.missedGaveUpWaitingAfter', { name: name(row.answeredBy) }) : t('records.missedGaveUpWaiting')
    case 'voicemail': return t('records.leftWithAVoicemail')
    case 'blocked': return t('records.blockedNotTaken')
    case 'notReached': return t('records.notReached')
    case 'lost': return t('records.lostTheExchangeStopped')
  }
}
