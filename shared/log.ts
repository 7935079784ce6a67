import { saying } from '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { latestTime } from '../core/calls/model'
import { parkingEnds } from '../core/calls/parking/parkings'
import { outcomes } from '../core/calls/record'
import { callRecord } from '../core/calls/recorded'
import { recordOf, spokenText } from '../core/schema/shapes'

/** `dialled`: calls that whoever asks has made, to dial again. */
const logKinds = ['all', 'in', 'out', 'missed', 'dialled'] as const
export type LogKind = typeof logKinds[number]

const largestPage = 200
const text = string().defined()
const time = number().required()
const timeIfAny = number().nullable().defined()

export const logQuery = object({
  text: string().max(100).default('').label('text'),
  kind: string().oneOf(logKinds).default('all').label('kind'),
  /** Only this one call. */
  call: string().max(80).default('').label('call'),
  /** Only calls with this number outside, in the international form. */
  number: string().max(40).default('').label('number'),
  /** Only calls that this telephone of ours had to do with. */
  device: string().max(80).default('').label('device'),
  line: string().max(80).default('').label('line'),
  /** What became of them. */
  outcome: string().oneOf(['', ...outcomes]).default('').label('outcome'),
  /** Milliseconds since 1970: only calls that began from then on, and only before then. */
  from: number().integer().min(0).max(latestTime).label('from'),
  until: number().integer().min(0).max(latestTime).label('until'),
  /** Where the page before ended: its `next`. */
  before: string().max(120).matches(/^(\d{1,15}~[\w-]{1,100})?$/, saying('input.nextPage')).default('').label('before'),
  limit: number().integer().min(1).max(largestPage).default(50).label('limit'),
}).noUnknown().strict(false)

/** That somebody has dealt with a missed call: when, and whether by calling back. */
export const dealing = object({ calledBack: boolean().strict().required().label('calledBack') }).noUnknown().required()

const logRow = callRecord.omit(['epoch', 'numbers']).shape({
  dealtWith: object({ by: text, at: time, calledBack: boolean().required() }).nullable().defined().default(null),
})
export type LogRow = InferType<typeof logRow>

/** `next`: where the next page begins, or null at the end. */
export const logPage = object({ rows: array(logRow).required(), next: text.nullable() })
export type LogPage = InferType<typeof logPage>

export const parkingQuery = object({
  limit: number().integer().min(1).max(largestPage).default(100).label('limit'),
  /** Milliseconds since 1970: only parkings before this time. */
  before: number().integer().min(0).max(latestTime).label('before'),
}).noUnknown().strict(false)

const parkingRow = object({
  call: text,
  at: time,
  slot: text,
  by: text,
  for: text.nullable(),
  caller: text,
  number: text.nullable(),
  name: text.nullable(),
  end: string().oneOf(parkingEnds).required(),
  endedAt: timeIfAny,
  takenBy: text.nullable(),
  names: recordOf(spokenText),
})
export type ParkingRow = InferType<typeof parkingRow>

export const parkingPage = object({ rows: array(parkingRow).required() })
export type ParkingPage = InferType<typeof parkingPage>
