import '../core/schema/wording'
import { array, type InferType, number, object, type ObjectSchema, string } from 'yup'
import { type Cause, causes, directions, latestTime, type Step, stepTypes } from '../core/calls/model'
import { parkingEnds } from '../core/calls/parkings'
import { type CallRecord, outcomes } from '../core/calls/record'
import { recordOf } from '../core/schema/shapes'

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
  /** Only calls with this number outside, in the international form. */
  number: string().max(40).default('').label('number'),
  /** Where the page before ended: its `next`. */
  before: string().max(120).matches(/^(\d{1,15}~[\w-]{1,100})?$/, 'before must be the "next" of the page before.').default('').label('before'),
  limit: number().integer().min(1).max(largestPage).default(50).label('limit'),
}).noUnknown().strict(false)

const step: ObjectSchema<Step> = object({
  at: time,
  type: string().oneOf(stepTypes).required(),
  device: text,
  to: string().optional(),
  cause: string<Cause>().oneOf(causes).optional(),
})

const logRow = object({
  id: text,
  direction: string().oneOf(directions).required(),
  number: text.nullable(),
  name: text.nullable(),
  dialled: text,
  line: text.nullable(),
  startedAt: time,
  answeredAt: timeIfAny,
  endedAt: timeIfAny,
  outcome: string().oneOf(outcomes).required(),
  answeredBy: text.nullable(),
  endedWith: text.nullable(),
  account: text.nullable(),
  devices: array(text).required(),
  names: recordOf(text),
  story: array(step).required(),
}) satisfies ObjectSchema<Omit<CallRecord, 'epoch' | 'numbers'>>
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
  names: recordOf(text),
})
export type ParkingRow = InferType<typeof parkingRow>

export const parkingPage = object({ rows: array(parkingRow).required() })
export type ParkingPage = InferType<typeof parkingPage>
