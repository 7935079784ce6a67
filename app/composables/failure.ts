import { FetchError } from 'ofetch'
import { faultsOf } from '~~/core/schema/faults'
import { say, t } from '~/composables/language'

/** True when nobody can say whether what was asked for was done. */
export function isUnknown(error: unknown): boolean {
  return error instanceof FetchError && (error.statusCode === undefined || error.statusCode === 504)
}

/** The status (RFC 9110) with which the server has answered; null when it has not. */
export function statusOf(error: unknown): number | null {
  return error instanceof FetchError ? error.statusCode ?? null : null
}

/** What can't be taken here, before anybody is asked: a file that is too large, or none of its kind. Its sentence says what to do. */
export class NotTaken extends Error {}

/** Under which code the exchange has refused what was asked for; null: it was something else that went wrong. */
export function codeOf(error: unknown): string | null {
  return error instanceof FetchError ? (error.data as { data?: { code?: string } } | undefined)?.data?.code ?? null : null
}

/** The sentence of what we don't take ourselves, or in an error of the server, or what to say when it can't be reached. */
export function sentenceOf(error: unknown): string {
  if (error instanceof NotTaken) return error.message
  const [fault] = faultsOf(error)
  if (fault) return say(fault.what)
  if (error instanceof FetchError) {
    const body = error.data as { message?: string, data?: { sentence?: string } } | undefined
    const sentence = body?.data?.sentence ?? body?.message
    if (sentence) return sentence
  }
  return t('frame.theServerCantBeReached')
}
