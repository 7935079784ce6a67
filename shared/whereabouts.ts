import { spokenText } from '../core/schema/shapes'
import { array, boolean, type InferType, number, object, string } from 'yup'

/** Who is where when: times that calendars take, who is on duty, and who is at a place. Times are milliseconds since 1970 (UTC). */

const text = string().defined()
const time = number().required()

export const engagement = object({
  person: text,
  from: time,
  to: time,
  allDay: boolean().required(),
  /** Empty where it is not said, and for staff members. */
  place: text,
}).required()
export type Engagement = InferType<typeof engagement>

export const turn = object({ duty: text, from: time, to: time, people: array(text).required(), unknown: array(text).required() }).required()

/** Who is at a place (a telephone that belongs to nobody), or was there lately: `to` is null while they are. */
export const occupant = object({ telephone: text, name: text, from: time, to: time.nullable().defined() }).required()
export type Occupant = InferType<typeof occupant>

/** `engagements`: of today and tomorrow; `turns`: of the week to come; `occupants`: empty for staff members. */
export const whereabouts = object({
  engagements: array(engagement).required(),
  turns: array(turn).required(),
  occupants: array(occupant).required(),
})
export type WhereaboutsNow = InferType<typeof whereabouts>

/** The most characters of a calendar or a list of places that is sent to us. */
export const longestFile = 2 * 1024 * 1024

/** Whose calendar: a person's id, or a duty's. */
export const calendarOf = object({ of: string().max(80).required().label('of') })

/** Where a calendar comes from: an address that is asked again and again, or a file. */
export const calendarSource = object({
  address: string().strict().max(2_000).nullable().defined().label('address'),
  content: string().strict().max(longestFile).nullable().defined().label('content'),
}).noUnknown().required()

export const calendarInfo = object({
  /** A person's id, or a duty's. */
  of: text,
  address: text.nullable(),
  /** What was left out when it was read. */
  problems: array(spokenText).required(),
  /** Why it could not be fetched or read the last time: what was known before still holds. */
  failure: text.nullable(),
  readAt: time.nullable().defined(),
  /** How many times it takes in the weeks to come. */
  times: number().integer().required(),
}).required()
export type CalendarInfo = InferType<typeof calendarInfo>

/** Who is at which place, as CSV: `core/occupancy/csv.ts` says how. */
export const occupancyList = object({ csv: string().strict().max(longestFile).required().label('csv') }).noUnknown().required()

/** The same list as it is posted by another program: the text alone. */
export const occupancyText = string().strict().max(longestFile).required().label('list')

/** `stays`: how many were read; `unknown`: places that nobody knows, whose rows were left out. */
export const occupancyTaken = object({ stays: number().integer().required(), unknown: array(text).required() }).required()
