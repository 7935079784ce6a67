import { randomBytes } from 'node:crypto'
import { requirePerson } from '../../../accounts/session'
import { fromDatabase } from '../../../database/away'
import { Account } from '../../../database/entities'
import { useRelay } from '../../../relay'
import { readParam } from '../../../validation/read'

/** Gives somebody who has forgotten theirs a new password, shown this once, and signs them out everywhere. */
export default defineEventHandler(async (event) => {
  const administrator = await requirePerson(event, 'administrator')
  const signIn = readParam(event, 'signIn')
  const { orm, passwords, sessions, log } = useRelay()
  const password = randomBytes(12).toString('base64url')
  const passwordHash = await passwords.hash(password)
  const found = await fromDatabase(() => orm.em.fork().nativeUpdate(Account, { signIn }, { passwordHash }))
  if (found === 0) throw createError({ statusCode: 404, message: 'There is no such account.' })
  await fromDatabase(() => sessions.end(signIn, () => true))
  log(`accounts: ${administrator.signIn} gave ${signIn} a new password`)
  return { password }
})
