import { plainText } from '../calls/text'
import { fold } from '../directory/folding'
import type { Table } from '../formats/csv'
import { readDialled } from '../numbers/dialled'
import type { CompanyChange } from './changes'
import type { Company, Person, Telephone } from './company'
import { telephonesOf, telephoneWithNumber } from './lookups'

/** People from a table (RFC 4180): its first row names the columns, in any order. What an empty cell, or no column, says nothing of stays as it is. */
export const peopleColumns = ['first', 'last', 'department', 'role', 'room', 'extension', 'direct', 'mobile', 'nickname', 'languages', 'note'] as const
type Column = typeof peopleColumns[number]

/** One row with what becomes of it. */
export interface PeopleRow {
  /** The number of the row. */
  at: number
  name: string
  verdict: 'new' | 'changed' | 'unchanged' | 'refused'
  /** What of them changes, or why the row is refused. */
  why: string
  changes: CompanyChange[]
}

/**
 * What would become of each row: somebody who is here, by their extension or by their whole name, or somebody new.
 * @param newId an id for a new person or telephone
 */
export function peopleOf(company: Company, table: Table, newId: (kind: 'p' | 't') => string): PeopleRow[] | { fault: string } {
  const named = table.columns.map(column => fold(column).replace(/[^a-z]+/g, ' ').trim())
  const columns = new Map(peopleColumns.flatMap(column => named.includes(column) ? [[column, named.indexOf(column)] as const] : []))
  if (!columns.has('first') && !columns.has('last')) return { fault: `The first row must name columns: ${peopleColumns.join(', ')}. First or last is needed.` }
  const departments = new Map(Object.values(company.departments).flatMap(({ id, name }) => [[fold(name), id], [fold(id), id]]))
  const byName = new Map<string, Person[]>()
  for (const person of Object.values(company.people)) {
    const name = fold(`${person.first} ${person.last}`)
    byName.set(name, [...byName.get(name) ?? [], person])
  }
  const seen = new Map<string, number>()
  return table.rows.map((cells, index) => {
    const text = (column: Column, longest = 200) => columns.has(column) ? plainText(cells[columns.get(column)!] ?? '', longest) : undefined
    const row = { at: index + 2, name: `${text('first') ?? ''} ${text('last') ?? ''}`.trim() }
    const refused = (why: string): PeopleRow => ({ ...row, verdict: 'refused', why, changes: [] })
    if (row.name === '') return refused('Nobody is named.')
    const extension = text('extension', 20) ?? ''
    const known = extension === '' ? undefined : telephoneWithNumber(company, extension)
    const twice = seen.get(extension || fold(row.name))
    if (twice !== undefined) return refused(`The same stands in row ${twice} already.`)
    seen.set(extension || fold(row.name), row.at)
    if (known?.person === null) return refused(`${extension} is a telephone of a place: ${known.name}.`)
    const namesakes = byName.get(fold(row.name)) ?? []
    if (!known && namesakes.length > 1) return refused('Several people have that name: say which by the extension.')
    const before = known ? company.people[known.person!] : namesakes[0]
    const department = departmentOf(text('department'), before?.department)
    if (department === null) return refused(`${text('department') || 'No department'}: there is no such department.`)
    const numbers = { mobile: e164Of(text('mobile', 40)), direct: e164Of(text('direct', 40)) }
    for (const [what, number] of Object.entries(numbers)) if (number === undefined) return refused(`The ${what} number can't be called from here.`)
    const person: Person = {
      ...before ?? { id: newId('p'), nickname: null, former: null, said: '', deputies: [], languages: [], note: '', role: '', room: '', mobile: null },
      first: text('first') || before?.first || '', last: text('last') || before?.last || '', department,
      ...given('role', text('role')), ...given('room', text('room')), ...given('note', text('note', 400)), ...given('nickname', text('nickname')),
      ...given('mobile', numbers.mobile), ...given('languages', text('languages')?.split(/[;,]/).map(one => one.trim()).filter(Boolean)),
    } as Person
    return judged(row, before, person, telephoneOf(company, person, extension, numbers.direct ?? null, newId))
  })

  function departmentOf(said: string | undefined, before: string | undefined): string | null {
    if (said === undefined || said === '') return before ?? null
    return departments.get(fold(said)) ?? null
  }
}

/** A field of which the table says something. */
const given = (field: string, said: string | string[] | null | undefined) => said === undefined || said === null || said.length === 0 ? {} : { [field]: said }

/** null for none, undefined for what is no number that can be called. */
function e164Of(said: string | undefined): string | null | undefined {
  if (!said) return null
  const dialled = readDialled(said)
  return dialled.kind === 'outside' ? dialled.e164 : undefined
}

/** Their telephone as it is to be; null when it stays as it is, or they have none. */
function telephoneOf(company: Company, { id, department }: Person, extension: string, direct: string | null, newId: (kind: 't') => string) {
  const [own] = telephonesOf(company, id)
  if (!own && extension === '') return null
  const before: Telephone | undefined = own
  const blank: Telephone = {
    id: '', person: id, rank: 0, name: '', number: extension, capacity: 2, inService: true, pickupGroup: department, direct: null, mayPage: 'no',
  }
  const after = { ...before ?? { ...blank, id: newId('t') }, ...extension !== '' && { number: extension }, ...direct !== null && { direct } }
  return JSON.stringify(after) === JSON.stringify(before) ? null : { before, after }
}

function judged(
  row: { at: number, name: string }, before: Person | undefined, person: Person, telephone: { before?: Telephone, after: Telephone } | null,
): PeopleRow {
  const fields = before ? (Object.keys(person) as (keyof Person)[]).filter(field => JSON.stringify(before[field]) !== JSON.stringify(person[field])) : []
  const changes: CompanyChange[] = [
    ...!before || fields.length > 0 ? [{ part: 'people' as const, id: person.id, value: person }] : [],
    ...telephone ? [{ part: 'telephones' as const, id: telephone.after.id, value: telephone.after }] : [],
  ]
  const why = [...fields, ...telephone ? [telephone.before ? 'telephone' : 'a telephone'] : []].join(', ')
  if (!before) return { ...row, verdict: 'new', why: telephone ? `with ${telephone.after.number}` : 'without a telephone', changes }
  return { ...row, verdict: changes.length === 0 ? 'unchanged' : 'changed', why, changes }
}
