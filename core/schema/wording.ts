import { setLocale } from 'yup'

/**
 * How every schema of the house speaks: its sentences name the field and the remedy, and never repeat what was sent. Imported before the first schema is
 * made.
 */
interface Said { path: string, type?: string, values?: unknown, max?: number, min?: number, unknown?: string }
type Saying = (said: Said) => string

/** The field by its label or its path; the whole, where it is no field. */
const field = ({ path }: Said) => path === 'this' ? 'What was sent' : path
const missing: Saying = said => `${field(said)} is missing: please fill it in.`
const atMost = (unit: string): Saying => said => `${field(said)} must be at most ${said.max}${unit}.`
const atLeast = (unit: string): Saying => said => `${field(said)} must be at least ${said.min}${unit}.`
const kinds: Record<string, string> = { object: 'an object', array: 'a list', number: 'a number', string: 'a text', boolean: 'true or false', date: 'a date' }

setLocale({
  mixed: {
    required: missing,
    defined: missing,
    notNull: missing,
    notType: (said: Said) => `${field(said)} must be ${kinds[said.type ?? ''] ?? `a ${said.type}`}.`,
    oneOf: (said: Said) => `${field(said)} must be one of: ${String(said.values)}.`,
  },
  string: { max: atMost(' characters'), min: atLeast(' characters') },
  number: { max: atMost(''), min: atLeast(''), integer: (said: Said) => `${field(said)} must be a whole number.` },
  array: { max: atMost(' entries'), min: atLeast(' entries') },
  object: { noUnknown: (said: Said) => `${field(said)} holds fields that are not known: ${said.unknown}.` },
} as never)
