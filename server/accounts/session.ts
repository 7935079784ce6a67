import type { H3Event } from 'h3'
import type { Role, SignedIn } from '~~/shared/people'

declare module '#auth-utils' {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type
  interface User extends SignedIn {}
}

/**
 * Who asks, from the sealed cookie.
 * @throws 401 when nobody is signed in; 403 when their role may not
 */
export async function requirePerson(event: H3Event, ...roles: Role[]): Promise<SignedIn> {
  const { user } = await getUserSession(event)
  if (!user) throw createError({ statusCode: 401, message: 'You are not signed in, or your session has ended. Please sign in.' })
  if (roles.length > 0 && !roles.includes(user.role)) {
    throw createError({ statusCode: 403, message: `Your role (${user.role}) may not do that. Ask an administrator.` })
  }
  return user
}
