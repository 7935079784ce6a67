import { plainText } from '../calls/text'
import { fold } from '../directory/folding'
import { type Home, readDialled } from '../numbers/dialled'
import { longest, type Meaning, mostAddresses, mostNumbers, type NumberKind, numberKinds } from './contact-fields'
import { type Table, writeTable } from './csv'
import type { CardContact } from './vcard'

/** Contacts as a table: what a column holds is guessed from its name, and can be said otherwise. */

/** Words of a column's name that say what it holds, the more particular first. */
const words: [Meaning, RegExp][] = [
  ['nothing', /\b(fax|pager|type|label)\b/],
  ['uid', /^(uid|id|key|contact id)$/],
  ['address', /mail/],
  ['mobile', /\b(mobile|cell|cellular|handy|mobil|mobiltelefon|portable)\b/],
  ['home', /\b(home|priv\w*)\b.*\b(phone|number|tel|telephone|telefon)\b|\b(phone|number|tel|telephone|telefon)\b.*\b(home|priv\w*)\b|^home$/],
  ['work', /\b(work|business|office|phone|telephone|tel|number|telefon|telefoon|telefono|numero|nummer|direct|main)\b/],
  ['other', /\b(other|second)\b/],
  ['company', /\b(company|organi[sz]ation|firm|firma|business|employer|unternehmen|societe|account)\b/],
  ['first', /\b(first|given|forename|christian|vorname|prenom|voornaam)\b/],
  ['last', /\b(last|family|surname|nachname|achternaam|nom de famille|middle)\b/],
  ['name', /\b(name|full|display|contact|nom|naam)\b/],
  ['category', /\b(category|categories|group|groups|tag|tags|list)\b/],
  ['language', /\b(language|sprache|langue|taal)\b/],
  ['note', /\b(note|notes|comment|comments|remark|remarks|notiz|description)\b/],
  ['kind', /^kind$/],
]

/** What each column probably holds. A meaning that only one column can have goes to the first. */
export function guessed({ columns }: Pick<Table, 'columns'>): Meaning[] {
  const taken = new Set<Meaning>()
  return columns.map((column) => {
    const text = fold(column).replace(/[^a-z0-9]+/g, ' ').trim()
    const found = words.find(([meaning, word]) => word.test(text) && !taken.has(meaning))?.[0] ?? 'nothing'
    if (!several.has(found)) taken.add(found)
    return found
  })
}

const several = new Set<Meaning>(['nothing', 'note', 'address', ...numberKinds])

/** What a row says of a contact, and the numbers in it that can't be called; or what is wrong with it. */
export function contactOfRow(row: readonly string[], as: readonly Meaning[], home: Home): { contact: CardContact, unread: string[] } | { fault: string } {
  const cells = (meaning: Meaning) => row.filter((cell, at) => as[at] === meaning && cell.trim() !== '')
  const text = (meaning: Meaning, most: number) => plainText(cells(meaning).join(' / '), most)
  const company = text('company', longest.name)
  const name = text('name', longest.name) || plainText(`${cells('first').join(' ')} ${cells('last').join(' ')}`, longest.name) || company
  if (name === '') return { fault: 'Nobody is named: a name or a company is needed.' }
  const unread: string[] = []
  const numbers = new Map<string, { number: string, kind: NumberKind }>()
  for (const kind of numberKinds) {
    for (const one of cells(kind).flatMap(cell => cell.split(/[;\n|]|\s\/\s/)).map(part => part.trim()).filter(Boolean)) {
      const dialled = readDialled(one, home)
      if (dialled.kind === 'outside' && !numbers.has(dialled.e164)) numbers.set(dialled.e164, { number: dialled.e164, kind })
      else if (dialled.kind !== 'outside') unread.push(plainText(one, 40))
    }
  }
  const said = text('kind', 20)
  const kind = said === 'company' || said === 'person' || said === 'individual'
    ? said
    : company === '' ? 'individual' : company === name ? 'company' : 'person'
  return {
    contact: {
      uid: text('uid', longest.uid) || null, kind, name, company: kind === 'person' && company !== '' ? company : null,
      category: text('category', longest.category), numbers: [...numbers.values()].slice(0, mostNumbers),
      addresses: cells('address').flatMap(cell => cell.split(/[\s;,]+/)).filter(one => /^\S+@\S+$/.test(one) && one.length <= longest.address)
        .map(one => plainText(one, longest.address)).slice(0, mostAddresses),
      language: text('language', longest.language), note: text('note', longest.note),
    },
    unread: [...unread, ...[...numbers.keys()].slice(mostNumbers)],
  }
}

/** Contacts as CSV, with as many columns for numbers as the one with the most has of each kind. */
export function contactTable(contacts: readonly CardContact[]): string {
  const most = (kind: NumberKind) => Math.max(0, ...contacts.map(({ numbers }) => numbers.filter(one => one.kind === kind).length))
  const kinds = numberKinds.flatMap(kind => Array.from({ length: most(kind) }, (_, at) => ({ kind, at })))
  const numbers = kinds.map(({ kind, at }) => `${kind} number${at > 0 ? ` ${at + 1}` : ''}`)
  const columns = ['uid', 'kind', 'name', 'company', ...numbers, 'email', 'category', 'language', 'note']
  return writeTable(columns, contacts.map(contact => [
    contact.uid ?? '', contact.kind, contact.name, contact.kind === 'company' ? contact.name : contact.company ?? '',
    ...kinds.map(({ kind, at }) => contact.numbers.filter(one => one.kind === kind)[at]?.number ?? ''),
    contact.addresses.join(' '), contact.category, contact.language, contact.note,
  ]))
}
