import { saying } from './wording'
import { type ISchema, lazy, mixed, object, type Schema, string } from 'yup'
import { phrase, type Spoken } from '../../words/phrase'
import { lookUp } from '../company/lookups'

/** Shapes that Yup has no word for: what they are made of stands in their `meta`, so that `json-schema.ts` can describe them. */

/** Names that every object has by birth: never an id. */
export const inborn = Object.getOwnPropertyNames(Object.prototype)

/** An object whose keys are ids: every value is of one shape. */
export function recordOf<T>(value: ISchema<T>) {
  const schema = value as Schema<T>
  return lazy((given: unknown) => {
    const keys = typeof given === 'object' && given !== null ? Object.keys(given) : []
    if (keys.some(key => inborn.includes(key))) return mixed<never>().test('ids', saying('input.inbornId'), () => false) as never
    const things = object(Object.fromEntries(keys.map(key => [key, schema])))
    return things.required(saying('input.missing')) as unknown as Schema<Record<string, T>>
  }).meta({ record: schema })
}

/**
 * One of several objects, told apart by the value of one field.
 * @param field whose value says which it is; @param schemas that value → the schema of the whole object
 */
export function oneOfBy<T>(field: string, schemas: Record<string, ISchema<T>>) {
  const none = mixed<never>().test(field, () => phrase('input.oneOf', { field, values: Object.keys(schemas).join(', ') }), () => false)
  return lazy((given: unknown) => {
    const which = typeof given === 'object' && given !== null ? (given as Record<string, unknown>)[field] : undefined
    return (typeof which === 'string' ? lookUp(schemas, which) ?? none : none) as Schema<T>
  }).meta({ oneOf: schemas })
}

const phraseOfWords = object({ key: string().max(100).required(), with: mixed<object>().optional() })
const textOfPeople = string().defined()

/** What is said: a name or somebody's words as they are, or a phrase of the catalogue with what fills its blanks. */
export const spokenText = lazy((given: unknown) => (typeof given === 'string' ? textOfPeople : phraseOfWords.required()) as unknown as Schema<Spoken>)
  .meta({ oneOf: { text: textOfPeople, phrase: phraseOfWords } })
