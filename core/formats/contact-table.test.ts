import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inEnglish } from '../../words/in-english'
import { plainText } from '../calls/text'
import { readContactFile } from './contact-file'
import { contactOfRow, contactTable, guessed } from './contact-table'
import { readTable } from './csv'
import { textOf } from './encoding'

const home = { country: 'GB', longestInside: 5 }

const table = (text: string) => {
  const read = readTable(text, 5_000)
  if ('fault' in read) throw new Error(read.fault.key)
  return read
}
const contacts = (text: string) => {
  const read = table(text)
  const as = guessed(read)
  return read.rows.map(row => contactOfRow(row, as, home))
}

describe('contacts as a table', () => {
  it('are understood by the names of their columns, whichever program wrote them', () => {
    expect(guessed({ columns: ['First Name', 'Last Name', 'Company', 'Business Phone', 'Mobile Phone', 'E-mail Address', 'Notes'] }))
      .toEqual(['first', 'last', 'company', 'work', 'mobile', 'address', 'note'])
    expect(guessed({ columns: ['Name', 'Organisation', 'Tel', 'Handy', 'Fax', 'Phone 1 - Type', 'Group Membership', 'UID'] }))
      .toEqual(['name', 'company', 'work', 'mobile', 'nothing', 'nothing', 'category', 'uid'])
    expect(guessed({ columns: ['Vorname', 'Nachname', 'Firma', 'Telefon (privat)', 'Sprache'] })).toEqual(['first', 'last', 'company', 'home', 'language'])
  })

  it.each([
    ['Nombre;Apellidos;Empresa;Teléfono;Móvil;Correo electrónico;Notas', ['first?', 'last', 'company', 'work', 'mobile', 'address', 'note']],
    ['Nome;Cognome;Azienda;Telefono ufficio;Cellulare;Posta elettronica;Note', ['first?', 'last', 'company', 'work', 'mobile', 'address', 'note']],
    ['Förnamn;Efternamn;Företag;Telefon arbete;Mobil;E-post;Anteckningar', ['first', 'last', 'company', 'work', 'mobile', 'address', 'note']],
    ['Imię;Nazwisko;Firma;Telefon służbowy;Telefon domowy;E-mail;Uwagi', ['first', 'last', 'company', 'work', 'home', 'address', 'note']],
    ['Fornavn;Efternavn;Virksomhed;Tlf. arbejde;Mobil;E-mail;Bemærkninger', ['first', 'last', 'company', 'work', 'mobile', 'address', 'note']],
    ['Voornaam;Achternaam;Bedrijf;Telefoon werk;Mobiel;E-mail;Opmerkingen', ['first', 'last', 'company', 'work', 'mobile', 'address', 'note']],
    ['Vorname;Nachname;Firma;Telefon geschäftlich;Handy;E-Mail;Notizen', ['first', 'last', 'company', 'work', 'mobile', 'address', 'note']],
    ['Prénom;Nom;Société;Téléphone;Portable;Courriel;Remarques', ['first', 'last?', 'company', 'work', 'mobile', 'address', 'note']],
  ])('are understood in other languages: %s', (columns, meanings) => {
    expect(guessed({ columns: columns.split(';') })).toEqual(meanings.map(one => one.replace('?', '')))
  })

  it('are read with pipes, with a line that says what divides, and keep the lines of a note', () => {
    expect(contacts('name|work|note\nNell|020 7946 0100|"first\n\n\n\nsecond  line"\n')).toMatchObject([
      { contact: { name: 'Nell', numbers: [{ number: '+442079460100' }], note: 'first\n\nsecond line' } },
    ])
    expect(contacts('sep=;\r\nname;note\r\nNell;a, b, c, d\r\n')).toMatchObject([{ contact: { name: 'Nell', note: 'a, b, c, d' } }])
    expect(contacts('\uFEFF"sep=|"\nname|note\nNell;x|a\n')).toMatchObject([{ contact: { name: 'Nell;x', note: 'a' } }])
    expect(readTable('sep=;\nname;note\nNell;a\n', 9)).toMatchObject({ lines: [3] })
  })

  it('with an extension behind a number say that it is not kept', () => {
    expect(inEnglish(contacts('name,work\nNell,020 7946 0100;ext=23\nAda,020 7946 0101 x4; 020 7946 0102\n'))).toMatchObject([
      { contact: { numbers: [{ number: '+442079460100' }] }, left: ['the extension of 020 7946 0100;ext=23'] },
      { contact: { numbers: [{ number: '+442079460101' }, { number: '+442079460102' }] }, left: ['the extension of 020 7946 0101 x4'] },
    ])
  })

  it('with more than is kept say what is left out', () => {
    const numbers = Array.from({ length: 21 }, (_, at) => `+4420794601${at + 10}`).join(';')
    const addresses = Array.from({ length: 11 }, (_, at) => `a${at}@b.example`).join(' ')
    expect(inEnglish(contacts(`name,work,email,note\nNell,"${numbers}","${addresses}",${'n'.repeat(1_001)}\n`)))
      .toMatchObject([{ left: ['1 numbers (20 are kept)', '1 addresses (10 are kept)', 'the note after 1000 letters'], unread: [] }])
  })

  it('are read with semicolons, quotes, a byte order mark and in Latin-1', () => {
    const text = '\uFEFFname;company;mobile;work\r\n"Dahl; Marit";"Northgate ""Stores""";07700 900123;"020 7946 0100 / 020 7946 0101"\r\n'
    expect(contacts(text)).toMatchObject([{
      contact: {
        kind: 'person', name: 'Dahl; Marit', company: 'Northgate "Stores"',
        numbers: [{ number: '+442079460100', kind: 'work' }, { number: '+442079460101', kind: 'work' }, { number: '+447700900123', kind: 'mobile' }],
      },
      unread: [],
    }])
    const latin1 = Uint8Array.from([...'name,work\nÅse Øvrebø,020 7946 0100\n'].map(letter => letter.charCodeAt(0)))
    expect(contacts(textOf(latin1))).toMatchObject([{ contact: { name: 'Åse Øvrebø' } }])
  })

  it('say what is wrong with a row, and which numbers can\'t be called', () => {
    expect(inEnglish(contacts('name,work\n,020 7946 0100\nNell,12\n'))).toEqual([
      { fault: 'Nobody is named: a name or a company is needed.' }, expect.objectContaining({ unread: ['12'] }),
    ])
    expect(inEnglish(readTable('name\n', 5))).toMatchObject({ fault: expect.stringContaining('no rows') as string })
    expect(inEnglish(readTable('name\na\nb\n', 1))).toMatchObject({ fault: expect.stringContaining('divide it') as string })
    expect(inEnglish(readTable('name\n"a\n', 5))).toMatchObject({ fault: expect.stringContaining('can\'t be read as CSV') as string })
  })

  it('come back as they went out, and no cell is a formula', () => {
    const word = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }).map(text => text.replace(/[\s\p{C}]+/gu, ' ').trim())
      // What looks empty is read as nothing.
      .filter(text => plainText(text, Infinity) === text && text !== '' && !text.startsWith('\''))
    const number = fc.record({
      number: fc.integer({ min: 0, max: 9_999 }).map(end => `+44207946${String(end).padStart(4, '0')}`),
      kind: fc.constantFrom('work' as const, 'mobile' as const, 'home' as const),
    })
    const contact = fc.record({
      uid: fc.option(fc.uuid()), kind: fc.constant('individual' as const), name: fc.oneof(word, fc.constantFrom('=1+1', '-Nell', '@home', '+44', '＝1')),
      company: fc.constant(null), category: fc.constant(''), numbers: fc.uniqueArray(number, { maxLength: 5, selector: one => one.number }),
      addresses: fc.constant<string[]>([]), language: fc.constant(''), note: fc.oneof(word, fc.constant(''), fc.constant('=cmd()')),
    })
    fc.assert(fc.property(fc.array(contact, { minLength: 1, maxLength: 8 }), (some) => {
      const text = contactTable(some)
      for (const row of table(`a${text}`).rows) expect(row.length).toBeGreaterThan(0)
      // Read by itself: a comma or a quotation mark within a cell divides nothing.
      expect(parse(text).slice(1).flat().filter(cell => /^[=+\-@＝＋－＠]/.test(cell))).toEqual([])
      const byKind = (all: { kind: string, number: string }[]) => [...all].sort((a, b) => a.kind < b.kind ? -1 : a.kind > b.kind ? 1 : 0)
      expect(contacts(text).map(read => 'contact' in read && { ...read.contact, numbers: byKind(read.contact.numbers) }))
        .toEqual(some.map(one => ({ ...one, numbers: byKind(one.numbers) })))
    }))
  })
})

describe('a file of contacts', () => {
  const read = (text: string) => inEnglish(readContactFile(new TextEncoder().encode(text), home))

  it('is read as what it is, and what stands in it twice is refused the second time', () => {
    expect(read('BEGIN:VCARD\nFN:Nell\nUID:1\nTEL:12\nEND:VCARD\nBEGIN:VCARD\nFN:Nell again\nUID:1\nEND:VCARD\nBEGIN:VCARD\nNOTE:x\nEND:VCARD')).toMatchObject({
      columns: null,
      rows: [
        { at: 1, said: { name: 'Nell', card: ['FN:Nell', 'UID:1', 'TEL:12'] }, unread: ['12'] },
        { at: 6, said: null, fault: 'The same stands at 1 of the file already.' }, { at: 10, said: null, fault: expect.stringContaining('Nobody') as string },
      ],
    })
    expect(read('name,work\nNell,020 7946 0100\nnell,020 7946 0100\n')).toMatchObject({
      columns: { names: ['name', 'work'], as: ['name', 'work'] }, rows: [{ at: 2 }, { at: 3, said: null, fault: 'The same stands at 2 of the file already.' }],
    })
    expect(read('  ')).toEqual({ fault: 'The file is empty.' })
  })
})
