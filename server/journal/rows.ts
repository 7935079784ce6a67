import type { LogRow } from '~~/shared/log'
import type { CallRecordRow } from '../database/entities'

/** A call record as the log shows it. */
export function rowToShow(row: CallRecordRow): Omit<LogRow, 'dealtWith'> {
  const { id, direction, dialled, outcome, devices, names, story } = row
  return {
    id, direction, dialled, outcome, devices, names, story,
    number: row.number ?? null,
    name: row.name ?? null,
    line: row.line ?? null,
    answeredBy: row.answeredBy ?? null,
    endedWith: row.endedWith ?? null,
    account: row.account ?? null,
    startedAt: row.startedAt.getTime(),
    answeredAt: row.answeredAt?.getTime() ?? null,
    endedAt: row.endedAt?.getTime() ?? null,
  }
}
