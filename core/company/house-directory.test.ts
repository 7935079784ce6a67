import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inEnglish } from '../../words/in-english'
import { merrowby } from '../../demo/company/merrowby'
import { changedCompany, type CompanyChange } from './changes'
import { faultsOf } from './check'
import { notOurs, ownable, type Owned, ownedBy } from './house-directory'
import { leaving } from './leaving'
import { telephonesOf } from './lookups'
import { peopleOf, type Meaning } from './people-table'

const company = merrowby(60)
const telephone = company.telephones.t2105!
const marit = company.people[telephone.person!]!
const owners = (owned: readonly Owned[]) => new Map([[marit.id, owned]])
const person = (change: object): CompanyChange => ({ part: 'people', id: marit.id, value: { ...marit, ...change } })
const phone = (change: object): CompanyChange => ({ part: 'telephones', id: telephone.id, value: { ...telephone, ...change } })

describe('what the directory owns of somebody', () => {
  it('is what its columns hold; a department and numbers only when it says them', () => {
    expect(ownedBy(['name', 'department', 'role', 'extension', 'nothing'], ['Quist, Zephyrine', 'Orders', '', '201', 'x']))
      .toEqual(['first', 'last', 'department', 'role', 'extension'])
    expect(ownedBy(['first', 'last', 'department', 'mobile', 'direct', 'extension'], ['Una', 'Vale', '', '', '', ''])).toEqual(['first', 'last', 'mobile'])
  })

  it('is changed there alone, and all else here', () => {
    expect(notOurs(company, owners(['role']), [person({ role: 'Pilot' })])).toEqual({ person: marit.id, field: 'role' })
    expect(notOurs(company, owners(['role']), [person({ room: 'Tower' })])).toBeNull()
    expect(notOurs(company, owners(['languages']), [person({ languages: ['Frisian'] })])).toEqual({ person: marit.id, field: 'languages' })
    expect(notOurs(company, new Map(), [person({ role: 'Pilot' })])).toBeNull()
  })

  it('has the extension and the direct number of the first telephone', () => {
    expect(notOurs(company, owners(['extension']), [phone({ number: '2990' })])).toEqual({ person: marit.id, field: 'extension' })
    expect(notOurs(company, owners(['extension']), [phone({ person: null })])).toEqual({ person: marit.id, field: 'extension' })
    expect(notOurs(company, owners(['extension']), [{ part: 'telephones', id: telephone.id, value: null }])).toEqual({ person: marit.id, field: 'extension' })
    expect(notOurs(company, owners(['direct']), [phone({ direct: '+441632960999' })])).toEqual({ person: marit.id, field: 'direct' })
    expect(notOurs(company, owners(['extension', 'direct']), [phone({ capacity: 4, inService: false })])).toBeNull()
    expect(notOurs(company, owners(['role']), [phone({ number: '2990' })])).toBeNull()
  })

  it('has that they are here: they go there first', () => {
    expect(notOurs(company, owners([]), leaving(company, marit.id, null))).toEqual({ person: marit.id, field: null })
  })

  it('is never more than one edit of ours can be without: what changes nothing owned passes', () => {
    fc.assert(fc.property(fc.subarray([...ownable]), fc.subarray(['role', 'room', 'note'] as const), (owned, changed) => {
      const found = notOurs(company, owners(owned), [person(Object.fromEntries(changed.map(field => [field, 'something else'])))])
      expect(found === null).toBe(!changed.some(field => owned.includes(field)))
    }))
  })
})

describe('people kept in step with a directory', () => {
  const as: Meaning[] = ['first', 'last', 'role', 'extension', 'mobile']
  const rowsOf = (rows: string[][], known: (string | null)[], of = company) => {
    let made = 0
    const table = { columns: [...as], rows, lines: rows.map((_, at) => at + 1) }
    const found = peopleOf(of, table, { as, known, newId: kind => `${kind}-new-${made++}`, numbered: false })
    if ('fault' in found) throw new Error(found.fault.key)
    return found
  }
  const other = company.people[company.telephones.t2106!.person!]!

  it('are known by their entry whatever they are called now, and lose what it says no more', () => {
    const [row] = rowsOf([['Marit', 'Newname', '', '2105', '']], [marit.id])
    expect(row).toMatchObject({ verdict: 'changed', person: marit.id })
    expect(changedCompany(company, 2, row!.changes).people[marit.id])
      .toMatchObject({ first: 'Marit', last: 'Newname', role: '', mobile: null, room: marit.room })
  })

  it('are two when two have one name', () => {
    const rows = rowsOf([[marit.first, marit.last, marit.role, '2105', marit.mobile ?? ''], [marit.first, marit.last, '', '', '']], [marit.id, null])
    expect(rows.map(({ verdict }) => verdict)).toEqual(['unchanged', 'new'])
    expect(rows[1]!.person).not.toBe(marit.id)
  })

  it('change extensions with each other, and take nobody else\'s', () => {
    const swap = rowsOf([[marit.first, marit.last, '', '2106', ''], [other.first, other.last, '', '2105', '']], [marit.id, other.id])
    const after = changedCompany(company, 2, swap.flatMap(({ changes }) => changes))
    expect(faultsOf(after)).toEqual([])
    expect([marit.id, other.id].map(id => telephonesOf(after, id)[0]!.number)).toEqual(['2106', '2105'])
    const [taken] = rowsOf([[marit.first, marit.last, '', '2106', '']], [marit.id])
    expect(inEnglish(taken)).toMatchObject({ verdict: 'refused', person: marit.id, why: [expect.stringContaining('2106 is the number of') as string] })
    const [, twice] = rowsOf([['A', 'B', '', '2990', ''], ['C', 'D', '', '2990', '']], [null, null])
    expect(inEnglish(twice)).toMatchObject({ verdict: 'refused', why: ['A B has 2990 too.'] })
  })

  it('a newcomer who gets the extension of somebody who gets another is not taken for that one', () => {
    const rows = rowsOf([['Una', 'Vale', '', '2105', ''], [marit.first, marit.last, '', '2991', '']], [null, marit.id])
    expect(rows.map(({ verdict }) => verdict)).toEqual(['new', 'changed'])
    const after = changedCompany(company, 2, rows.flatMap(({ changes }) => changes))
    expect(faultsOf(after)).toEqual([])
    expect(after.telephones.t2105).toMatchObject({ person: marit.id, number: '2991' })
  })
})
