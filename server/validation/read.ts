import { createError, getQuery, getRouterParam, type H3Event } from 'h3'
import { wellFormed } from '~~/core/calls/text'
import { spoken } from '~~/words/phrase'
import { faultsOf } from '~~/core/schema/faults'
import { t } from '../language'

const longestSentence = 240

/**
 * Reads input with a reader that throws, and answers 422 with the field and the remedy when it does.
 * @param read for example `() => schema.validateSync(value)`
 */
export function readInput<T>(read: () => T): T {
  try {
    return read()
  }
  catch (error) {
    const [fault] = faultsOf(error)
    throw wrongInput(fault?.field ?? null, (fault ? spoken(t, fault.what) : t('answers.inputUnreadable')).slice(0, longestSentence))
  }
}

/** 422 with the field and what to do about it. */
export function wrongInput(field: string | null, sentence: string): Error {
  return createError({ statusCode: 422, message: sentence, data: { field, sentence } })
}

/**
 * The parts of the path in brackets, decoded; what can't be is told as wrong input.
 * @throws 422 with the field and the remedy
 */
export function readParams<T>(event: H3Event, schema: { fields: object, validateSync(value: unknown): T }): T {
  const given = Object.fromEntries(Object.keys(schema.fields).map(name => [name, readParam(event, name)]))
  return readInput(() => schema.validateSync(given))
}

function readParam(event: H3Event, name: string): string {
  try {
    return wellFormed(getRouterParam(event, name, { decode: true }) ?? '')
  }
  catch {
    throw wrongInput(name, t('answers.partUnreadable', { name }))
  }
}

/**
 * The query of a request, read with a schema. What no database keeps (half characters, NUL) is told as such.
 * @throws 422 with the field and the remedy
 */
export function readQuery<T>(event: H3Event, schema: { validateSync(value: unknown): T }): T {
  const query = getQuery(event)
  for (const [field, value] of Object.entries(query)) {
    if (typeof value !== 'string') throw wrongInput(field, t('answers.onceOnly', { field }))
    if (wellFormed(value) !== value) throw wrongInput(field, t('answers.noCharacters', { field }))
  }
  return readInput(() => schema.validateSync(query))
}
