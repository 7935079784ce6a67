import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inEnglish } from '../../words/in-english'
import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { textOf } from './encoding'
import { escaped, folded, lineText, partsOf, readLine, textValue, unfolded } from './content-line'
import { type CardContact, cardsOf, cardText as cardTextIn, type CardVersion, contactOf as contactIn, leftOut } from './vcard'

const home = { country: 'GB', longestInside: 5 }
const contactOf = (lines: readonly string[]) => contactIn(lines, home)
const cardText = (contact: CardContact, before: readonly string[], version: CardVersion) => cardTextIn(contact, before, version, home)

const bytes = (text: string) => new TextEncoder().encode(text)
const one = (lines: string[], end = '\r\n') => cardsOf(textOf(bytes(['BEGIN:VCARD', ...lines, 'END:VCARD', ''].join(end))))[0]!
const linesOf = (lines: string[]) => {
  const card = one(lines)
  if ('fault' in card) throw new Error(card.fault.key)
  return card.lines
}

/** Cards in the manner of several address books. */
const manners: Record<string, string[]> = {
  'a telephone with grouped labels': [
    'VERSION:3.0', 'N:Thistlewood;Nell;;Dr;', 'FN:Dr Nell Thistlewood', 'ORG:Northgate Stores;Despatch', 'item1.TEL;type=pref;TYPE=CELL,VOICE:+44 7700 900123',
    'item1.X-ABLabel:_$!<Mobile>!$_', 'item2.ADR;type=HOME:;;1 Quay Street;Merrowby;;MQ1 1AA;', 'item2.X-ABADR:gb', 'TEL;TYPE=HOME,FAX:020 7946 0999',
    'EMAIL;TYPE=INTERNET:nell@northgate.example', 'NOTE:Rings early\\, and often.\\nSpeak up.', 'CATEGORIES:Freight,Friends', 'BDAY:1980-02-03',
    'PHOTO;ENCODING=b;TYPE=JPEG:/9j/4AAQSkZJRgABAQAAAQABAAD', 'X-SOMETHING;X-ODD="a;b:c":some\\; thing, other', 'UID:abc-1', 'REV:2026-01-02T03:04:05Z',
  ],
  'a program of version 4': [
    'VERSION:4.0', 'UID:urn:uuid:4fbe8971-0bc3-424c-9c26-36c3e1eff6b1', 'FN:Åse Ødegård', 'N:Ødegård;Åse;;;',
    'TEL;VALUE=uri;TYPE="voice,work";PREF=1:tel:+44-20-7946-0123;ext=5',
    'TEL;VALUE=uri;TYPE=cell:tel:+447700900456', 'EMAIL;PREF=1:ase@fjord.example', 'LANG:nb', 'GENDER:F', 'PHOTO:data:image/png;base64,iVBORw0KGgo=',
    'RELATED;VALUE=text:Please call Nell, not Åse', 'ORG:Fjord Freight', 'KEY;MEDIATYPE=application/pgp-keys:https://keys.example/a',
  ],
  'one with no more than a company': ['VERSION:3.0', 'N:;;;;', 'FN:Northgate Stores', 'ORG:Northgate Stores;', 'TEL;TYPE=WORK:020 7946 0100'],
}

