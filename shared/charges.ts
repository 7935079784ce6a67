import '../core/schema/wording'
import { array, type InferType, number, object, string } from 'yup'
import { day } from './days'

/** Calls outside that somebody answered, and the account codes that they are put down to. */

const code = string().strict().max(24)

/** Whole days, by the clock of the house, both counted. `code`: only calls with it; `none`: only calls without one. */
export const chargesQuery = object({
  from: day('from'),
  to: day('to'),
  code: string().max(24).default('').label('code'),
}).noUnknown().strict(false)

/** `seen`: what the call was put down to when it was changed. An empty code is none. */
export const chargeChange = object({ code: code.defined().label('code'), seen: code.defined().label('seen') }).noUnknown().required()

const text = string().defined()
const time = number().required()

export const charge = object({
  call: text,
  code: text,
  /** Who called, and whom. */
  by: text,
  number: text,
  name: text,
  startedAt: time,
  /** From the answer to the end, in milliseconds. */
  length: time,
  /** Who has corrected the code, when, and what it was before. */
  corrected: object({ by: text, at: time, before: text }).nullable().defined().default(null),
})
export type Charge = InferType<typeof charge>

export const charges = object({
  /** For each code; the empty one is none. */
  sums: array(object({ code: text, calls: number().integer().required(), length: time })).required(),
  /** The latest of them; `more`: how many are not among them. */
  calls: array(charge.required()).required(),
  more: number().integer().required(),
})
export type Charges = InferType<typeof charges>
