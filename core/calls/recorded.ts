import '../schema/wording'
import { array, number, object, string } from 'yup'
import { causes, directions, stepTypes } from './model'
import { outcomes } from './record'
import { recordOf, spokenText } from '../schema/shapes'

/** What is kept of a call, and shown: the types of `model.ts` and `record.ts` follow from it. */

const text = string().defined()
const time = number().required()
const timeIfAny = number().nullable().defined()

/** One thing that happened to a call, kept with it so that its story can be told anywhere. */
export const step = object({
  at: time,
  type: string().oneOf(stepTypes).required(),
  device: text,
  to: string().optional(),
  /** Of a mobile that rings along: the telephone of its owner. */
  along: string().optional(),
  cause: string().oneOf(causes).optional(),
})

/** One call for the log, made from its story. Times are milliseconds since 1970. */
export const callRecord = object({
  id: text,
  epoch: text,
  direction: string().oneOf(directions).required(),
  /** The outside party's, or the calling extension when the call is internal. */
  number: text.nullable(),
  name: text.nullable(),
  dialled: text,
  line: text.nullable(),
  startedAt: time,
  answeredAt: timeIfAny,
  endedAt: timeIfAny,
  outcome: string().oneOf(outcomes).required(),
  /** The first of ours who answered, and whoever had it last. */
  answeredBy: text.nullable(),
  endedWith: text.nullable(),
  /** Account or cost code. */
  account: text.nullable(),
  /** Every device of ours that had to do with it. */
  devices: array(text).required(),
  /** Their numbers inside at the time. */
  numbers: array(text).required(),
  /** Names of devices at the time, so that the log outlives changes of staff. */
  names: recordOf(spokenText),
  story: array(step).required(),
})
