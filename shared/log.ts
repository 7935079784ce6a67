import { number, object, string } from 'yup'
import { latestTime } from './requests'
import type { ParkingEnd } from '../core/calls/parkings'
import type { CallRecord } from '../core/calls/record'

/** `dialled`: calls that whoever asks has made, to dial again. */
export const logKinds = ['all', 'in', 'out', 'missed', 'dialled'] as const
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

export type LogRow = Omit<CallRecord, 'epoch' | 'numbers'>

export interface LogPage {
  rows: LogRow[]
  /** Where the next page begins, or null at the end. */
  next: string | null
}

/** GET /api/parkings */
export const parkingQuery = object({
  limit: number().integer().min(1).max(largestPage).default(100).label('limit'),
  /** Milliseconds since 1970: only parkings before this time. */
  before: number().integer().min(0).max(latestTime).label('before'),
}).noUnknown().strict(false)

export interface ParkingRow {
  call: string
  at: number
  slot: string
  by: string
  for: string | null
  caller: string
  number: string | null
  name: string | null
  end: ParkingEnd
  endedAt: number | null
  takenBy: string | null
  names: Record<string, string>
}

export interface ParkingPage { rows: ParkingRow[] }
