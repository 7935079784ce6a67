import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import type { PlainKey } from '../../words/speaker'
import { plainText } from '../calls/text'
import { fold } from '../directory/folding'
import type { Table } from '../formats/csv'
import { type Home, readDialled } from '../numbers/dialled'
import type { CompanyChange } from './changes'
import type { Company, Person, PersonId, Telephone } from './company'
import { freeNumber, takenNumbers } from './free-number'
import { lookUp, telephonesOf, telephoneWithNumber } from './lookups'

/**
 * People from a table (RFC 4180), with columns as any program names them: guessed, and said otherwise. What an empty cell, or no column, says nothing of stays
 * as it is.
 */
export const meanings = [
  'nothing', 'first', 'last', 'name', 'department', 'role', 'room', 'extension', 'direct', 'mobile', 'nickname', 'languages', 'note',
] as const
export type Meaning = typeof meanings[number]

/** Words of a column's name that say what it holds, the more particular first. */
const words: [Meaning, RegExp][] = [
  ['nothing', /\b(mail|fax|pager|id|uid|birth\w*|street|city|zip|country|address|password|manager|matricule)\b|e ?mail|\b(employee|staff) (number|no)\b/],
  ['department', /\b(department\w*|dept|division|team|unit|abteilung|service|afdeling|departement|departamento|reparto|afdelning|avdelning|ou)\b/],
  ['mobile', /\b(mobile|cell|cellular|handy|mobil|mobiltelefon|portable|mobiel|movil|cellulare)\b/],
  ['extension', /\b(extension|ext|short|durchwahl|nebenstelle|poste|toestel|interno|anexo|intern\w*)\b/],
  ['direct', /\b(direct|did|ddi|phone|telephone|tel|telefon|telefoon|telefono|telephonenumber|number|nummer|numero)\b/],
  ['nickname', /\b(nick\w*|called|known|rufname|roepnaam|surnom)\b/],
  ['first', /\b(first\w*|given\w*|forename|christian|vorname|prenom|voornaam|nombre|nome|fornavn|fornamn)\b/],
  ['last', /\b(last\w*|family\w*|surname|sn|nachname|familienname|achternaam|nom de famille|apellido\w*|cognome|efternavn|efternamn|nom)\b/],
  ['role', /\b(role|title|job|position|function|funktion|fonction|functie|beruf|titel|cargo|ruolo)\b/],
  ['room', /\b(room|office|raum|zimmer|bureau|kamer|buro|location|physicaldeliveryofficename)\b/],
  ['languages', /\b(language\w*|speaks|sprache\w*|langue\w*|ta(al|len))\b/],
  ['note', /\b(note|notes|comment\w*|remark\w*|bemerkung\w*|notiz|description|opmerking\w*)\b/],
  ['name', /\b(name|full|display\w*|cn|person|employee|naam|mitarbeiter)\b/],
]
const several = new Set<Meaning>(['nothing', 'note'])

/** What each column probably holds; of columns with numbers, short ones are extensions. */
export function guessedPeople({ columns, rows }: Pick<Table, 'columns' | 'rows'>, home: Home): Meaning[] {
  const taken = new Set<Meaning>()
  return columns.map((column, at) => {
    const text = fold(column.replace(/([a-z])([A-Z])/g, '$1 $2')).replace(/[^a-z0-9]+/g, ' ').trim()
    const cells = rows.slice(0, 50).map(row => row[at] ?? '').filter(Boolean)
    const isShort = cells.length > 0 && cells.every(cell => readDialled(cell, home).kind === 'inside')
    const meant = words.find(([, word]) => word.test(text))?.[0] ?? 'nothing'
    const found = meant === 'direct' && isShort && !/\b(direct|did|ddi)\b/.test(text) ? 'extension' : meant
    if (taken.has(found) && !several.has(found)) return 'nothing'
    taken.add(found)
    return found
  })
}

/** What a field of somebody is called, of those that a table says. */
const fieldWords: { readonly [Field in keyof Person]?: PlainKey } = {
  first: 'company.firstName', last: 'company.lastName', department: 'company.department', role: 'common.role', room: 'company.room', mobile: 'common.mobile',
  nickname: 'company.nickname', languages: 'company.speaksBesideTheLanguageOf', note: 'company.noteForWhoPutsCallers',
}

const numberWords = { mobile: 'common.mobile', direct: 'company.directNumberFromOutside' } as const

/** One row with what becomes of it. */
export interface PeopleRow {
  /** The line of the file. */
  at: number
  name: string
  verdict: 'new' | 'changed' | 'unchanged' | 'refused'
  /** What of them changes, or why the row is refused. */
  why: Spoken[]
  changes: CompanyChange[]
  /** Who it is or would be; null when the row is refused and nobody is meant. */
  person: PersonId | null
}

