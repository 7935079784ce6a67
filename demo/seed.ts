import { parseArgs } from 'node:util'
import type { EntityManager } from '@mikro-orm/postgresql'
import { Passwords } from '../server/accounts/passwords'
import { writeCompany } from '../server/company/rows'
import { Account } from '../server/database/entities'
import { connectDatabase } from '../server/database/orm'
import type { Role } from '../shared/roles'
import { merrowby } from './company/merrowby'

/** The sign-ins of the demo; the password is the same for all and printed by the start command. */
const accounts: { signIn: string, role: Role, person: number | null, name?: string }[] = [
  { signIn: 'ines', role: 'operator', person: 0 },
  { signIn: 'tomas', role: 'operator', person: 1 },
  { signIn: 'bryony', role: 'supervisor', person: 2 },
  { signIn: 'admin', role: 'administrator', person: null, name: 'Administrator' },
  { signIn: 'staff', role: 'staff', person: 140 },
]
const password = 'hand-me-over'

/** The command that fills an empty database with Merrowby Ferries; a filled one stays as it is. NUXT_DATABASE_URL holds the database as the server uses it. */
const { values } = parseArgs({ options: { people: { type: 'string', default: '182' } } })
const url = process.env.NUXT_DATABASE_URL
const size = Number(values.people)
if (!url || !Number.isSafeInteger(size) || size < 1 || size > 20_000) {
  console.error('Set NUXT_DATABASE_URL to the database as the server uses it; --people is a whole number up to 20000.')
  process.exit(2)
}
const passwords = new Passwords()
const orm = await connectDatabase(url)
try {
  await orm.em.fork().transactional(seed)
}
finally {
  passwords.close()
  await orm.close(true)
}

async function seed(tx: EntityManager): Promise<void> {
  if (await tx.count(Account) > 0) return
  const hashes = await Promise.all(accounts.map(() => passwords.hash(password)))
  const company = merrowby(size)
  await writeCompany(tx, company)
  const people = Object.values(company.people)
  await tx.insertMany(Account, accounts.map(({ signIn, role, person, name }, index) => {
    const who = person === null ? undefined : people[person]
    return { signIn, role, passwordHash: hashes[index]!, name: who ? `${who.first} ${who.last}` : name ?? signIn, person: who?.id ?? null, disabled: false }
  }))
}
