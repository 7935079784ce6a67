import { randomBytes } from 'node:crypto'
import { plainText } from '~~/core/calls/text'
import { fold } from '~~/core/directory/folding'
import type { Company } from '~~/core/company/company'
import { roleOf } from '~~/shared/identity'
import type { Role } from '~~/shared/roles'
import { recordChanges } from '../accounts/changes'
import { foldSignIn } from '../accounts/sign-in-limits'
import { Account, type AccountRow } from '../database/entities'
import type { Relay } from '../relay'
import type { Proven } from './provider'
import { t } from '../language'

/** As whom the provider changes accounts: nobody can sign in under that name. */
const itself = 'the identity provider'

/**
 * The account of whom the provider has named: found by the claim that the administrator chose, made where that is allowed; its role is that of their groups.
 * @throws 403 when they may not come in
 */
export async function accountOf({ orm, company, passwords }: Pick<Relay, 'orm' | 'company' | 'passwords'>, { settings, claims }: Proven): Promise<AccountRow> {
  const said = claims[settings.signIn]
  const signIn = typeof said === 'string' ? foldSignIn(said) : ''
  if (!/^[\p{L}\p{N}._@-]{2,60}$/u.test(signIn)) {
    const what = plainText(settings.signIn, 40)
    throw notLetIn(t('answers.providerDoesNotSayWho', { provider: settings.name, claim: what }))
  }
  if (settings.signIn === 'email' && claims.email_verified === false)
    throw notLetIn(t('answers.providerDoesNotKnowAddress', { provider: settings.name }))
  const role = roleOf(claims[settings.groups], settings.roles) ?? settings.otherwise
  // Nobody knows the password of an account that is made here: its person signs in there.
  const passwordHash = await passwords.hash(randomBytes(24).toString('base64url'))
  return orm.em.fork().transactional(async (tx) => {
    await tx.execute('select 1 from account where role = \'administrator\' for update')
    const known = await tx.findOne(Account, { signIn })
    if (known?.disabled) throw notLetIn(t('answers.accountIsShut'))
    if (known) {
      if (role && role !== known.role && !await isLastAdministrator(known)) {
        await recordChanges(tx, itself, [{ account: signIn, what: 'role', before: known.role, after: role }])
        known.role = role
        await tx.flush()
      }
      return known
    }
    if (!settings.makes) throw notLetIn(t('answers.noAccountYet', { signIn }))
    if (!role) throw notLetIn(t('answers.noGroupMayComeIn', { provider: settings.name }))
    return make(role)

    async function isLastAdministrator({ role: has }: AccountRow): Promise<boolean> {
      return has === 'administrator' && await tx.count(Account, { role: 'administrator', disabled: false }) === 1
    }

    async function make(role: Role): Promise<AccountRow> {
      const told = plainText(typeof claims.name === 'string' ? claims.name : '', 80)
      const taken = new Set((await tx.find(Account, { person: { $ne: null } })).map(({ person }) => person))
      const person = personNamed(company.current, told)
      const account = tx.create(Account, {
        signIn, name: told || signIn, role, passwordHash, person: person !== null && !taken.has(person) ? person : null, disabled: false,
      })
      await tx.flush()
      await recordChanges(tx, itself, [{ account: signIn, what: 'new account', before: '', after: `${account.name}, ${role}` }])
      return account
    }
  })
}

/** Who works here under a name that nobody else has. */
function personNamed({ people }: Company, name: string): string | null {
  const named = Object.values(people).filter(({ first, last }) => fold(`${first} ${last}`.trim()) === fold(name))
  return name !== '' && named.length === 1 ? named[0]!.id : null
}

function notLetIn(message: string) {
  return createError({ statusCode: 403, message })
}
