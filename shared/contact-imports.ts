import { saying } from '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { longest, mostAddresses, mostNumbers } from '../core/formats/contact-fields'
import { numberKinds } from '../core/formats/number-kinds'
import { contactKinds } from './contacts'

/** Contacts brought in from a file: it is read in the browser, looked at against what is there, and carried out some rows at a time. */

export const mostRowsAtOnce = 100
export const mostRows = 20_000
/** Characters of a card's lines. */
const longestCard = 1_600_000

/** What a row of a file, or a card, says of somebody; `card`: the lines that it came with. */
export const importRow = object({
  uid: string().strict().max(longest.uid).nullable().defined().label('uid'),
  kind: string().oneOf(contactKinds).required().label('kind'),
  name: string().strict().max(longest.name).required().label('name'),
  company: string().strict().max(longest.name).nullable().defined().label('company'),
  category: string().strict().max(longest.category).defined().label('category'),
  numbers: array(object({
    number: string().strict().max(40).required().label('number'),
    kind: string().oneOf(numberKinds).required().label('kind'),
  }).noUnknown().required()).max(mostNumbers).required().label('numbers'),
  addresses: array(string().strict().max(longest.address).matches(/^\S+@\S+$/, saying('input.mailAddress')).required())
    .max(mostAddresses).required().label('addresses'),
  language: string().strict().max(longest.language).defined().label('language'),
  note: string().strict().max(longest.note).defined().label('note'),
  card: array(string().strict().defined()).max(5_000).required().label('card')
    .test('size', saying('input.cardTooLarge'), lines => !lines || lines.reduce((sum, line) => sum + line.length, 0) <= longestCard),
}).noUnknown().required()
export type ImportRow = InferType<typeof importRow>

const rows = array(importRow).min(1).max(mostRowsAtOnce).required().label('rows')
const isPrivate = boolean().strict().required().label('private')

/** `private`: they become one's own. */
export const importCheck = object({ private: isPrivate, rows }).noUnknown().required()

export const verdicts = ['new', 'changed', 'unchanged', 'refused'] as const
export type Verdict = typeof verdicts[number]

/** What becomes of each row, in their order: what of a contact changes, or why a row is refused. `companies`: those that are written down with them. */
export const importVerdicts = object({
  rows: array(object({ verdict: string().oneOf(verdicts).required(), why: string().defined() })).required(),
  companies: array(string().defined()).required(),
})
export type ImportVerdicts = InferType<typeof importVerdicts>

export const newImport = object({ file: string().strict().max(120).required().label('file'), private: isPrivate }).noUnknown().required()
/** `from`: the place of the first of these rows in the file; rows that have been carried out already are not carried out again. */
export const importPart = object({ from: number().strict().integer().min(0).max(mostRows).required().label('from'), rows }).noUnknown().required()

/** One that somebody has carried out, in part or whole. Times are milliseconds since 1970. */
export const contactImport = object({
  id: string().defined(),
  file: string().defined(),
  by: string().defined(),
  at: number().required(),
  private: boolean().required(),
  added: number().required(),
  changed: number().required(),
  undone: boolean().required(),
})
export const contactImports = array(contactImport).required()
export type ContactImport = InferType<typeof contactImport>

/** Contacts that are as they were before again, and those that somebody has changed since and which stay as they are. */
export const importUndone = object({ undone: number().required(), left: array(string().defined()).required(), more: boolean().required() })
export type ImportUndone = InferType<typeof importUndone>

export const exportFormats = ['vcard3', 'vcard4', 'csv'] as const
export const exportQuery = object({
  format: string().oneOf(exportFormats).required().label('format'),
  which: string().oneOf(['shared', 'own', 'all']).default('shared').label('which'),
}).noUnknown().strict(false)
