import { saying } from '../core/schema/wording'
import { array, type InferType, object, string } from 'yup'

/** `region`: a part of the country with holidays of its own, by its short name; empty: those of the whole country. `language`: of their names. */
export const proposalsQuery = object({
  country: string().matches(/^[A-Z]{2}$/, saying('input.country')).required().label('country'),
  region: string().matches(/^[\w-]{0,10}$/, saying('input.region')).default('').label('region'),
}).noUnknown().strict(false)

const text = string().defined()

/** What is usual in a country, to be taken over or changed: its clocks, languages, emergency numbers, and the holidays of this year and the next two. */
export const proposals = object({
  zones: array(text).required(),
  languages: array(text).required(),
  emergency: array(text).required(),
  regions: array(object({ code: text, name: text })).required(),
  holidays: array(object({ date: text, name: text })).required(),
}).required()
export type Proposals = InferType<typeof proposals>
