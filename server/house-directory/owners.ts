import type { EntityManager } from '@mikro-orm/postgresql'
import { plainText } from '~~/core/calls/text'
import type { CompanyChange } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { notOurs, type Owned, type Owners } from '~~/core/company/house-directory'
import { t } from '../language'
import { wrongInput } from '../validation/read'

/** As whom the directory changes people: nobody can sign in under that name. */
export const itself = 'the house\'s directory'

const words = {
  first: 'answers.theFirstName', last: 'answers.theLastName', department: 'answers.theDepartment', role: 'answers.theRole', room: 'answers.theRoom',
  mobile: 'answers.theMobile', nickname: 'answers.theNickname', languages: 'answers.theLanguages', note: 'answers.theNote', extension: 'answers.theExtension',
  direct: 'answers.theDirectNumber',
} as const satisfies Record<Owned, string>

/** @throws 422 when somebody would change here what is changed in the house's own directory alone */
export async function refuseOwned(tx: EntityManager, by: string, company: Company, changes: readonly CompanyChange[]): Promise<void> {
  if (by === itself) return
  const found = notOurs(company, await ownersIn(tx), changes)
  if (!found) return
  const { first, last } = company.people[found.person]!
  const name = plainText(`${first} ${last}`, 80)
  throw wrongInput('changes', found.field === null
    ? t('answers.takenAwayThereFirst', { name })
    : t('answers.changedThere', { field: t(words[found.field]), name }))
}

/** What the directory owns of whom, of those who are still there. */
async function ownersIn(em: EntityManager): Promise<Owners> {
  const rows = await em.execute<{ person: string, owns: Owned[] }[]>('select person, owns from house_directory_entry where gone_at is null')
  return new Map(rows.map(({ person, owns }) => [person, owns]))
}
