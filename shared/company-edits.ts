import '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { company, companyChange } from '../core/company/schema'

/** Changes of the company by administrators: all of an edit is carried out, or nothing of it. */

const mostAtOnce = 5_000

/** `seen`: the same things as they were when they were changed, in the same order; null where there was none. */
export const companyEdit = object({
  seen: array(companyChange).max(mostAtOnce).required().label('seen'),
  changes: array(companyChange).min(1).max(mostAtOnce).required().label('changes'),
}).noUnknown().required()

export const companyEdited = object({ edit: string().defined(), changes: number().required() })

/** A whole company in the place of this one: looked at, or carried out. */
export const companyFile = object({
  format: string().oneOf(['estafette-company']).required().label('format'),
  formatVersion: number().oneOf([1]).required().label('formatVersion'),
  company: company.required().label('company'),
}).required()

export const companyFileEdit = object({ carryOut: boolean().strict().required().label('carryOut'), file: companyFile.label('file') }).noUnknown().required()

/** What a file would change, or has; with what is wrong with it, in sentences, nothing is. */
export const companyFileAnswer = object({
  changes: array(object({ part: string().defined(), id: string().defined(), what: string().oneOf(['new', 'changed', 'removed']).required() })).required(),
  faults: array(string().defined()).required(),
  edit: string().nullable().defined(),
})
export type CompanyFileAnswer = InferType<typeof companyFileAnswer>

/** `before`: the change to which the list goes back, 0 for the latest. */
export const editsQuery = object({ before: number().integer().min(0).default(0).label('before') }).noUnknown().strict(false)

/** One thing of an edit: `before` and `after` are JSON, empty where there was nothing or is nothing any more. Times are milliseconds since 1970. */
const recordedChange = object({
  id: number().required(),
  at: number().required(),
  by: string().defined(),
  edit: string().defined(),
  part: string().defined(),
  thing: string().defined(),
  before: string().defined(),
  after: string().defined(),
})
export const recordedChanges = array(recordedChange).required()
export type RecordedChange = InferType<typeof recordedChange>
