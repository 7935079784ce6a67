import { phrase, type Phrase } from '../../words/phrase'
import { plainLines, plainText } from '../calls/text'
import { fold } from '../directory/folding'
import { type Home, readDialled } from '../numbers/dialled'
import { spelled } from '../numbers/spelling'
import { beyond, longest, type Meaning, mostAddresses, mostNumbers } from './contact-fields'
import { type NumberKind, numberKinds } from './number-kinds'
import { type Table, writeTable } from './csv'
import type { CardContact } from './vcard'

/** Contacts as a table: what a column holds is guessed from its name, and can be said otherwise. */

/** One of several words, parted by spaces. */
const anyOf = (words: string) => `\\b(?:${words.trim().split(/\s+/).join('|')})\\b`
const telephone = anyOf('phone telephone tel number telefon telefoon telefono telefone numero nummer numer tlf tfn')
const homes = anyOf('home priv\\w* casa hem hjem thuis domic\\w* prywatn\\w* dom\\w*')

/** Words of a column's name that say what it holds, in the languages around, the more particular first. */
const words: [Meaning, RegExp][] = ([
  ['nothing', anyOf('fax pager type label telefax faks')],
  ['uid', '^(?:uid|id|key|contact id)$'],
  ['address', `mail|e post|posta elettronica|${anyOf('epost correo courriel')}`],
  ['mobile', anyOf('mobile cell cellular handy mobil mobiltelefon mobilnummer mobiel portable movil celular cellulare komorka komorkowy')],
  ['home', `${homes}.*${telephone}|${telephone}.*${homes}|^(?:home|casa|privat|hjem|hem|thuis)$`],
  ['other', anyOf('other second otro altro annan anden inny ander andere sonstige')],
  ['company', anyOf(`company organi[sz]ation firm firma employer unternehmen societe account empresa azienda societa ditta foretag virksomhed bedrijf
    organisatie przedsiebiorstwo entreprise`)],
  ['work', `${telephone}|${anyOf(`work business office direct main trabajo oficina lavoro ufficio arbete arbejde jobb werk kantoor praca sluzbowy geschaftlich
    dienstlich`)}`],
  ['first', `nombre de pila|nome proprio|${anyOf('first given forename christian vorname prenom voornaam fornamn fornavn imie')}`],
  ['last', `nom de famille|${anyOf(`last family surname nachname familienname achternaam middle apellido apellidos cognome efternamn efternavn etternavn
    nazwisko`)}`],
  ['name', anyOf('name full display contact nom naam nombre nome namn navn nazwa kontakt')],
  ['category', anyOf(`category categories group groups tag tags list kategorie kategorien categorie categoria categorias grupo gruppo gruppe kategori kategoria
    grupa groep`)],
  ['language', anyOf('language sprache langue taal idioma lingua sprak sprog jezyk')],
  ['note', anyOf(`note notes comment comments remark remarks notiz notizen bemerkung bemerkungen anmerkung kommentar description nota notas notat anteckning
    anteckningar bemaerkning bemaerkninger notitie notities opmerking opmerkingen uwagi notatka remarque remarques observaciones`)],
  ['kind', '^kind$'],
] as [Meaning, string][]).map(([meaning, pattern]) => [meaning, new RegExp(pattern)])

/** What each column probably holds. A meaning that only one column can have goes to the first. */
export function guessed({ columns }: Pick<Table, 'columns'>): Meaning[] {
  const taken = new Set<Meaning>()
  const found = columns.map((column) => {
    const text = fold(column).replace(/[^a-z0-9]+/g, ' ').trim()
    const found = words.find(([meaning, word]) => word.test(text) && !taken.has(meaning))?.[0] ?? 'nothing'
    if (!several.has(found)) taken.add(found)
    return found
  })
  // Beside a column of first names one of names holds last names, and the other way round.
  const missing = taken.has('first') === taken.has('last') ? null : taken.has('first') ? 'last' : 'first'
  return found.map(meaning => meaning === 'name' && missing ? missing : meaning)
}

const several = new Set<Meaning>(['nothing', 'note', 'address', ...numberKinds])

/** `unread`: numbers that can't be called; `left`: what is more than is kept. */
interface RowContact { contact: CardContact, unread: string[], left: Phrase[] }

/** What a row says of a contact, and the numbers in it that can't be called; or what is wrong with it. */
export function contactOfRow(row: readonly string[], as: readonly Meaning[], home: Home): RowContact | { fault: Phrase } {
  const cells = (meaning: Meaning) => row.filter((cell, at) => as[at] === meaning && cell.trim() !== '')
  const text = (meaning: Meaning, most: number) => plainText(cells(meaning).join(' / '), most)
  const company = text('company', longest.name)
  const name = text('name', longest.name) || plainText(`${cells('first').join(' ')} ${cells('last').join(' ')}`, longest.name) || company
  if (name === '') return { fault: phrase('files.rowOfNobody') }
  const unread: string[] = []
  const extensions: Phrase[] = []
  const numbers = new Map<string, { number: string, kind: NumberKind }>()
  for (const kind of numberKinds) {
    for (const one of cells(kind).flatMap(cell => cell.split(/[\n|]|;(?!\s*ext)|\s\/\s/)).map(part => part.trim()).filter(Boolean)) {
      const dialled = readDialled(one, home)
      if (dialled.kind === 'outside' && spelled(one)?.extension) extensions.push(phrase('files.theExtensionOf', { number: plainText(one, 40) }))
      if (dialled.kind === 'outside' && !numbers.has(dialled.e164)) numbers.set(dialled.e164, { number: dialled.e164, kind })
      else if (dialled.kind !== 'outside') unread.push(plainText(one, 40))
    }
  }
  const addresses = cells('address').flatMap(cell => cell.split(/[\s;,]+/)).filter(one => /^\S+@\S+$/.test(one) && one.length <= longest.address)
    .map(one => plainText(one, longest.address))
  const note = cells('note').join('\n')
  const said = text('kind', 20)
  const kind = said === 'company' || said === 'person' || said === 'individual'
    ? said
    : company === '' ? 'individual' : company === name ? 'company' : 'person'
  return {
    contact: {
      uid: text('uid', longest.uid) || null, kind, name, company: kind === 'person' && company !== '' ? company : null,
      category: text('category', longest.category), numbers: [...numbers.values()].slice(0, mostNumbers),
      addresses: addresses.slice(0, mostAddresses), language: text('language', longest.language), note: plainLines(note, longest.note),
    },
    unread,
    left: [...extensions, ...beyond({
      numbers: numbers.size, addresses: addresses.length, name: Math.max(0, ...cells('name').map(({ length }) => length)),
      note: plainLines(note, Infinity).length,
    })],
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
