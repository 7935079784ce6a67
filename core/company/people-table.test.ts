import { describe, expect, it } from 'vitest'
import { inEnglish } from '../../words/in-english'
import { merrowby } from '../../demo/company/merrowby'
import { readTable } from '../formats/csv'
import { changedCompany } from './changes'
import { faultsOf } from './check'
import { nobody } from './company'
import { byId } from './lookups'
import { guessedPeople, peopleOf, type PeopleRow } from './people-table'

const company = merrowby(60)
const marit = company.people[company.telephones.t2105!.person!]!
const freight = company.departments.freight!.name
let count = 0
const read = (text: string, { of = company, numbered = false } = {}): PeopleRow[] => {
  const table = readTable(text, 1_000)
  if ('fault' in table) throw new Error(table.fault.key)
  const rows = peopleOf(of, table, { as: guessedPeople(table, of.settings), newId: kind => `${kind}-new-${count++}`, numbered })
  if ('fault' in rows) throw new Error(rows.fault.key)
  return rows
}

describe('people from a table', () => {
  it('are new with their telephone, changed by extension or by name, or as they are', () => {
    const rows = read([
      'First,Last,Department,Role,Extension,Mobile', `Zephyrine,Quist,${freight},Clerk,2990,07700 900555`,
      `${marit.first},Newname,,Keeper,2105,${marit.mobile ?? ''}`, `${marit.first},${marit.last},,,,`, ',,,,,',
    ].join('\n'))
    expect(rows.map(({ verdict, why }) => `${verdict} ${inEnglish(why) as string[]}`)).toEqual([
      'new with 2990', 'changed Last name,Role', 'unchanged ', 'refused Nobody is named.',
    ])
    expect(rows[0]!.changes[0]).toMatchObject({ value: { first: 'Zephyrine', department: 'freight', mobile: '+447700900555' } })
    expect(faultsOf(changedCompany(company, 2, rows.slice(0, 2).flatMap(({ changes }) => changes)))).toEqual([])
    expect(read(`first,last\n${marit.first},${marit.last}\n`)).toMatchObject([{ verdict: 'unchanged', changes: [] }])
  })

  it('are refused with a reason each, and the others are read all the same', () => {
    const place = Object.values(company.telephones).find(({ person }) => person === null)!
    expect(read([
      'first,last,department,extension,direct', `C,D,${freight},${place.number},`, `E,F,${freight},2992,12`, `G,H,${freight},2993,`,
      `I,J,${freight},2993,`, `,,${freight},2994,`, `K,L,${freight},12a,`, `M,N,${freight},0,`,
    ].join('\n')).map(({ verdict, why }) => `${verdict}: ${inEnglish(why) as string[]}`)).toEqual([
      `refused: ${place.number} is a telephone of a place: ${place.name}.`,
      'refused: Direct number, from outside: the number can\'t be called from here.',
      'new: with 2993', 'refused: The same stands in line 4 already.', 'refused: Nobody is named.',
      'refused: 12a is no extension: it has digits alone, 7 at most.', 'refused: 0 is the number of Operators.',
    ])
    const nobodyNamed = { columns: ['x'], rows: [['y']], lines: [2] }
    expect(inEnglish(peopleOf(company, nobodyNamed, { as: ['nothing'], newId: () => '', numbered: false })))
      .toMatchObject({ fault: expect.stringContaining('holds names') as string })
  })

  it('come from whatever program they come from: columns by other names, one name for both, departments that are not there yet', () => {
    const empty = {
      ...nobody, sites: byId([{ id: 'site:first', name: 'Head office', position: 0 }]),
      departments: byId([{ id: 'department:first', name: 'Front desk', site: 'site:first', handles: [], position: 0 }]),
      groups: byId([{ ...company.groups.operators!, members: [] }]),
    }
    const text = 'Mitarbeiter;Abteilung;Telefon;Handy;E-Mail\n'
      + '"Quist, Zephyrine";Orders;201;07700 900555;z@orders.example\nOtto Brine;orders;;;\nUna Vale;;203;;\n'
    const rows = read(text, { of: empty, numbered: true })
    expect(rows.map(({ at, name, verdict, why }) => `${at} ${name}: ${verdict} ${(inEnglish(why) as string[]).join(', ')}`)).toEqual([
      '2 Zephyrine Quist: new with 201, in the new department Orders', '3 Otto Brine: new with 2000', '4 Una Vale: new with 203',
    ])
    const after = changedCompany(empty, 2, rows.flatMap(({ changes }) => changes))
    expect(faultsOf(after)).toEqual([])
    expect(Object.values(after.departments).map(({ name }) => name)).toEqual(['Front desk', 'Orders'])
    expect(Object.values(after.people).map(({ last, department }) => [last, after.departments[department]!.name])).toEqual([
      ['Quist', 'Orders'], ['Brine', 'Orders'], ['Vale', 'Front desk'],
    ])
    expect(Object.values(after.people)[0]).toMatchObject({ first: 'Zephyrine', mobile: '+447700900555' })
    // The same file again changes nothing.
    expect(read(text, { of: after, numbered: true }).map(({ verdict }) => verdict)).toEqual(['unchanged', 'unchanged', 'unchanged'])
  })

  it.each([
    [['givenName', 'sn', 'departmentNumber', 'telephoneNumber', 'mail'], ['first', 'last', 'department', 'direct', 'nothing']],
    [['Nom', 'Prénom', 'Service', 'Poste', 'Portable'], ['last', 'first', 'department', 'extension', 'mobile']],
    [['Achternaam', 'Voornaam', 'Afdeling', 'Toestel', 'Opmerkingen'], ['last', 'first', 'department', 'extension', 'note']],
    [['Full Name', 'Job Title', 'Office', 'Work phone', 'Employee ID'], ['name', 'role', 'room', 'direct', 'nothing']],
  ])('guesses that %j hold %j', (columns, as) => {
    expect(guessedPeople({ columns, rows: [] }, company.settings)).toEqual(as)
  })
})
