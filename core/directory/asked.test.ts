import { english } from '../../words/english'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { entriesOf } from './entries'
import { nobodyPreferred } from './preference'
import { Directory, type DirectoryEntry } from './search'

/** What operators type besides names, in the ways in which callers say it: sixty questions, and who is meant. */

const whole = entriesOf(english, merrowby())
const directory = new Directory(whole)
const someone = (fields: Partial<DirectoryEntry> & Pick<DirectoryEntry, 'id'>): DirectoryEntry => ({
  telephones: [fields.id], extension: fields.id, first: 'Nell', last: 'Brandt', nickname: null, former: null, department: 'x', departmentName: 'Workshop',
  site: '', role: '', room: '', handles: [], mobile: null, direct: null, ...fields,
})
/** The extension, or the name of a group. */
const shownOf = ({ isGroup, extension, last }: DirectoryEntry) => isGroup ? last : extension
const first = (typed: string) => {
  const [hit] = directory.search(typed, 8)
  return hit ? shownOf(directory.entry(hit.id)!) : null
}
const of = (extension: string) => whole.find(entry => entry.extension === extension)!
/** Nobody else of the company has their last name. */
const alone = whole.filter(({ first: given, last, isGroup, isZone }) => given && !isGroup && !isZone && whole.filter(other => other.last === last).length === 1)

describe('what operators type besides names', () => {
  const titles = ['Mrs', 'Miss', 'Mr', 'Captain', 'Dr.', 'Ms', 'Herr', 'Madame', 'the', 'Sir']
  const titled = titles.flatMap((title, at) => [1, 2].map((other): [string, string] => {
    const { last, extension } = alone[(at * 7 + other * 3) % alone.length]!
    return [`${title} ${other === 1 ? last : last.toLowerCase().slice(0, 6)}`, extension]
  }))
  const [rooms, extensions] = [['2103', '2153', '2210', '2274'], ['2153', '2110', '2268', '2105']]
  const asked: [typed: string, meant: string][] = [
    ...titled,
    ...rooms.map((extension, at): [string, string] => [`${['room', 'Room', 'rm', 'ROOM'][at]} ${of(extension).room.toLowerCase()}`, extension]),
    ...extensions.flatMap((extension): [string, string][] => [[`ext ${extension}`, extension], [`x${extension}`, extension], [`Ext. ${extension}`, extension]]),
    ...['2153', '2110', '2268'].map((extension, at): [string, string] => {
      const national = of(extension).mobile?.replace('+44', '0') ?? of(extension).direct!.replace('+44', '0')
      const [area, rest] = [national.slice(0, 5), national.slice(5)]
      return [[`(${area}) ${rest}`, `${area}\u2013${rest}`, `tel:+44${national.slice(1)}`][at]!, extension]
    }),
    ['berths', 'Harbour office'], ['the berths', 'Harbour office'], ['moorings', 'Harbour office'], ['photographs', 'Marketing'], ['a brochure', 'Marketing'],
    ['invoices', 'Accounts'], ['an invoice please', 'Accounts'], ['lost umbrella', 'Lost property'], ['accidents', 'Safety'], ['the website', 'IT'],
    ['a reference', 'People team'], ['tickets', 'Reservations'],
    ['the Curlew', 'MV Curlew'], ['Curlew', 'MV Curlew'], ['the Sandpiper', 'MV Sandpiper'], ['dunlin', 'MV Dunlin'], ['mv dunlin', 'MV Dunlin'],
    ['bqm safety', '2268'], ['bm safety', '2268'], ['bq safety', '2268'], ['cqm stennick', '2210'],
    ['\u0413\u0432\u0438\u043B\u0438\u043C', '2153'], ['\u0393\u03BF\u03BF\u03C3\u03B1\u03BD\u03B4\u03B5\u03C1', '2153'],
  ]

  it('finds who is meant first, for 57 of 60', () => {
    const missed = asked.filter(([typed, meant]) => first(typed) !== meant).map(([typed, meant]) => `${typed}: ${first(typed)}, not ${meant}`)
    expect(asked.length).toBeGreaterThanOrEqual(60)
    expect(missed.length, missed.join('\n')).toBeLessThanOrEqual(3)
  })

  it('finds nobody for a room or an extension that is none, rather than a stranger who sounds like it', () => {
    expect(['room m999', 'ext 2999', 'x2999', 'Ext. 29'].map(typed => directory.search(typed, 5))).toEqual([[], [], [], []])
  })

  it('finds a title that is a part of what somebody is', () => {
    const some = new Directory([someone({ id: '1', last: 'Wren' }), someone({ id: '2', last: 'Wren', role: 'Captain' })])
    expect(some.search('captain wren', 5).map(({ id }) => id)).toEqual(['2', '1'])
    expect(some.search('captain', 5).map(({ id }) => id)).toEqual(['2'])
    expect(some.search('the', 5)).toEqual([])
  })

  it('finds names in other scripts by Latin letters, and the other way round', () => {
    const some = new Directory([someone({ id: '1', last: '\u0416\u0443\u043A\u043E\u0432\u0430' }), someone({ id: '2', last: 'Papadopoulos' })])
    expect(some.search('zhukova', 5).map(({ id }) => id)).toEqual(['1'])
    expect(some.search('\u0416\u0443\u043A', 5).map(({ id }) => id)).toEqual(['1'])
    expect(some.search('\u03A0\u03B1\u03C0\u03B1\u03B4', 5).map(({ id }) => id)).toEqual(['2'])
  })

  it('weighs what was typed together with whom this caller usually wants', () => {
    const marketing = whole.find(({ last, isGroup }) => isGroup && last === 'Marketing')!
    expect(first('mar')).not.toBe('Marketing')
    const with7of12 = { ...nobodyPreferred, probable: new Map([[marketing.id, 7 / 12]]) }
    expect(directory.search('mar', 1, with7of12)[0]!.id).toBe(marketing.id)
    // A whole name is meant, whoever is usual.
    expect(shownOf(directory.entry(directory.search('marit upwater', 1, with7of12)[0]!.id)!)).toBe('2274')
    // So is a whole extension: not somebody in whose numbers it stands, however usual.
    const certain = { ...nobodyPreferred, probable: new Map(whole.map(({ id }) => [id, 1])) }
    const berths = whole.find(({ extension }) => extension === '601')!
    certain.probable.delete(berths.id)
    expect(whole.filter(({ id, mobile, direct }) => id !== berths.id && `${mobile} ${direct}`.includes('601'))).not.toHaveLength(0)
    expect(directory.search('601', 1, certain)[0]!.id).toBe(berths.id)
    const hardly = { ...nobodyPreferred, probable: new Map([[marketing.id, 0.06]]) }
    expect(directory.search('mar', 1, hardly)[0]!.id).not.toBe(marketing.id)
  })
})
