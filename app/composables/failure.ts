import { FetchError } from 'ofetch'

/** True when nobody can say whether what was asked for was done. */
export function isUnknown(error: unknown): boolean {
  return error instanceof FetchError && (error.statusCode === undefined || error.statusCode === 504)
}

/** The sentence in an error of the server, or what to say when it can't be reached. */
export function sentenceOf(error: unknown): string {
  if (error instanceof FetchError) {
    const body = error.data as { message?: string, data?: { sentence?: string } } | undefined
    const sentence = body?.data?.sentence ?? body?.message
    if (sentence) return sentence
  }
  return 'The server can\'t be reached. Try again in a moment.'
}
