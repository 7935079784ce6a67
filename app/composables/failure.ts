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

/** The code of a refusal of the exchange, or null. */
export function refusalCodeOf(error: unknown): string | null {
  return error instanceof FetchError ? (error.data as { data?: { code?: string } } | undefined)?.data?.code ?? null : null
}
