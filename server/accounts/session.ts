import { timingSafeEqual } from 'node:crypto'
import type { H3Event } from 'h3'
import type { SignedIn } from '~~/shared/people'
import type { Right } from '~~/shared/rights'
import { spoken } from '~~/words/phrase'
import { roleNames } from '~~/shared/role-names'
import type { Role } from '~~/shared/roles'
import { fromDatabase } from '../database/away'
import { useRelay } from '../relay'
import { t } from '../language'

declare module '#auth-utils' {
  interface SecureSessionData {
    /** The secret name of the session; all else about it is in the database. */
    session: string
  }
}

type Asking = Parameters<typeof getUserSession>[0]

/** The secret name of the session that a request belongs to, from the sealed cookie. */
export async function sessionOf(event: Asking): Promise<string | null> {
  const { secure } = await getUserSession(event)
  return secure?.session ?? null
}

/** Who asks, and in which session; null when nobody is signed in. */
export async function whoAsks(event: Asking): Promise<{ person: SignedIn, session: string } | null> {
  const session = await sessionOf(event)
  if (!session) return null
  const person = await fromDatabase(() => useRelay().sessions.person(session))
  return person && { person, session }
}

/**
 * Who asks, with the role they have now, and in which session.
 * @param may whose role may, or who has a right; no role: whoever is signed in
 * @throws 401 when nobody is signed in; 403 when they may not
 */
export async function requirePerson(event: H3Event, may: readonly Role[] | { right: Right }): Promise<{ person: SignedIn, session: string }> {
  const asks = await whoAsks(event)
  if (!asks) throw createError({ statusCode: 401, message: t('answers.pleaseSignIn') })
  const allowed = 'right' in may ? asks.person.rights.includes(may.right) : may.length === 0 || may.includes(asks.person.role)
  if (!allowed) {
    throw createError({ statusCode: 403, message: t('answers.notByYourRole', { role: spoken(t, roleNames[asks.person.role]) }) })
  }
  return asks
}

/**
 * Another program shows the token that the server was started with (RFC 6750); without one, none may.
 * @throws 401
 */
export function requireToken(event: H3Event, token: string): void {
  const [given, wanted] = [getHeader(event, 'authorization') ?? '', `Bearer ${token}`].map(text => Buffer.from(text)) as [Buffer, Buffer]
  if (!token || given.length !== wanted.length || !timingSafeEqual(given, wanted))
    throw createError({ statusCode: 401, message: t('answers.wrongToken') })
}
