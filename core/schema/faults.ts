import type { ValidationError } from 'yup'
import { type Phrase, type Spoken, spoken } from '../../words/phrase'
import type { Speaker } from '../../words/speaker'

/** What a schema has found, or a reader that throws. Yup itself is known by the name of its errors: whoever reads those need not fetch it. */

export interface Fault { field: string | undefined, what: Spoken }

/** Thrown by what reads from outside: its sentence is made where it is read. */
export class Unreadable extends Error {
  constructor(readonly what: Phrase) {
    super(what.key)
  }
}

export const isOfSchema = (error: unknown): error is ValidationError => error instanceof Error && error.name === 'ValidationError'

/** Everything that a schema has found, with the field; nothing, when it was something else that was thrown. */
export function faultsOf(error: unknown): Fault[] {
  if (!isOfSchema(error)) return []
  return (error.inner.length > 0 ? error.inner : [error]).map(({ path, errors }) => ({ field: path, what: errors[0] as Spoken }))
}

/** The first thing that was wrong, in words. */
export function sentenceOf(t: Speaker, error: unknown): string {
  if (error instanceof Unreadable) return spoken(t, error.what)
  const [fault] = faultsOf(error)
  return fault ? spoken(t, fault.what) : (error as Error).message
}
