import { accountChange } from '~~/shared/people'
import { requirePerson } from '../../accounts/session'
import { fromDatabase } from '../../database/away'
import { Account, SessionEntity } from '../../database/entities'
import { useRelay } from '../../relay'
import { readInput, readParam } from '../../validation/read'

/** Changes what somebody may do, or shuts an account; both take effect at once, in every open console. One administrator always stays. */
export default defineEventHandler(async (event) => {
  const administrator = await requirePerson(event, 'administrator')
  const body: unknown = await readBody(event)
  const change = readInput(() => accountChange.required().validateSync(body))
  const signIn = readParam(event, 'signIn')
  const { orm, sessions, log } = useRelay()
  const done = await fromDatabase(() => orm.em.fork().transactional(async (em) => {
    // Two administrators who shut each other out at the same moment come one after the other.
    await em.execute('select 1 from account where role = \'administrator\' for update')
    const account = await em.findOne(Account, { signIn })
    if (!account) return 'unknown'
    if (change.role !== undefined) account.role = change.role
    if (change.disabled !== undefined) account.disabled = change.disabled
    await em.flush()
    if (await em.count(Account, { role: 'administrator', disabled: false }) === 0) throw createError({ statusCode: 409, message: 'That is the last administrator: make somebody else one first. Nothing was changed.' })
    if (change.disabled) await em.nativeDelete(SessionEntity, { signIn })
    return 'changed'
  }))
  if (done === 'unknown') throw createError({ statusCode: 404, message: 'There is no such account.' })
  await fromDatabase(() => sessions.changed(signIn))
  log(`accounts: ${administrator.signIn} changed ${signIn}: ${JSON.stringify(change)}`)
  return { changed: true }
})
