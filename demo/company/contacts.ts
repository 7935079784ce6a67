import type { Company } from '../../core/company/company'
import { telephonesOf } from '../../core/company/lookups'
import type { NewContact } from '../../shared/contacts'
import { chanceFrom } from './chance'
import { companies, firstNames, lastNames } from './names'

/** Who calls Merrowby Ferries again and again: firms, people of theirs, and people for themselves. What they usually want changes now and then. */
export interface Regular {
  name: string
  /** The firm they call for. */
  firm: string | null
  /** E.164, of a range set aside for fiction. */
  number: string
  /** What they usually want, at a time (milliseconds since 1970): a department, and sometimes one person of it. */
  wants: (at: number) => { department: string, telephone: string | null }
  contact: Omit<NewContact, 'company'>
}

const habitLasts = 75 * 24 * 60 * 60_000
const departments = ['freight', 'groups', 'accounts', 'catering', 'workshop', 'harbour', 'marketing', 'safety', 'electrical', 'reservations']
const notes = [
  'Rings from the yard: speak up.', 'Pays on the 20th, whatever the invoice says.', 'Asks for the deck plan every spring.',
  'Prefers to be called back after two.',
  'The lorry is 18.5 metres long.', 'Two wheelchairs in every party.',
]
const languages = ['', '', '', '', 'Norwegian', 'Dutch', 'German', 'French']

/** The same for the same company. */
export function regularsOf(company: Company): Regular[] {
  const chance = chanceFrom(41)
  const served = departments.filter(id => company.departments[id])
  const made: Regular[] = []
  const numberOf = (area: string) => `+44${area}4960${String(made.length * 7 + 11).padStart(3, '0')}`
  const usual = (department: string, changes: boolean, loyal: boolean): Regular['wants'] => {
    const start = served.indexOf(department)
    const [step, phase, who] = [chance.between(1, 4), chance.next(), chance.between(0, 20)]
    return (at) => {
      const turn = changes ? Math.floor(at / habitLasts + phase) : 0
      const now = served[(start + turn * step) % served.length] ?? department
      const people = Object.values(company.people).filter(one => one.department === now).flatMap(one => telephonesOf(company, one.id).slice(0, 1))
      return { department: now, telephone: loyal && people.length > 0 ? people[who % people.length]!.id : null }
    }
  }
  const add = (kind: NewContact['kind'], name: string, firm: string | null, area: string, wants: Regular['wants']) => {
    const number = numberOf(area)
    const rare = made.length % 11 === 5
    made.push({
      name, firm, number, wants,
      contact: {
        kind, name, numbers: [{ number, kind: 'work' }], addresses: [], category: kind === 'individual' ? 'Passengers' : 'Customers', private: false,
        language: kind === 'company' ? '' : chance.pick(languages),
        note: rare ? 'Their ferry in January left without them. Be kind, and do not ask for the booking again.' : chance.happens(0.4) ? chance.pick(notes) : '',
        readFirst: rare, mark: made.length % 17 === 8 ? 'important' : made.length === 30 ? 'nuisance' : 'none',
      },
    })
  }
  for (const [index, firm] of companies.entries()) {
    const department = served[index % served.length] ?? Object.keys(company.departments)[0]!
    const changes = index % 3 === 1
    add('company', firm, null, '131', usual(department, changes, false))
    for (let person = 0; person < 1 + index % 3; person++) {
      add('person', `${chance.pick(firstNames)} ${chance.pick(lastNames)}`, firm, '131', usual(department, changes, chance.happens(0.5)))
    }
  }
  for (let index = 0; index < 18; index++) {
    const department = served[(index * 3) % served.length] ?? Object.keys(company.departments)[0]!
    add('individual', `${chance.pick(firstNames)} ${chance.pick(lastNames)}`, null, '161', usual(department, index % 4 === 1, chance.happens(0.6)))
  }
  return made
}
