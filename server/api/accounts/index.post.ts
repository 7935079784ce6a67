import { randomBytes } from 'node:crypto'
import { plainText } from '~~/core/calls/text'
import { lookUp } from '~~/core/company/lookups'
import { accountMade, newAccount } from '~~/shared/people'
import { recordChanges } from '../../accounts/changes'
import { foldSignIn } from '../../accounts/sign-in-limits'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'
import { wrongInput } from '../../validation/read'
import { t } from '../../language'

export default defineEndpoint({
  summary: 'A new account, of somebody who works here or of a name; its password is shown this once',
  mayAsk: { right: 'keepAccounts' },
  body: newAccount,
  answer: accountMade,
  also: { 409: 'Somebody signs in under that name already.' },
}, async ({ person: administrator, body }) => {
  const { orm, company, passwords, sessions, log } = useRelay()
  const signIn = foldSignIn(body.signIn)
  const who = body.person === null ? undefined : lookUp(company.current.people, body.person)
  if (body.person !== null && !who) throw wrongInput('person', t('answers.personIsGone'))
  const name = who ? `${who.first} ${who.last}`.trim() : plainText(body.name, 80)
  if (name === '') throw wrongInput('name', t('answers.accountNameIsMissing'))
  const password = randomBytes(12).toString('base64url')
  const passwordHash = await passwords.hash(password)
  const made = await fromDatabase(() => orm.em.fork().transactional(async (tx) => {
    const rows = await tx.execute<object[]>(
      `insert into account (sign_in, name, role, password_hash, person, disabled) values (?, ?, ?, ?, ?, false) on conflict do nothing returning 1`,
      [signIn, name, body.role, passwordHash, body.person],
    )
    if (rows.length > 0) await recordChanges(tx, administrator.signIn, [{ account: signIn, what: 'new account', before: '', after: `${name}, ${body.role}` }])
    return rows.length > 0
  }))
  if (!made) throw createError({ statusCode: 409, message: t('answers.signInIsTaken', { signIn }) })
  await fromDatabase(() => sessions.changed(signIn))
  log(`accounts: ${administrator.signIn} made ${signIn}, ${body.role}`)
  return { signIn, password }
})
