/**
 * Answers 503 with a sentence when the database does not carry out a query; calls go on meanwhile.
 * @param query what needs the database
 */
export async function fromDatabase<T>(query: () => Promise<T>): Promise<T> {
  try {
    return await query()
  }
  catch (cause) {
    throw createError({ statusCode: 503, message: 'The database does not answer. Calls go on; this comes back by itself, try again in a moment.', cause })
  }
}
