import '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { causes } from '../core/calls/model'
import { recordOf } from '../core/schema/shapes'
import { day } from './days'

/** What happened in a period, for reports; what is known of today; what the next hours need. */

const id = string().max(80).default('')

/** Whole days, by the clock of the house, both counted. `line`, `queue`: only calls on it, or in it; empty: all. */
export const figuresQuery = object({ from: day('from'), to: day('to'), line: id.label('line'), queue: id.label('queue') }).noUnknown().strict(false)

export const figureTables = ['halfHours', 'days', 'lines', 'queues', 'operators', 'destinations', 'waits', 'flow', 'parkings'] as const
export const figureTableQuery = figuresQuery.shape({ table: string().oneOf(figureTables).required().label('table') })

const text = string().defined()
const whole = number().required()
const tally = {
  offered: whole, answered: whole, within: whole, abandoned: whole, short: whole, movedOn: whole, movedLate: whole, mailbox: whole, turnedAway: whole,
  promised: whole,
  lost: whole, back: whole, waiting: whole, waited: whole, longest: whole, abandonedAfter: whole, talked: whole, held: whole, conversations: whole,
}
const named = array(object({ id: text, ...tally })).required()

/** As `Report` of `core/figures/report.ts`, with names for what is named in it. */
export const figures = object({
  /** The first and the last day. */
  from: text,
  to: text,
  total: object(tally),
  blocked: whole,
  byHalfHour: array(object({ tally: object(tally), minutes: whole, times: whole })).required(),
  step: string().oneOf(['day', 'week', 'month']).required(),
  bySteps: array(object({ from: whole, tally: object(tally) })).required(),
  byLine: named,
  byQueue: named,
  byDestination: array(object({
    id: text, calls: whole, answered: whole, back: array(object({ cause: string().oneOf(causes).required(), calls: whole })).required(),
  })).required(),
  operators: array(object({ id: text, calls: whole, talked: whole, held: whole, attended: whole, engaged: whole })).required(),
  waits: object({ answered: array(whole).required(), abandoned: array(whole).required() }),
  flow: array(object({ from: text, to: text, calls: whole })).required(),
  again: object({ calls: whole, answered: whole, abandoned: whole, other: whole }),
  parkings: array(object({ slot: text, stays: whole, waited: whole, longest: whole, taken: whole, gaveUp: whole })).required(),
  /** What lines, queues, telephones and slots are called, by their ids; those that are no more as they were last called. */
  names: recordOf(text),
})
export type Figures = InferType<typeof figures>

/** Of each line and queue today: how many were offered and answered, within the promise, and gave up; and the service level, null when it is of nobody. */
export const today = object({
  places: recordOf(object({ offered: whole, answered: whole, within: whole, abandoned: whole, level: number().nullable().defined() })),
})
export type Today = InferType<typeof today>

export const aheadQuery = object({ queue: string().max(80).required().label('queue') }).noUnknown().strict(false)

/** What the coming hours bring to a queue, with how sure that is. Durations are milliseconds; calls are those of each half-hour. */
export const ahead = object({
  queue: text,
  promise: whole,
  /** How long a call lasts on average, with the work that follows it; null: none has ended yet. */
  length: number().nullable().defined(),
  /** How long somebody waits on average before they give up; null: nobody has. */
  patience: number().nullable().defined(),
  /** Of how many days today's forecast was made, and whether of the same weekday alone. */
  days: whole,
  sameWeekday: boolean().defined(),
  halfHours: array(object({ from: whole, mean: whole, low: whole, high: whole })).required(),
  /** How far off the forecast would have been over the last weeks, beside two simple ones; null: too little to look back on. */
  back: object({ ours: whole, lastWeek: whole, fourWeeks: whole, days: whole, halfHours: whole }).nullable().defined().default(null),
})
export type Ahead = InferType<typeof ahead>
