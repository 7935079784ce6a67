import { phrase, type Phrase } from '../../words/phrase'
import { plainLines, plainText } from '../calls/text'
import { type Home, readDialled } from '../numbers/dialled'
import { beyond, longest, mostAddresses, mostNumbers } from './contact-fields'
import type { NumberKind } from './number-kinds'
import { inVersion3, inVersion4, preferredOf } from './card-version'
import { type ContentLine, escaped, folded, lineText, parameterOf, partsOf, readLine, readOldLine, textValue, unfolded } from './content-line'

/**
 * vCards (RFC 2426, version 3.0; RFC 6350, version 4.0; 2.1 is read too). A contact keeps the lines of the card that it came from, and what is written out is
 * those lines, but for what has been changed here: what is not understood comes out as it went in.
 */
export type CardVersion = '3.0' | '4.0'

/** What a card says of somebody outside, as far as it is understood. */
export interface CardContact {
  uid: string | null
  kind: 'company' | 'person' | 'individual'
  name: string
  /** The name of the company of a person. */
  company: string | null
  category: string
  /** In E.164. */
  numbers: { number: string, kind: NumberKind }[]
  addresses: string[]
  language: string
  note: string
}

/** One card of a file: the number of its first line, and its lines, or why it can't be read. */
export type Card = { at: number, lines: string[] } | { at: number, fault: Phrase }

/** Characters: a photograph may be large, a whole album is none. */
const longestCard = 1_500_000

/** The cards of a file, in their order. */
export function cardsOf(text: string): Card[] {
  const cards: Card[] = []
  let open: { at: number, lines: string[], size: number, depth: number } | null = null
  for (const { at, line } of unfolded(text)) {
    if (/^BEGIN:VCARD\s*$/i.test(line)) {
      if (open) open.depth++
      else {
        open = { at, lines: [], size: 0, depth: 1 }
        continue
      }
    }
    if (!open) continue
    if (/^END:VCARD\s*$/i.test(line) && --open.depth === 0) {
      cards.push(finished(open))
      open = null
      continue
    }
    open.size += line.length
    if (open.size <= longestCard) open.lines.push(line)
  }
  if (open) cards.push({ at: open.at, fault: phrase('files.cardWithoutEnd') })
  return cards
}

function finished({ at, lines, size }: { at: number, lines: string[], size: number }): Card {
  if (size > longestCard) return { at, fault: phrase('files.cardTooLarge') }
  const isOld = lines.some(line => /^VERSION:\s*2\.1\s*$/i.test(line))
  const read = lines.map(line => isOld ? readOldLine(line) : readLine(line))
  const wrong = read.findIndex(line => line === null)
  if (wrong >= 0) return { at, fault: phrase('files.noLineOfACard', { line: plainText(lines[wrong]!, 60) }) }
  const kept = (read as ContentLine[]).filter(({ name }) => name !== 'BEGIN' && name !== 'END')
  return kept.some(({ name }) => name !== 'VERSION') ? { at, lines: kept.map(lineText) } : { at, fault: phrase('files.cardIsEmpty') }
}

/** What the lines of a card say; the name is empty when they name nobody. */
export function contactOf(lines: readonly string[], home: Home): CardContact {
  const read = lines.flatMap(line => readLine(line) ?? [])
  const all = (name: string) => read.filter(line => line.name === name)
  const text = (name: string) => textValue(all(name)[0]?.value ?? '')
  const company = plainText(partsOf(all('ORG')[0]?.value ?? '', ';')[0]!, longest.name)
  const [last = '', first = '', middle = '', before = '', after = ''] = partsOf(all('N')[0]?.value ?? '', ';')
  const name = plainText(text('FN') || [before, first, middle, last, after].filter(Boolean).join(' '), longest.name) || company
  const isCompany = /^org$/i.test(text('KIND')) || (company !== '' && name === company)
  return {
    uid: plainText(text('UID'), longest.uid) || null,
    kind: isCompany ? 'company' : company === '' ? 'individual' : 'person',
    name,
    company: isCompany || company === '' ? null : company,
    category: plainText(partsOf(all('CATEGORIES')[0]?.value ?? '', ',')[0]!, longest.category),
    numbers: firstOfEach(all('TEL').flatMap(line => numberOf(line, home) ?? []), ({ number }) => number).slice(0, mostNumbers),
    addresses: firstOfEach(all('EMAIL').flatMap(line => addressOf(line) ?? []), one => one.toLowerCase()).slice(0, mostAddresses),
    language: plainText(text('LANG') || text('LANGUAGE'), longest.language),
    note: plainLines(text('NOTE'), longest.note),
  }
}

/** A number that can be called; those of fax machines and pagers can't, nor what is no number. */
function numberOf(line: ContentLine, home: Home): { number: string, kind: NumberKind } | null {
  const types = parameterOf(line, 'TYPE').flatMap(type => type.toLowerCase().split(','))
  if (types.some(type => type === 'fax' || type === 'pager' || type === 'modem')) return null
  const dialled = readDialled(textValue(line.value), home)
  if (dialled.kind !== 'outside') return null
  const kind = types.some(type => type === 'cell' || type === 'mobile') ? 'mobile' : types.includes('home') ? 'home' : types.includes('work') ? 'work' : 'other'
  return { number: dialled.e164, kind }
}

/** Numbers of a card that can't be called, as they stand there; those of fax machines and pagers are none to call. */
export function unreadNumbers(lines: readonly string[], home: Home): string[] {
  const telephones = lines.flatMap(line => readLine(line) ?? []).filter(({ name }) => name === 'TEL')
  return telephones.flatMap((line) => {
    const called = parameterOf(line, 'TYPE').every(type => !/\b(fax|pager|modem)\b/i.test(type))
    return called && numberOf(line, home) === null ? [plainText(textValue(line.value), 40)] : []
  })
}

