import { phrase, type Phrase } from '../../words/phrase'
// The builds without anything of Node's: a file is read in the browser.
import { parse } from 'csv-parse/browser/esm/sync'
import { stringify } from 'csv-stringify/browser/esm/sync'

/** Tables as text (RFC 4180), as spreadsheets write them too: with semicolons or tabs, and a byte order mark. */
export interface Table {
  columns: string[]
  rows: string[][]
  /** The line of the file at which each row ends, from 1: of most rows the only one. */
  lines: number[]
}

const dividers = [',', ';', '\t', '|'] as const

/**
 * @param mayBeEmpty a file with no more than the names of its columns is one too
 * @returns the first row as the names of the columns, the others as they are; or why it is no table, with the line where that shows
 */
export function readTable(text: string, mostRows: number, mayBeEmpty = false): Table | { fault: Phrase } {
  if (text.trim() === '') return { fault: phrase('files.emptyTable') }
  if (text.includes('\0')) return { fault: phrase('files.noText') }
  // A spreadsheet may say in a line before all others what divides the columns.
  const said = /^\uFEFF?"?sep=([,;\t|])"?\r?\n/i.exec(text)
  let all: { record: string[], info: { lines: number } }[]
  try {
    // With the line of each row, for which the parser has no type.
    all = parse(said ? `\n${text.slice(said[0].length)}` : text, {
      bom: true, delimiter: said?.[1] ?? dividerOf(text), relax_column_count: true, skip_empty_lines: true, trim: true, info: true, max_record_size: longestRow,
    }) as never
  }
  catch (error) {
    return { fault: faultOf(error) }
  }
  const [head, ...rows] = all
  if (!head || (rows.length === 0 && !mayBeEmpty)) return { fault: phrase('files.noRows') }
  if (rows.length > mostRows) return { fault: phrase('files.tooManyRows', { rows: rows.length, most: mostRows }) }
  const columns = head.record
  return {
    columns, rows: rows.map(({ record }) => columns.map((_, at) => withoutMark(record[at] ?? ''))), lines: rows.map(({ info }) => info.lines),
  }
}

/** Characters. */
const longestRow = 200_000

/** What a reader of CSV found wrong, and where. */
function faultOf(error: unknown): Phrase {
  const { code, lines, column, quote_lines: opened } = error as { code?: string, lines?: number, column?: number, quote_lines?: number }
  const at = lines === undefined
    ? phrase('files.somewhere')
    : typeof column === 'number' ? phrase('files.atLineAndColumn', { line: lines, column: column + 1 }) : phrase('files.atLine', { line: lines })
  switch (code) {
    case 'CSV_QUOTE_NOT_CLOSED':
      return opened ? phrase('files.quoteOpenedInLine', { line: opened }) : phrase('files.quoteOpened')
    case 'INVALID_OPENING_QUOTE': case 'CSV_INVALID_CLOSING_QUOTE': case 'CSV_NON_TRIMABLE_CHAR_AFTER_CLOSING_QUOTE':
      return phrase('files.quoteInCell', { at })
    case 'CSV_MAX_RECORD_SIZE': return phrase('files.rowTooLong', { at })
    default: return phrase('files.noCsv', { at, why: error instanceof Error ? error.message : phrase('files.rowsDiffer') })
  }
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