export interface PeopleOptions {
  as: readonly Meaning[]
  /** An id for a new person, telephone or department. */
  newId: (kind: 'p' | 't' | 'd') => string
  /** Whoever has no extension gets the next one that is free. */
  numbered: boolean
  /**
   * Of a source that people are kept in step with: whom each row is known to be, null for nobody yet. What it says nothing of is emptied, and who has the name
   * of somebody else is another person.
   */
  known?: readonly (PersonId | null)[]
}

/**
 * What would become of each row: somebody who is here, by their extension or by their whole name, or somebody new. A department that is not there is made; who
 * is in none comes to the first.
 */
export function peopleOf(company: Company, table: Table, { as, newId, numbered, known }: PeopleOptions): PeopleRow[] | { fault: Phrase } {
  if (!(['first', 'last', 'name'] as const).some(one => as.includes(one)))
    return { fault: phrase('files.noColumnOfNames') }
  const inOrder = <T extends { position: number }>(all: Record<string, T>) => Object.values(all).sort((a, b) => a.position - b.position)
  const [site, first] = [inOrder(company.sites)[0], inOrder(company.departments)[0]]
  const departments = new Map(Object.values(company.departments).flatMap(({ id, name }) => [[fold(id), id], [fold(name), id]]))
  const byName = new Map<string, Person[]>()
  for (const person of Object.values(company.people)) {
    const name = fold(`${person.first} ${person.last}`)
    byName.set(name, [...byName.get(name) ?? [], person])
  }
  const seen = new Map<string, { at: number, name: string }>()
  const met = new Set(known?.filter(id => id !== null && lookUp(company.people, id) !== undefined))
  const taken = takenNumbers(company)
  const extensions = as.indexOf('extension')
  if (extensions >= 0) for (const row of table.rows) if (row[extensions]) taken.add(row[extensions].trim())
  /** Who gets another extension by a row of their own leaves the one that they have. */
  const moving = new Set(known?.filter((id, at) => {
    const wanted = table.rows[at]![extensions]?.trim()
    return id !== null && wanted && telephonesOf(company, id)[0]?.number !== wanted
  }))
  let made = 0
  return table.rows.map((cells, index) => {
    const text = (column: Meaning, longest = 200) => {
      const said = cells.filter((_, at) => as[at] === column)
      return said.length > 0 ? plainText(said.filter(Boolean).join(' / '), longest) : undefined
    }
    const names = namesOf(text('first'), text('last'), text('name'))
    const row = { at: table.lines[index]!, name: `${names.first} ${names.last}`.trim() }
    const own = known?.[index] ? lookUp(company.people, known[index]) : undefined
    const refused = (why: Phrase): PeopleRow => ({ ...row, verdict: 'refused', why: [why], changes: [], person: own?.id ?? null })
    if (row.name === '') return refused(phrase('files.nobodyIsNamed'))
    const extension = (text('extension', 20) ?? '').replace(/\s/g, '')
    if (extension !== '' && !/^\d{1,7}$/.test(extension)) return refused(phrase('files.noExtension', { extension }))
    const held = extension === '' ? undefined : telephoneWithNumber(company, extension)
    const holder = held && moving.has(held.person ?? '') && held.person !== own?.id ? undefined : held
    const key = extension || (known ? '' : fold(row.name))
    const twice = key === '' ? undefined : seen.get(key)
    if (twice !== undefined)
      return refused(known ? phrase('files.hasItToo', { name: twice.name, extension }) : phrase('files.standsInLine', { line: twice.at }))
    seen.set(key, row)
    if (holder?.person === null) return refused(phrase('files.ofAPlace', { extension, name: holder.name }))
    if (holder && (own ? holder.person !== own.id : met.has(holder.person!))) return refused(phrase('files.isTheNumberOf', { extension, name: holder.name }))
    const other = holder || extension === '' ? undefined : nameWithNumber(company, extension)
    if (other !== undefined) return refused(phrase('files.isTheNumberOf', { extension, name: other }))
    const namesakes = (byName.get(fold(row.name)) ?? []).filter(({ id }) => !met.has(id))
    if (!own && !holder && namesakes.length > 1) return refused(phrase('files.severalOfThatName'))
    const before = own ?? (holder ? company.people[holder.person!] : namesakes[0])
    if (known && before) met.add(before.id)
    const numbers = { mobile: e164Of(text('mobile', 40), company.settings), direct: e164Of(text('direct', 40), company.settings) }
    for (const [what, number] of Object.entries(numbers))
      if (number === undefined) return refused(phrase('files.cantBeCalled', { what: phrase(numberWords[what as keyof typeof numberWords]) }))
    const { id: department, change: newDepartment } = departmentOf(text('department') ?? '', before?.department)
    if (department === null) return refused(phrase('files.noDepartment'))
    const person: Person = {
      ...before ?? { id: newId('p'), nickname: null, former: null, said: '', deputies: [], languages: [], note: '', role: '', room: '', mobile: null },
      ...known ? names : { first: names.first || before?.first || '', last: names.last || before?.last || '' }, department,
      ...given('role', text('role'), ''), ...given('room', text('room'), ''), ...given('note', text('note', 400), ''),
      ...given('nickname', text('nickname'), null), ...given('mobile', text('mobile') && numbers.mobile, null),
      ...given('languages', text('languages')?.split(/[;,/]/).map(one => one.trim()).filter(Boolean), []),
    } as Person
    const free = numbered && extension === '' && (!before || telephonesOf(company, before.id).length === 0) ? freeNumber(company.settings, taken) : extension
    taken.add(free)
    return judged(row, before, person, telephoneOf(company, person, free, numbers.direct ?? null, newId), newDepartment)
  })

  /** A field of which the table says something; empty, it counts only where people are kept in step with it. */
  function given(field: string, said: string | string[] | null | undefined, none: unknown) {
    if (said === undefined) return {}
    return said === null || said.length === 0 ? known ? { [field]: none } : {} : { [field]: said }
  }

  /** The one that is meant, or a new one: with the row that names it first. */
  function departmentOf(said: string, before: string | undefined): { id: string | null, change?: CompanyChange } {
    if (said === '') return { id: before ?? first?.id ?? null }
    const known = departments.get(fold(said))
    if (known !== undefined || !site) return { id: known ?? null }
    const id = newId('d')
    departments.set(fold(said), id)
    const position = Math.max(-1, ...Object.values(company.departments).map(one => one.position)) + ++made
    return { id, change: { part: 'departments', id, value: { id, name: said, site: site.id, handles: [], position } } }
  }
}

