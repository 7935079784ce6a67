import { formatNumber } from '~/composables/numbers'
import { missedOutcomes } from '~~/core/calls/record'
import { useContacts } from '~/stores/contacts'
import type { LogRow } from '~~/shared/log'

/** A call of the log in words. */

/** As we know them, else as the network said then. */
export function whoCalled(row: LogRow): string {
  return useContacts().of(row.number)?.name ?? row.name ?? (row.number ? formatNumber(row.number) : 'Number withheld')
}

/** The name of a device as it was at the time of the call. */
export function nameIn(row: LogRow) {
  return (device: string) => row.names[device] ?? whoCalled(row)
}

/** Nobody talked with them to the end, and nobody has dealt with it yet. */
export function isMissed(row: LogRow): boolean {
  return row.dealtWith === null && missedOutcomes.some(outcome => outcome === row.outcome)
}

export function becameOf(row: LogRow): string {
  const name = nameIn(row)
  const last = row.endedWith && name(row.endedWith)
  switch (row.outcome) {
    case 'live': return last ? `with ${last} now` : 'not answered yet'
    case 'answered':
      if (row.answeredBy && row.endedWith !== row.answeredBy) return `${name(row.answeredBy)}, then ${last}`
      return last ? `${last} answered` : 'answered'
    case 'joined': return 'asked about a caller, and handed over or joined'
    case 'missed': return 'Missed: nobody answered'
    case 'promised': return 'left, to be called back'
    case 'gaveUp': return row.answeredBy ? `Missed: gave up waiting, after ${name(row.answeredBy)} had answered` : 'Missed: gave up waiting'
    case 'voicemail': return 'left with a voicemail'
    case 'blocked': return 'blocked: not taken'
    case 'notReached': return 'not reached'
    case 'lost': return 'Lost: the exchange stopped'
  }
}
