import { randomBytes } from 'node:crypto'
import { object, string } from 'yup'
import { accountNamed } from '~~/shared/people'
import { recordChanges } from '../../../accounts/changes'
import { fromDatabase } from '../../../database/away'
import { Account } from '../../../database/entities'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'A new password for somebody who has forgotten theirs, shown this once; they are signed out everywhere',
  mayAsk: { right: 'keepAccounts' },
  params: accountNamed,
  answer: object({ password: string().required() }),
  also: { 404: 'There is no such account.' },
}, async ({ person: administrator, params: { signIn } }) => {
  const { orm, passwords, sessions, log } = useRelay()
  const password = randomBytes(12).toString('base64url')
  const passwordHash = await passwords.hash(password)
  const found = await fromDatabase(() => orm.em.fork().transactional(async (tx) => {
    const rows = await tx.nativeUpdate(Account, { signIn }, { passwordHash })
    if (rows > 0) await recordChanges(tx, administrator.signIn, [{ account: signIn, what: 'password', before: '', after: 'a new one' }])
    return rows
  }))
  if (found === 0) throw createError({ statusCode: 404, message: t('answers.noSuchAccount') })
  await fromDatabase(() => sessions.end(signIn, () => true))
  log(`accounts: ${administrator.signIn} gave ${signIn} a new password`)
  return { password }
})
