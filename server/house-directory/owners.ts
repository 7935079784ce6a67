import type { EntityManager } from '@mikro-orm/postgresql'
import { plainText } from '~~/core/calls/text'
import type { CompanyChange } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { notOurs, type Owned, type Owners } from '~~/core/company/house-directory'
import { wrongInput } from '../validation/read'

/** As whom the directory changes people: nobody can sign in under that name. */
export const itself = 'the house\'s directory'

const words: Record<Owned, string> = {
  first: 'the first name', last: 'the last name', department: 'the department', role: 'the role', room: 'the room', mobile: 'the mobile number',
  nickname: 'what they are called', languages: 'the languages', note: 'the note', extension: 'the extension', direct: 'the direct number',
}

/** @throws 422 when somebody would change here what is changed in the house's own directory alone */
export async function refuseOwned(tx: EntityManager, by: string, company: Company, changes: readonly CompanyChange[]): Promise<void> {
  if (by === itself) return
  const found = notOurs(company, await ownersIn(tx), changes)
  if (!found) return
  const { first, last } = company.people[found.person]!
  const name = plainText(`${first} ${last}`, 80)
  throw wrongInput('changes', found.field === null
    ? `${name} comes from the house's directory, and is taken away there first. Nothing was changed.`
    : `${words[found.field]} of ${name} comes from the house's directory, and is changed there. Nothing was changed.`.replace(/^t/, 'T'))
}

/** What the directory owns of whom, of those who are still there. */
async function ownersIn(em: EntityManager): Promise<Owners> {
  const rows = await em.execute<{ person: string, owns: Owned[] }[]>('select person, owns from house_directory_entry where gone_at is null')
  return new Map(rows.map(({ person, owns }) => [person, owns]))
}
