import type { CompanyChange } from './changes'
import type { Company, Person, PersonId, Telephone } from './company'
import { lookUp } from './lookups'
import type { Meaning } from './people-table'

/** What the house's own directory (LDAP) owns of somebody is changed there alone. */
export const ownable = [
  'first', 'last', 'department', 'role', 'room', 'mobile', 'nickname', 'languages', 'note', 'extension', 'direct',
] as const satisfies Exclude<Meaning, 'nothing' | 'name'>[]
export type Owned = typeof ownable[number]
export type Owners = ReadonlyMap<PersonId, readonly Owned[]>

/** What is given up to the house when the directory says nothing of it: everybody has a department, and a number may be given here. */
const onlyWhenSaid: readonly Owned[] = ['department', 'extension', 'direct']

/**
 * What a row owns of the person it is.
 * @param as what its columns hold
 */
export function ownedBy(as: readonly Meaning[], row: readonly string[]): Owned[] {
  const held = new Set(as.flatMap((meaning, at): Meaning[] => {
    const said = (row[at] ?? '') !== ''
    if (meaning === 'name') return said ? ['first', 'last'] : []
    return said || !(onlyWhenSaid as readonly Meaning[]).includes(meaning) ? [meaning] : []
  }))
  return ownable.filter(field => held.has(field))
}

/** What of an edit is the directory's alone: of whom, and which field; `field` null: that they are here at all. */
export interface NotOurs { person: PersonId, field: Owned | null }

/** The first thing that an edit would change here although it is the directory's; null when all of it is ours. */
export function notOurs(company: Company, owners: Owners, changes: readonly CompanyChange[]): NotOurs | null {
  const leaving = new Set(changes.flatMap(({ part, value, ...change }) => part === 'people' && value === null && 'id' in change ? [change.id] : []))
  for (const change of changes) {
    if (change.part === 'people') {
      const owned = owners.get(change.id)
      if (!owned) continue
      if (change.value === null) return { person: change.id, field: null }
      const before = lookUp(company.people, change.id)
      const after = change.value
      const isChanged = (field: keyof Person) => JSON.stringify(before?.[field]) !== JSON.stringify(after[field])
      const field = before && owned.find(one => one in before && isChanged(one as keyof Person))
      if (field) return { person: change.id, field }
    }
    if (change.part === 'telephones') {
      const before = lookUp(company.telephones, change.id)
      const owned = before?.person ? owners.get(before.person) : undefined
      if (!before || before.rank !== 0 || !owned || leaving.has(before.person!)) continue
      const [field] = (['extension', 'direct'] as const).filter(one => owned.includes(one) && differs(before, change.value, numbers[one]))
      if (field) return { person: before.person!, field }
    }
  }
  return null
}

const numbers = { extension: 'number', direct: 'direct' } as const
const differs = (before: Telephone, after: Telephone | null, field: 'number' | 'direct') =>
  after === null || after.person !== before.person || after[field] !== before[field]
