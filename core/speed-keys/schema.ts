import { saying } from '../schema/wording'
import { phrase } from '../../words/phrase'
import { array, object, string } from 'yup'
import { keyKinds, longestLabel, mostKeys } from './key'

export const speedKey = object({
  kind: string().strict().oneOf(keyKinds).required().label('kind'),
  /** The id of what it is about; of a number outside the number itself. */
  of: string().strict().trim(saying('input.noSpacesAround')).min(1).max(80).required().label('of'),
  /** What stands on it instead of the name; null: the name, as it is at present. */
  label: string().strict().max(longestLabel).nullable().defined().label('label'),
}).noUnknown()

export const pageName = string().strict().trim(saying('input.noSpacesAround')).min(1).max(longestLabel).required().label('name')
export const pageKeys = array(speedKey.required()).required().label('keys')
  .max(mostKeys, () => phrase('input.atMostKeys', { max: mostKeys }))