/** First and last name, as far as a whole name tells: "Quist, Zephyrine", "Zephyrine Quist". */
function namesOf(first = '', last = '', whole = ''): { first: string, last: string } {
  if (first !== '' || last !== '' || whole === '') return { first, last }
  const [before = '', after] = whole.split(/,\s*/)
  if (after !== undefined) return { first: after, last: before }
  const all = whole.split(' ')
  return { first: all.slice(0, -1).join(' '), last: all.at(-1)! }
}

function nameWithNumber({ groups, slots, zones, shortNumbers }: Company, number: string): string | undefined {
  return [groups, slots, zones, shortNumbers].flatMap(part => Object.values<{ number: string, name: string }>(part)).find(one => one.number === number)?.name
}

/** null for none, undefined for what is no number that can be called. */
function e164Of(said: string | undefined, home: Home): string | null | undefined {
  if (!said) return null
  const dialled = readDialled(said, home)
  return dialled.kind === 'outside' ? dialled.e164 : undefined
}

/** Their telephone as it is to be; null when it stays as it is, or they have none. */
function telephoneOf(company: Company, { id, department }: Person, extension: string, direct: string | null, newId: (kind: 't') => string) {
  const [own] = telephonesOf(company, id)
  if (!own && extension === '') return null
  const before: Telephone | undefined = own
  const blank: Telephone = {
    id: '', person: id, rank: 0, name: '', number: extension, capacity: 2, inService: true, pickupGroup: department, direct: null, mayPage: 'no',
    mayListen: false, mayRecord: false,
  }
  const after = { ...before ?? { ...blank, id: newId('t') }, ...extension !== '' && { number: extension }, ...direct !== null && { direct } }
  return JSON.stringify(after) === JSON.stringify(before) ? null : { before, after }
}

function judged(
  row: { at: number, name: string }, before: Person | undefined, person: Person, telephone: { before?: Telephone, after: Telephone } | null,
  department: CompanyChange | undefined,
): PeopleRow {
  const about = { ...row, person: person.id }
  const fields = before ? (Object.keys(person) as (keyof Person)[]).filter(field => JSON.stringify(before[field]) !== JSON.stringify(person[field])) : []
  const changes: CompanyChange[] = [
    ...department ? [department] : [],
    ...!before || fields.length > 0 ? [{ part: 'people' as const, id: person.id, value: person }] : [],
    ...telephone ? [{ part: 'telephones' as const, id: telephone.after.id, value: telephone.after }] : [],
  ]
  const added = department?.value ? [phrase('files.inTheNewDepartment', { name: (department.value as { name: string }).name })] : []
  const why = [
    ...fields.flatMap(field => fieldWords[field] ? [phrase(fieldWords[field])] : []),
    ...telephone ? [phrase(telephone.before ? 'files.telephone' : 'files.aTelephone')] : [], ...added,
  ]
  if (!before) {
    const reached = telephone ? phrase('files.withNumber', { number: telephone.after.number }) : phrase('files.withoutTelephone')
    return { ...about, verdict: 'new', why: [reached, ...added], changes }
  }
  return { ...about, verdict: changes.length === 0 ? 'unchanged' : 'changed', why, changes }
}