/** What of a card is more than is kept of a contact; the card itself keeps it. */
export function leftOut(lines: readonly string[], home: Home): Phrase[] {
  const read = lines.flatMap(line => readLine(line) ?? [])
  const all = (name: string) => read.filter(line => line.name === name)
  const most = (name: string) => Math.max(0, ...all(name).map(({ value }) => plainLines(textValue(value), Infinity).length))
  return beyond({
    numbers: new Set(all('TEL').flatMap(line => numberOf(line, home)?.number ?? [])).size,
    addresses: new Set(all('EMAIL').flatMap(line => addressOf(line)?.toLowerCase() ?? [])).size,
    name: most('FN'),
    note: most('NOTE'),
  })
}

function addressOf({ value }: ContentLine): string | null {
  const text = textValue(value).trim()
  return text.length <= longest.address && /^\S+@\S+$/.test(text) ? plainText(text, longest.address) : null
}

function firstOfEach<T>(all: readonly T[], key: (one: T) => string): T[] {
  return [...new Map([...all].reverse().map(one => [key(one), one])).values()].reverse()
}

/**
 * A contact as a card.
 * @param contact as it is now
 * @param before the lines of the card that it came from, if it did
 */
export function cardText(contact: CardContact, before: readonly string[], version: CardVersion, home: Home): string {
  const was = contactOf(before, home)
  const lines = before.flatMap(line => readLine(line) ?? [])
  const dropped = new Set<string>()
  const kept = lines.filter((line) => {
    const stays = isTrueOf(line, was, contact, home)
    if (!stays && line.group !== null) dropped.add(line.group)
    return stays
  }).filter(({ name, group }) => name !== 'VERSION' && !(group !== null && dropped.has(group)))
  const has = (name: string) => kept.some(line => line.name === name)
  const own = (name: string, value: string, parameters: ContentLine['parameters'] = []) => ({ group: null, name, parameters, value })
  const firm = contact.kind === 'company' ? contact.name : contact.company
  const added = [
    ...has('UID') || !contact.uid ? [] : [own('UID', escaped(contact.uid))],
    ...has('FN') ? [] : [own('FN', escaped(contact.name))],
    ...has('N') ? [] : [own('N', nameParts(contact))],
    ...has('ORG') || !firm ? [] : [own('ORG', escaped(firm))],
    ...version === '4.0' && contact.kind === 'company' && !has('KIND') ? [own('KIND', 'org')] : [],
    ...contact.numbers.filter(({ number }) => !kept.some(line => line.name === 'TEL' && numberOf(line, home)?.number === number))
      .map(({ number, kind }) => own('TEL', version === '4.0' ? `tel:${number}` : number, telParameters(kind, version))),
    ...contact.addresses.filter(address => !kept.some(line => line.name === 'EMAIL' && addressOf(line)?.toLowerCase() === address.toLowerCase()))
      .map(address => own('EMAIL', escaped(address))),
    ...has('CATEGORIES') || !contact.category ? [] : [own('CATEGORIES', escaped(contact.category))],
    ...has('LANG') || has('LANGUAGE') || !contact.language ? [] : [own(version === '4.0' ? 'LANG' : 'LANGUAGE', escaped(contact.language))],
    ...has('NOTE') || !contact.note ? [] : [own('NOTE', escaped(contact.note))],
  ]
  const preferred = preferredOf(kept)
  const all = [own('VERSION', version), ...[...kept, ...added].map(line => version === '4.0' ? inVersion4(line) : inVersion3(line, preferred.has(line)))]
  return ['BEGIN:VCARD', ...all.map(lineText), 'END:VCARD'].map(folded).join('')
}

/** Whether a line of the card of before is still true of the contact: what is not understood always is. */
function isTrueOf(line: ContentLine, was: CardContact, now: CardContact, home: Home): boolean {
  switch (line.name) {
    case 'UID': return was.uid === now.uid
    case 'FN': case 'N': return was.name === now.name
    case 'ORG': return was.company === now.company && was.kind === now.kind && (now.kind !== 'company' || was.name === now.name)
    case 'KIND': return was.kind === now.kind
    case 'CATEGORIES': return was.category === now.category
    case 'LANG': case 'LANGUAGE': return was.language === now.language
    case 'NOTE': return was.note === now.note
    case 'TEL': {
      const number = numberOf(line, home)
      return number === null || !was.numbers.some(one => one.number === number.number)
        || now.numbers.some(one => one.number === number.number && one.kind === was.numbers.find(before => before.number === one.number)?.kind)
    }
    case 'EMAIL': {
      const address = addressOf(line)
      return address === null || !was.addresses.includes(address) || now.addresses.includes(address)
    }
    default: return true
  }
}

/** Family name and the others, as far as a whole name tells. */
function nameParts({ kind, name }: CardContact): string {
  if (kind === 'company') return ';;;;'
  const words = name.split(' ')
  const last = words.length > 1 ? words.pop()! : ''
  return last === '' ? `${escaped(name)};;;;` : `${escaped(last)};${escaped(words.join(' '))};;;`
}

const typeOf = { mobile: 'cell', work: 'work', home: 'home', other: 'voice' } as const

function telParameters(kind: NumberKind, version: CardVersion): ContentLine['parameters'] {
  return version === '4.0' ? [['VALUE', ['uri']], ['TYPE', [typeOf[kind]]]] : [['TYPE', [typeOf[kind]]]]
}