describe('a vCard', () => {
  it('says who it is, how they are reached, and where they belong', () => {
    expect(contactOf(linesOf(manners['a telephone with grouped labels']!))).toEqual({
      uid: 'abc-1', kind: 'person', name: 'Dr Nell Thistlewood', company: 'Northgate Stores', category: 'Freight',
      numbers: [{ number: '+447700900123', kind: 'mobile' }], addresses: ['nell@northgate.example'], language: '', note: 'Rings early, and often.\nSpeak up.',
    })
    expect(contactOf(linesOf(manners['a program of version 4']!))).toMatchObject({
      name: 'Åse Ødegård', company: 'Fjord Freight', language: 'nb',
      numbers: [{ number: '+442079460123', kind: 'work' }, { number: '+447700900456', kind: 'mobile' }],
    })
    expect(contactOf(linesOf(manners['one with no more than a company']!))).toMatchObject({ kind: 'company', name: 'Northgate Stores', company: null })
  })

  for (const [manner, lines] of Object.entries(manners)) {
    it(`in the manner of ${manner} comes out again without loss, in its own version`, () => {
      const before = linesOf(lines)
      const version = lines[0] === 'VERSION:4.0' ? '4.0' as const : '3.0' as const
      const out = unfolded(textOf(bytes(cardText(contactOf(before), before, version)))).map(({ line }) => line)
      expect([...out].sort()).toEqual(['BEGIN:VCARD', ...lines, 'END:VCARD'].map(line => line.replace(/;type=/g, ';TYPE=')).sort())
    })

    it(`in the manner of ${manner} says the same after it has been written in the other version, and back`, () => {
      const before = linesOf(lines)
      const there = cardsOf(cardText(contactOf(before), before, '4.0'))[0] as { lines: string[] }
      const back = cardsOf(cardText(contactOf(there.lines), there.lines, '3.0'))[0] as { lines: string[] }
      expect(contactOf(there.lines)).toEqual(contactOf(before))
      expect(contactOf(back.lines)).toEqual(contactOf(before))
      const picture = (from: string[]) => from.find(line => line.startsWith('PHOTO'))
      expect(picture(there.lines)?.startsWith('PHOTO:data:image/')).toBe(picture(before) ? true : undefined)
    })
  }

  it('of version 2.1 is read: quoted-printable over several lines, charsets, kinds without a name', () => {
    const text = 'BEGIN:VCARD\nVERSION:2.1\nN;CHARSET=ISO-8859-1;ENCODING=QUOTED-PRINTABLE:D=E5hl;M=E1rit\n'
      + 'NOTE;ENCODING=QUOTED-PRINTABLE;CHARSET=UTF-8:first=0D=0A=\nsecond =C3=A9\nTEL;CELL;PREF:+447700900123\nTEL;WORK;FAX:+442079460999\nEND:VCARD\n'
    const [card] = cardsOf(textOf(bytes(text)))
    expect(contactOf((card as { lines: string[] }).lines)).toMatchObject({
      name: 'Márit Dåhl', note: 'first\nsecond é', numbers: [{ number: '+447700900123', kind: 'mobile' }],
    })
  })

  it('of version 2.1 says the same in the others: backslashes, commas, semicolons, line breaks and data as they are written there', () => {
    const old = [
      'VERSION:2.1', 'N:Dahl, the elder;Marit\\;Anne;;;', 'FN:Dahl, Marit', 'NOTE;ENCODING=QUOTED-PRINTABLE:C:\\nets, ropes; lines=0D=0Asecond',
      'ORG:Nets, Ropes;Store',
      'TITLE:Head\\;first', 'PHOTO;JPEG;BASE64:/9j/4AAQ', 'X-ODD:a\\,b',
    ]
    const before = linesOf(old)
    expect(before.slice(1)).toEqual([
      'N:Dahl\\, the elder;Marit\\;Anne;;;', 'FN:Dahl\\, Marit', 'NOTE:C:\\\\nets\\, ropes\\; lines\\nsecond', 'ORG:Nets\\, Ropes;Store', 'TITLE:Head\\;first',
      'PHOTO;TYPE=JPEG;ENCODING=BASE64:/9j/4AAQ', 'X-ODD:a\\,b',
    ])
    expect(contactOf(before)).toMatchObject({ name: 'Dahl, Marit', company: 'Nets, Ropes', note: 'C:\\nets, ropes; lines\nsecond' })
    expect(cardText(contactOf(before), before, '3.0')).toContain('PHOTO;ENCODING=b;TYPE=JPEG:/9j/4AAQ')
    expect(cardText(contactOf(before), before, '4.0')).toContain('PHOTO:data:image/jpeg;base64,/9j/4AAQ')
  })

  it.each([
    ['BDAY:1980-02-03', 'BDAY:19800203'], ['BDAY;VALUE=date-time:1980-02-03T04:05:06Z', 'BDAY;VALUE=date-time:19800203T040506Z'],
    ['X-BDAY:--0203', 'BDAY:--0203'],
    ['REV:2026-01-02T03:04:05Z', 'REV:20260102T030405Z'], ['REV:2026-01-02T03:04:05+01:00', 'REV:20260102T030405+0100'],
    ['GEO:54.5;-1.25', 'GEO:geo:54.5,-1.25'], ['TZ:-05:00', 'TZ;VALUE=utc-offset:-0500'], ['UID:abc-1', 'UID;VALUE=text:abc-1'],
    ['UID:urn:uuid:1', 'UID:urn:uuid:1'], ['LANGUAGE:nb', 'LANG:nb'], ['EMAIL;TYPE=pref:a@b.example', 'EMAIL;PREF=1:a@b.example'],
    ['ADR;TYPE=home;TYPE=pref:;;1 Quay;;;;', 'ADR;TYPE=home;PREF=1:;;1 Quay;;;;'],
    ['PHOTO;ENCODING=b;TYPE=PNG:iVBORw0KGgo=', 'PHOTO:data:image/png;base64,iVBORw0KGgo='],
  ])('writes in version 3.0 %s, in 4.0 %s', (in3, in4) => {
    const written = (line: string, version: CardVersion) => {
      const card = [line, 'FN:A', 'N:A;;;;']
      return unfolded(cardText(contactOf(card), card, version)).map(one => one.line)
    }
    expect(written(in3, '4.0')).toContain(in4)
    expect(written(in4, '3.0')).toContain(in3)
    // What is in the wanted version already comes out as it went in.
    expect(written(in3, '3.0')).toContain(in3)
    expect(written(in4, '4.0')).toContain(in4)
  })

  it('written in version 3.0 prefers what was preferred most, and says extensions as people do', () => {
    const before = linesOf([
      'VERSION:4.0', 'FN:A', 'TEL;VALUE=uri;PREF=50:tel:+442079460123', 'TEL;VALUE=uri;PREF=2;TYPE=work:tel:+442079460124;ext=5', 'EMAIL;PREF=100:a@b.example',
      'EMAIL:c@b.example', 'TEL;TYPE=home;PREF=x:+442079460125',
    ])
    const lines = unfolded(cardText(contactOf(before), before, '3.0')).map(({ line }) => line)
    expect(lines).toEqual(expect.arrayContaining([
      'TEL:+442079460123', 'TEL;TYPE=work;TYPE=pref:+442079460124 ext. 5', 'EMAIL;TYPE=pref:a@b.example', 'EMAIL:c@b.example', 'TEL;TYPE=home:+442079460125',
    ]))
    expect(contactOf(before).numbers.map(({ number }) => number)).toEqual(['+442079460123', '+442079460124', '+442079460125'])
  })

  it('with more than is kept says what is left out', () => {
    const many = Array.from({ length: 23 }, (_, at) => [`TEL:+4420794601${at + 10}`, `EMAIL:a${at}@b.example`]).flat()
    expect(inEnglish(leftOut(['FN:A', `NOTE:${'n'.repeat(1_001)}`, ...many], home)))
      .toEqual(['3 numbers (20 are kept)', '13 addresses (10 are kept)', 'the note after 1000 letters'])
    expect(inEnglish(leftOut([`FN:${'A'.repeat(101)}`], home))).toEqual(['the name after 100 letters'])
    expect(leftOut([`FN:${'A'.repeat(100)}`, `NOTE:${'n'.repeat(1_000)}`, ...many.slice(0, 20)], home)).toEqual([])
  })

  it('is read in any of several encodings and with any line ends', () => {
    const text = (end: string) => ['BEGIN:VCARD', 'VERSION:3.0', 'FN:Åse Østberg', 'END:VCARD'].join(end)
    const utf16 = Uint8Array.from([0xFF, 0xFE, ...[...text('\r\n')].flatMap(letter => [letter.charCodeAt(0) & 255, letter.charCodeAt(0) >> 8])])
    const latin1 = Uint8Array.from([...text('\r')].map(letter => letter.charCodeAt(0)))
    const unmarked = utf16.subarray(2)
    const bigEnded = Uint8Array.from(unmarked, (_, at) => unmarked[at ^ 1]!)
    for (const file of [unmarked, bigEnded, bytes(text('\n')), bytes(`\uFEFF${text('\r\n')}`), utf16, latin1])
      expect(contactOf((cardsOf(textOf(file))[0] as { lines: string[] }).lines).name).toBe('Åse Østberg')
  })

  it('that can\'t be read says why, and the others are read all the same', () => {
    const huge = `PHOTO;ENCODING=b:${'A'.repeat(2_000_000)}`
    const cards = cardsOf([
      'BEGIN:VCARD', 'FN:Good', 'END:VCARD', 'rubbish between', 'BEGIN:VCARD', 'no line at all', 'END:VCARD', 'BEGIN:VCARD', 'END:VCARD',
      'BEGIN:VCARD', huge, 'END:VCARD', 'BEGIN:VCARD', 'FN:Also good', 'AGENT:', 'BEGIN:VCARD', 'FN:Inner', 'END:VCARD', 'END:VCARD', 'BEGIN:VCARD', 'FN:Cut',
    ].join('\n'))
    expect(cards.map(card => 'fault' in card ? spoken(english, card.fault).split(':')[0] : contactOf(card.lines).name)).toEqual([
      'Good', 'This is no line of a card', 'The card is empty.', 'The card is too large', 'Also good', 'The card has no end (END',
    ])
  })

  it('with a thousand numbers keeps twenty to call, and all of them in the card; a script in a name is a name', () => {
    const numbers = Array.from({ length: 1_000 }, (_, at) => `TEL:+44207946${String(at).padStart(4, '0')}`)
    const before = linesOf(['FN:<script>alert(1)</script>', ...numbers])
    const contact = contactOf(before)
    expect(contact.name).toBe('<script>alert(1)</script>')
    expect(contact.numbers).toHaveLength(20)
    expect(cardText(contact, before, '3.0').match(/^TEL:/gm)).toHaveLength(1_000)
  })

  it('says what has been changed here, and nothing of it twice', () => {
    const before = linesOf(manners['a telephone with grouped labels']!)
    const was = contactOf(before)
    const now = { ...was, name: 'Nell Ravel', numbers: [{ number: '+442079460555', kind: 'work' as const }], note: '', addresses: [] }
    const text = cardText(now, before, '3.0')
    const again = contactOf((cardsOf(text)[0] as { lines: string[] }).lines)
    expect(again).toEqual(now)
    expect(text).not.toContain('X-ABLabel')
    expect(text).toContain('item2.X-ABADR:gb')
  })

  it('holds any text: what is written is read again, and no line is longer than 75 octets', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme', maxLength: 300 }), fc.string({ maxLength: 40 }), (text, other) => {
      const clean = text.replace(/\r\n?/g, '\n')
      const line = { group: null, name: 'NOTE', parameters: [], value: escaped(text) }
      const written = folded(lineText(line))
      for (const part of written.split('\r\n')) expect(bytes(part).length).toBeLessThanOrEqual(75)
      const [read] = unfolded(textOf(bytes(written)))
      expect(textValue(readLine(read!.line)!.value)).toBe(clean)
      expect(partsOf(`${escaped(text)};${escaped(other)}`, ';')).toEqual([clean, other.replace(/\r\n?/g, '\n')])
    }))
  })

  it('never fails, whatever the file is', () => {
    const pieces = ['BEGIN:VCARD\n', 'END:VCARD\n', 'FN:A\n', 'TEL;TYPE="', ';ENCODING=QUOTED-PRINTABLE:=4\n', ' folded\n', 'N:;;\n', 'ORG:x\n']
    const part = fc.oneof(fc.constantFrom(...pieces), fc.string())
    fc.assert(fc.property(fc.array(part, { maxLength: 20 }), fc.constantFrom('3.0' as const, '4.0' as const), (parts, version) => {
      for (const card of cardsOf(parts.join(''))) if ('lines' in card) cardText(contactOf(card.lines), card.lines, version)
    }))
  })
})
