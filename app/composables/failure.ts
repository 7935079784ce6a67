import { FetchError } from 'ofetch'

/** The sentence in an error of the server, or what to say when it can't be reached. */
export function sentenceOf(error: unknown): string {
  if (error instanceof FetchError) {
    const body = error.data as { message?: string, data?: { sentence?: string } } | undefined
    const sentence = body?.data?.sentence ?? body?.message
    if (sentence) return sentence
  }
  return 'The server can\'t be reached. Nothing was changed; try again in a moment.'
}
