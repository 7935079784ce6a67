import type { H3Event } from 'h3'
import { NotProven } from './provider'

/** What a browser keeps while its person is at the identity provider: sealed, for this alone, for a few minutes. */
const name = 'estafette-identity'
const path = '/api/identity'

export function keepBegun(event: H3Event, kept: string): void {
  const { cookie } = useRuntimeConfig(event).session
  setCookie(event, name, kept, { httpOnly: true, sameSite: 'lax', secure: cookie && cookie.secure, path, maxAge: 600 })
}

/** It is good for one time. */
export function takeBegun(event: H3Event): string {
  const kept = getCookie(event, name) ?? ''
  deleteCookie(event, name, { path })
  return kept
}

/** @throws what was wrong, as whoever asks is told */
export function toldOf(error: unknown): never {
  if (!(error instanceof NotProven)) throw error
  throw createError({ statusCode: error.why === 'away' ? 502 : 401, message: error.message })
}
