import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import { fold } from '../directory/folding'
import type { Home } from '../numbers/dialled'
import type { Meaning } from './contact-fields'
import { contactOfRow, guessed } from './contact-table'
import { readTable } from './csv'
import { textOf } from './encoding'
import { cardsOf, contactOf, type CardContact, leftOut, unreadNumbers } from './vcard'

/** A file of contacts, as cards or as a table. */

export const mostContacts = 20_000

/** One row of a table, or one card. */
export interface FileRow {
  /** The line of the file at which a card begins, the number of a row. */
  at: number
  /** Null when it can't be read; `card`: the lines that it came with. */
  said: (CardContact & { card: string[] }) | null
  fault: Phrase | null
  /** Numbers in it that can't be called; they are left out, and stay with the card. */
  unread: string[]
  /** What is more than is kept of a contact. */
  left: Spoken[]
}

/** What a table's columns are called and taken for, with its first rows. */
export interface Columns { names: string[], as: Meaning[], sample: string[][] }

export interface ContactFile { rows: FileRow[], columns: Columns | null }

/**
 * @param as what each column of a table holds; guessed when it is not said
 * @returns its contacts, in their order; or why there are none
 */
export function readContactFile(bytes: Uint8Array, home: Home, as?: readonly Meaning[]): ContactFile | { fault: Phrase } {
  const text = textOf(bytes)
  if (text.trim() === '') return { fault: phrase('files.empty') }
  if (/^\s*\uFEFF?BEGIN:VCARD/i.test(text)) return readCards(text, home)
  const table = readTable(text, mostContacts)
  if ('fault' in table) return table
  const taken = as && as.length === table.columns.length ? [...as] : guessed(table)
  const rows = table.rows.map((row, index): FileRow => {
    const read = contactOfRow(row, taken, home)
    return 'fault' in read
      ? { at: table.lines[index]!, said: null, fault: read.fault, unread: [], left: [] }
      : { at: table.lines[index]!, said: { ...read.contact, card: [] }, fault: null, unread: read.unread, left: read.left }
  })
  return { rows: once(rows), columns: { names: table.columns, as: taken, sample: table.rows.slice(0, 3) } }
}

function readCards(text: string, home: Home): ContactFile | { fault: Phrase } {
  const cards = cardsOf(text)
  if (cards.length > mostContacts) return { fault: phrase('files.tooManyCards', { cards: cards.length, most: mostContacts }) }
  const rows = cards.map((card): FileRow => {
    if ('fault' in card) return { at: card.at, said: null, fault: card.fault, unread: [], left: [] }
    const said = contactOf(card.lines, home)
    return said.name === ''
      ? { at: card.at, said: null, fault: phrase('files.cardOfNobody'), unread: [], left: [] }
      : { at: card.at, said: { ...said, card: card.lines }, fault: null, unread: unreadNumbers(card.lines, home), left: leftOut(card.lines, home) }
  })
  return { rows: once(rows), columns: null }
}

/** What stands in the file a second time is refused there. */
function once(rows: readonly FileRow[]): FileRow[] {
  const seen = new Map<string, number>()
  return rows.map((row) => {
    if (!row.said) return row
    const { uid, name, company, numbers } = row.said
    const key = uid === null ? JSON.stringify([fold(name), company && fold(company), numbers.map(({ number }) => number).sort()]) : `uid ${uid}`
    const first = seen.get(key)
    if (first === undefined) seen.set(key, row.at)
    return first === undefined ? row : { ...row, said: null, fault: phrase('files.standsAlready', { at: first }) }
  })
}
