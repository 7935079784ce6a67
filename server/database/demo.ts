import type { EntityManager } from '@mikro-orm/postgresql'
import { merrowby } from '../../core/world/merrowby'
import type { Role } from '../../shared/people'
import { Account, DepartmentEntity, LineEntity, PersonEntity } from './entities'

/** The sign-ins of the demo; the password is the same for all and printed by the start command. */
const demoAccounts: { signIn: string, role: Role, person: number | null, name?: string }[] = [
  { signIn: 'ines', role: 'operator', person: 0 },
  { signIn: 'tomas', role: 'operator', person: 1 },
  { signIn: 'bryony', role: 'supervisor', person: 2 },
  { signIn: 'admin', role: 'administrator', person: null, name: 'Administrator' },
  { signIn: 'staff', role: 'staff', person: 140 },
]
const demoPassword = 'hand-me-over'

/** Fills an empty database with Merrowby Ferries; a filled one stays as it is. */
export async function seedDemo(em: EntityManager, size: number, hashPassword: (password: string) => Promise<string>): Promise<void> {
  if (await em.count(Account) > 0) return
  const world = merrowby(size)
  const hashes = await Promise.all(demoAccounts.map(() => hashPassword(demoPassword)))
  await em.transactional(async (tx) => {
    await tx.insertMany(DepartmentEntity, world.departments.map(({ id, name, site, handles }, position) => ({ id, name, site, handles, position })))
    await tx.insertMany(PersonEntity, world.people)
    await tx.insertMany(LineEntity, world.lines.map(({ id, name, number, promise, greeting }) => ({ id, name, number, promise, greeting })))
    await tx.insertMany(Account, demoAccounts.map(({ signIn, role, person, name }, index) => {
      const who = person === null ? undefined : world.people[person]
      return { signIn, role, passwordHash: hashes[index]!, name: who ? `${who.first} ${who.last}` : name ?? signIn, extension: who?.extension ?? null, disabled: false }
    }))
  })
}
