import { saying } from '../core/schema/wording'
import { string } from 'yup'

const isDay = (text: string | undefined) => text === undefined || (!Number.isNaN(Date.parse(text)) && new Date(text).toISOString().startsWith(text))
/** A day of the calendar, as 2026-11-30. */
export const day = (label: string) => string().matches(/^\d{4}-\d{2}-\d{2}$/, saying('input.day'))
  .test('a day', saying('input.noSuchDay'), isDay).required().label(label)
