import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import type { Company } from '../company/company'
import { lookUp, telephoneWithNumber } from '../company/lookups'
import { readTable, writeTable } from '../formats/csv'
import { keyKinds, mostKeys, type SpeedKey } from './key'
import { faultsOf } from '../schema/faults'
import { faultOf } from './meaning'
import { speedKey } from './schema'

/**
 * A page of keys as CSV (RFC 4180), one key a row: kind, of, label, name. `name` says who or what it is and is not read. A person may be named by their
 * extension as well as by their id.
 */
const columns = ['kind', 'of', 'label', 'name'] as const
const longestFile = 100_000

export function toCsv(company: Company, keys: readonly SpeedKey[]): string {
  return writeTable(columns, keys.map(({ kind, of, label }) => [kind, of, label ?? '', nameOf(company, kind, of)]))
}

/** @returns the keys, or what is wrong with the first row that can't be read, and what to do about it */
export function fromCsv(company: Company, text: string): { keys: SpeedKey[] } | { fault: Phrase } {
  if (text.length > longestFile) return { fault: phrase('files.pageTooLong', { most: mostKeys }) }
  const table = readTable(text, longestFile, true)
  if ('fault' in table) return table
  const named = table.columns.map(column => column.trim().toLowerCase())
  if (table.rows.length > mostKeys) return { fault: phrase('files.tooManyKeys', { keys: table.rows.length, most: mostKeys }) }
  if (!named.includes('kind') || !named.includes('of')) return { fault: phrase('files.columnsOfKeys') }
  const rows = table.rows.map(row => Object.fromEntries(named.map((column, at) => [column, row[at]!])))
  const keys: SpeedKey[] = []
  for (const [index, row] of rows.entries()) {
    const read = keyOf(company, row)
    if ('fault' in read) return { fault: phrase('files.line', { line: table.lines[index]!, fault: read.fault }) }
    keys.push(read)
  }
  return { keys }
}

function keyOf(company: Company, row: Record<string, string>): SpeedKey | { fault: Spoken } {
  const kind = keyKinds.find(known => known === row.kind)
  if (!kind) return { fault: phrase('files.noKind', { kinds: keyKinds.join(', '), kind: row.kind ?? '' }) }
  const of = row.of ?? ''
  const extension = kind === 'person' ? telephoneWithNumber(company, of)?.person : undefined
  try {
    const key = speedKey.validateSync({ kind, of: extension ?? of, label: row.label || null })
    const fault = faultOf(company, key)
    return fault === null ? key : { fault }
  }
  catch (error) {
    return { fault: faultsOf(error)[0]!.what }
  }
}

function nameOf(company: Company, kind: SpeedKey['kind'], of: string): string {
  const person = kind === 'person' ? lookUp(company.people, of) : undefined
  if (person) return `${person.first} ${person.last}`
  if (kind === 'slot') return lookUp(company.slots, of)?.number ?? ''
  const all: Partial<Record<SpeedKey['kind'], Record<string, { name: string }>>>
    = { telephone: company.telephones, group: company.groups, line: company.lines, zone: company.zones }
  const named = all[kind]
  return (named && lookUp(named, of)?.name) ?? ''
}
