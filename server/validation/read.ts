import { ValidationError } from 'yup'

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
    const sentence = error instanceof Error ? error.message.slice(0, longestSentence) : 'The input can\'t be read.'
    throw createError({
      statusCode: 422,
      message: sentence,
      data: { field: error instanceof ValidationError ? error.path ?? null : null, sentence },
    })
  }
}
