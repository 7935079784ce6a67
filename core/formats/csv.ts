// The builds without anything of Node's: a file is read in the browser.
import { parse } from 'csv-parse/browser/esm/sync'
import { stringify } from 'csv-stringify/browser/esm/sync'

/** Tables as text (RFC 4180), as spreadsheets write them too: with semicolons or tabs, and a byte order mark. */
export interface Table {
  columns: string[]
  rows: string[][]
}

const dividers = [',', ';', '\t'] as const

/** @returns the first row as the names of the columns, the others as they are; or why it is no table */
export function readTable(text: string, mostRows: number): Table | { fault: string } {
  let all: string[][]
  try {
    all = parse(text, { bom: true, delimiter: dividerOf(text), relax_column_count: true, skip_empty_lines: true, trim: true })
  }
  catch (error) {
    return { fault: `The file can't be read as CSV: ${error instanceof Error ? error.message : 'its rows differ'}.` }
  }
  const [columns, ...rows] = all
  if (!columns || rows.length === 0) return { fault: 'The file has no rows: its first row names the columns, and one contact stands in each of the others.' }
  if (rows.length > mostRows) return { fault: `The file has ${rows.length} rows, and ${mostRows} are read at most: divide it.` }
  return { columns, rows: rows.map(row => columns.map((_, at) => withoutMark(row[at] ?? ''))) }
}

/** What divides the columns of the first line most often, quoted text left aside. */
function dividerOf(text: string): string {
  const [line = ''] = text.replace(/^\uFEFF/, '').replace(/"(?:[^"]|"")*"/g, '').split('\n')
  const counts = dividers.map(divider => line.split(divider).length)
  return dividers[counts.indexOf(Math.max(...counts))]!
}

/** No cell is a formula for a spreadsheet: what would be one has an apostrophe before it. */
export function writeTable(columns: readonly string[], rows: readonly (readonly string[])[]): string {
  return stringify(rows.map(row => [...row]), { header: true, columns: [...columns], escape_formulas: true, record_delimiter: 'windows' })
}

/** A cell without the mark that keeps a spreadsheet from taking it for a formula. */
export function withoutMark(text: string): string {
  return /^'[=+\-@＝＋－＠]/.test(text) ? text.slice(1) : text
}
