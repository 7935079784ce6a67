import { saying } from '../core/schema/wording'
import { array, type InferType, object, string } from 'yup'
import { longest } from './longest'

/** What somebody has noted about a colleague, for nobody but themselves. */

const date = string().strict().matches(/^\d{4}-\d{2}-\d{2}$/, { message: saying('input.day'), excludeEmptyString: false })
  .test('is-a-day', saying('input.noSuchDay'), value => value == null || isDay(value))
  .nullable().defined()

function isDay(text: string): boolean {
  const time = Date.parse(`${text}T00:00:00Z`)
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(text)
}

/** `remindOn`: the day on which one wants to be reminded of it, by the clock of the house. Without text and day there is no note any more. */
export const noteChange = object({
  text: string().strict().max(longest.note).defined().label('text'),
  remindOn: date.label('remindOn'),
}).noUnknown().required()

export const ownNotes = array(object({ person: string().defined(), text: string().defined(), remindOn: string().nullable().defined() })).required()
export type OwnNote = InferType<typeof ownNotes>[number]
