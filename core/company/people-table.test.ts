import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { readTable } from '../formats/csv'
import { changedCompany } from './changes'
import { faultsOf } from './check'
import { peopleOf, type PeopleRow } from './people-table'

const company = merrowby(60)
const marit = company.people[company.telephones.t2105!.person!]!
const freight = company.departments.freight!.name
let count = 0
const read = (text: string): PeopleRow[] => {
  const table = readTable(text, 1_000)
  if ('fault' in table) throw new Error(table.fault)
  const rows = peopleOf(company, table, kind => `${kind}-new-${count++}`)
  if ('fault' in rows) throw new Error(rows.fault)
  return rows
}

describe('people from a table', () => {
  it('are new with their telephone, changed by extension or by name, or as they are', () => {
    const rows = read([
      'First,Last,Department,Role,Extension,Mobile', `Zephyrine,Quist,${freight},Clerk,2990,07700 900555`,
      `${marit.first},Newname,,Keeper,2105,${marit.mobile ?? ''}`, `${marit.first},${marit.last},,,,`, ',,,,,',
    ].join('\n'))
    expect(rows.map(({ verdict, why }) => `${verdict} ${why}`)).toEqual([
      'new with 2990', 'changed last, role', 'unchanged ', 'refused Nobody is named.',
    ])
    expect(rows[0]!.changes[0]).toMatchObject({ value: { first: 'Zephyrine', department: 'freight', mobile: '+447700900555' } })
    expect(faultsOf(changedCompany(company, 2, rows.slice(0, 2).flatMap(({ changes }) => changes)))).toEqual([])
    expect(read(`first,last\n${marit.first},${marit.last}\n`)).toMatchObject([{ verdict: 'unchanged', changes: [] }])
  })

  it('are refused with a reason each, and the others are read all the same', () => {
    const place = Object.values(company.telephones).find(({ person }) => person === null)!
    expect(read([
      'first,last,department,extension,direct', 'A,B,Nowhere,2991,', `C,D,${freight},${place.number},`, `E,F,${freight},2992,12`, `G,H,${freight},2993,`,
      `I,J,${freight},2993,`, `,,${freight},2994,`,
    ].join('\n')).map(({ verdict, why }) => `${verdict}: ${why}`)).toEqual([
      'refused: Nowhere: there is no such department.', `refused: ${place.number} is a telephone of a place: ${place.name}.`,
      'refused: The direct number can\'t be called from here.', 'new: with 2993', 'refused: The same stands in row 5 already.', 'refused: Nobody is named.',
    ])
    expect(peopleOf(company, { columns: ['x'], rows: [['y']] }, () => '')).toMatchObject({ fault: expect.stringContaining('must name columns') as string })
  })
})
