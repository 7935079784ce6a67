import { number, object, string } from 'yup'
import type { CallRecord } from '../core/calls/record'

export const logKinds = ['all', 'in', 'out', 'missed'] as const
export type LogKind = typeof logKinds[number]

const largestPage = 200

/** GET /api/calls */
export const logQuery = object({
  text: string().max(100).default('').label('text'),
  kind: string().oneOf(logKinds).default('all').label('kind'),
  /** Where the page before ended: its `next`. */
  before: string().max(120).matches(/^(\d{1,15}~[\w-]{1,100})?$/, 'before must be the "next" of the page before.').default('').label('before'),
  limit: number().integer().min(1).max(largestPage).default(50).label('limit'),
}).noUnknown().strict(false)

export type LogRow = Omit<CallRecord, 'epoch'>

export interface LogPage {
  rows: LogRow[]
  /** Where the next page begins, or null at the end. */
  next: string | null
}
