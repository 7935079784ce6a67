import { done } from '~~/shared/done'
import { lookUp } from '~~/core/company/lookups'
import { accountChange, accountNamed } from '~~/shared/people'
import { recordChanges } from '../../accounts/changes'
import { fromDatabase } from '../../database/away'
import { Account, SessionEntity } from '../../database/entities'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'
import { wrongInput } from '../../validation/read'
import { t } from '../../language'

export default defineEndpoint({
  summary: 'Change what somebody may do, or shut an account: in force at once, in every open console; one administrator always stays',
  mayAsk: { right: 'keepAccounts' },
  params: accountNamed,
  body: accountChange,
  answer: done('changed'),
  also: { 404: 'There is no such account.', 409: 'That is the last administrator; nothing was changed.' },
}, async ({ person: administrator, params: { signIn }, body: change }) => {
  const { orm, company, sessions, log } = useRelay()
  const found = await fromDatabase(() => orm.em.fork().transactional(async (em) => {
    // Two administrators who shut each other out at the same moment come one after the other.
    await em.execute('select 1 from account where role = \'administrator\' for update')
    const account = await em.findOne(Account, { signIn })
    if (!account) return false
    const before = { role: account.role, disabled: account.disabled, name: account.name }
    if (change.role !== undefined) account.role = change.role
    if (change.disabled !== undefined) account.disabled = change.disabled
    if (change.person !== undefined) {
      const who = change.person === null ? undefined : lookUp(company.current.people, change.person)
      if (change.person !== null && !who) throw wrongInput('person', t('answers.personIsGone'))
      account.person = change.person
      if (who) account.name = `${who.first} ${who.last}`.trim()
    }
    await em.flush()
    await recordChanges(em, administrator.signIn, [
      ...change.role === undefined ? [] : [{ account: signIn, what: 'role', before: before.role, after: account.role }],
      ...change.disabled === undefined ? [] : [{ account: signIn, what: 'state', before: stateOf(before), after: stateOf(account) }],
      ...change.person === undefined
        ? []
        : [{ account: signIn, what: 'who it is', before: before.name, after: change.person === null ? 'nobody here' : account.name }],
    ])
    if ((await em.count(Account, { role: 'administrator', disabled: false })) === 0)
      throw createError({ statusCode: 409, message: t('answers.lastAdministrator') })
    if (change.disabled) await em.nativeDelete(SessionEntity, { signIn })
    return true
  }))
  if (!found) throw createError({ statusCode: 404, message: t('answers.noSuchAccount') })
  await fromDatabase(() => sessions.changed(signIn))
  log(`accounts: ${administrator.signIn} changed ${signIn}: ${JSON.stringify(change)}`)
  return { changed: true }
})

const stateOf = ({ disabled }: { disabled: boolean }) => disabled ? 'shut' : 'open'
