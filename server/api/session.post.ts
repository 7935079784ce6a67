import { credentials } from '~~/shared/people'
import { fromDatabase } from '../database/away'
import { Account } from '../database/entities'
import { useRelay } from '../relay'
import { readInput } from '../validation/read'
import { failedSignIns } from '../accounts/failed-sign-ins'

export default defineEventHandler(async (event) => {
  const body: unknown = await readBody(event)
  const { signIn, password } = readInput(() => credentials.required().validateSync(body))
  if (failedSignIns.tooMany(signIn, Date.now())) {
    throw createError({ statusCode: 429, message: 'Too many failed attempts for this name. Wait five minutes and try again.' })
  }
  const { orm } = useRelay()
  const account = await fromDatabase(() => orm.em.fork().findOne(Account, { signIn: signIn.toLowerCase().replaceAll('\0', '') }))
  // The same work for an unknown name, so that the time taken tells nothing.
  const right = await verifyPassword(account?.passwordHash ?? await unknownHash(), password)
  if (!account || !right) {
    failedSignIns.add(signIn, Date.now())
    throw createError({ statusCode: 401, message: 'Sign-in name and password do not belong together. Check both and try again.' })
  }
  failedSignIns.forget(signIn)
  const user = { signIn: account.signIn, name: account.name, role: account.role, extension: account.extension ?? null }
  await replaceUserSession(event, { user })
  return user
})

let hash: Promise<string> | undefined
function unknownHash(): Promise<string> {
  return hash ??= hashPassword('nobody has this password')
}
