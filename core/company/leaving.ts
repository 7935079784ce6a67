import type { CompanyChange } from './changes'
import type { Company, PersonId } from './company'
import { telephonesOf } from './lookups'

/**
 * What changes when somebody leaves: nobody is asked for them any more, and their telephones go to whoever comes after them, or away.
 * @param successor who gets their telephones, with their numbers and their places in groups; null: the telephones go too
 */
export function leaving(company: Company, person: PersonId, successor: PersonId | null): CompanyChange[] {
  const theirs = telephonesOf(company, person)
  const ids = new Set(theirs.map(({ id }) => id))
  const rank = successor === null ? 0 : telephonesOf(company, successor).length
  const telephones = theirs.map((telephone, index): CompanyChange => ({
    part: 'telephones', id: telephone.id, value: successor === null ? null : { ...telephone, person: successor, rank: rank + index },
  }))
  const groups = successor !== null
    ? []
    : Object.values(company.groups).filter(({ members }) => members.some(member => ids.has(member)))
        .map((group): CompanyChange => ({ part: 'groups', id: group.id, value: {
          ...group, members: group.members.filter(member => !ids.has(member)), voluntary: group.voluntary.filter(member => !ids.has(member)),
          skills: Object.fromEntries(Object.entries(group.skills).filter(([member]) => !ids.has(member))),
        } }))
  const deputies = Object.values(company.people).filter(one => one.id !== person && one.deputies.includes(person)).map((one): CompanyChange => ({
    part: 'people', id: one.id, value: {
      ...one, deputies: [...new Set(one.deputies.flatMap(id => id !== person ? [id] : successor !== null && successor !== one.id ? [successor] : []))],
    },
  }))
  return [...groups, ...telephones, ...deputies, { part: 'people', id: person, value: null }]
}
