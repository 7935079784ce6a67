import '../core/schema/wording'
import { array, boolean, number, object, string } from 'yup'
import { pageKeys, pageName, speedKey } from '../core/speed-keys/schema'

const version = number().strict().integer().min(1).required().label('version')

export const keyPage = object({
  id: string().defined(),
  name: string().defined(),
  shared: boolean().required(),
  version,
  keys: array(speedKey.required()).required(),
})
export const keyPages = array(keyPage.required()).required()

export const newKeyPage = object({ name: pageName, shared: boolean().strict().required().label('shared'), keys: pageKeys.default([]) }).noUnknown().required()

/** `version`: the one that was seen when it was changed. */
export const keyPageChange = object({ version, name: pageName, keys: pageKeys }).noUnknown().required()

/** In the address: text that is a whole number. */
export const pageVersion = object({ version: number().integer().min(1).required().label('version') })

/** A page of keys from a file, as `core/speed-keys/csv.ts` says. */
export const keyPageFile = object({ version, csv: string().strict().max(100_000).required().label('csv') }).noUnknown().required()
