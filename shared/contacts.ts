import { saying } from '../core/schema/wording'
import { spokenText } from '../core/schema/shapes'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { longest, mostAddresses, mostNumbers } from '../core/formats/contact-fields'
import { numberKinds } from '../core/formats/number-kinds'

/** Whom we know outside: a company, somebody of a company, somebody for themselves. */
export const contactKinds = ['company', 'person', 'individual'] as const
export type ContactKind = typeof contactKinds[number]

/** `important`: said before answering; `nuisance`: they have been a trouble before. */
export const contactMarks = ['none', 'important', 'nuisance'] as const

const contactNumber = object({
  /** As it is typed; kept in E.164. */
  number: string().strict().max(40).required().label('number'),
  kind: string().oneOf(numberKinds).required().label('kind'),
}).noUnknown().required()

const fields = {
  kind: string().oneOf(contactKinds).required().label('kind'),
  name: string().strict().max(longest.name).required().label('name'),
  /** The company of a person, by its id. */
  company: string().strict().max(80).nullable().defined().label('company'),
  numbers: array(contactNumber).max(mostNumbers).required().label('numbers'),
  /** Where text messages go: as somebody@somewhere. */
  addresses: array(string().strict().max(longest.address).matches(/^\S+@\S+$/, saying('input.mailAddress')).required())
    .max(mostAddresses).required().label('addresses'),
  /** Among which of the shared ones it stands. */
  category: string().strict().max(longest.category).defined().label('category'),
  /** Seen by whoever saved it, and by nobody else. */
  private: boolean().strict().required().label('private'),
  language: string().strict().max(longest.language).defined().label('language'),
  note: string().strict().max(longest.note).defined().label('note'),
  /** The note is to be read before answering. */
  readFirst: boolean().strict().required().label('readFirst'),
  mark: string().oneOf(contactMarks).required().label('mark'),
}

export const newContact = object(fields).noUnknown().required()
export type NewContact = InferType<typeof newContact>

const version = number().strict().integer().min(1).required().label('version')

/** `version`: the one that was seen when it was changed. */
export const contactChange = object({ ...fields, version }).noUnknown().required()

/** Another that is the same: its numbers and its note are taken over, and it is no more. */
export const contactMerge = object({ version, other: string().strict().max(80).required().label('other') }).noUnknown().required()

/** In the address: text that is a whole number. */
export const contactVersion = object({ version: number().integer().min(1).required().label('version') })

export const contact = object({
  id: string().defined(),
  ...fields,
  version,
  /** The address book of another server that it comes from, where alone it is changed; null: it is ours. */
  book: string().nullable().defined(),
})
export type Contact = InferType<typeof contact>

/** `since`: the last change that is known; 0 for none. */
export const contactsQuery = object({ since: number().integer().min(0).default(0).label('since') }).noUnknown().strict(false)

/** What has changed since, in the order of the changes, and which contacts are no more. */
export const contactsAnswer = object({
  latest: number().required(),
  changed: array(contact.required()).required(),
  removed: array(string().defined()).required(),
})

export const callerQuery = object({
  number: string().max(40).optional().label('number'),
  line: string().max(80).optional().label('line'),
}).noUnknown().strict(false)

/** What is known of whoever calls beside their contact. */
export const callerCard = object({
  /** Where a number belongs ("Edinburgh, United Kingdom") and what kind it is ("mobile"), as far as the numbering plan says. */
  place: string().defined(),
  kind: string().defined(),
  /** Where calls like this one ended, the likeliest first. */
  likely: array(object({ destination: string().defined(), chance: number().required(), because: spokenText })).required(),
  /** Calls from there that nobody of ours had and that nobody has dealt with. */
  missed: number().required(),
  /** Messages from there that have not been read. */
  messages: array(object({ to: string().defined(), text: string().defined(), at: number().required() })).required(),
})
export type CallerCard = InferType<typeof callerCard>
