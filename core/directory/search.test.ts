import { english } from '../../words/english'
import { phrase, spoken } from '../../words/phrase'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { entriesOf } from './entries'
import { fold, stem } from './folding'
import { bySlip, NearList } from './near'
import { changesTo } from './changes'
import { nobodyPreferred } from './preference'
import { Directory, type DirectoryEntry } from './search'
import { readingsOf, soundOf } from './sounds'

const entries: DirectoryEntry[] = entriesOf(english, merrowby()).filter(entry => !entry.isGroup)
const index = new Directory(entries)
const found = (typed: string, limit = 24) => index.search(typed, limit).map(hit => entries.find(entry => entry.id === hit.id)!)
const someone = (who: Partial<DirectoryEntry>): DirectoryEntry => ({
  id: 't9000',
  telephones: ['t9000'],
  extension: '9000',
  first: 'Zoë',
  last: 'Brandt-Öhlund',
  nickname: null,
  former: null,
  direct: null,
  department: 'it',
  departmentName: 'IT',
  site: 'Quay',
  role: 'Help desk',
  room: 'Q12',
  handles: [],
  mobile: null,
  ...who,
})

describe('the search', () => {
  it('finds everybody by their whole name, first', () => {
    for (const entry of entries) expect(found(`${entry.first} ${entry.last}`)[0]!.extension).toBe(entry.extension)
  })

  it('finds everybody by the beginning of each name and by extension', () => {
    for (const entry of entries) {
      expect(found(`${entry.last.slice(0, 4)} ${entry.first.slice(0, 2)}`).map(one => one.extension)).toContain(entry.extension)
      expect(found(entry.extension)[0]!.extension).toBe(entry.extension)
    }
  })

  it.each([
    ['lost property', 'lostProperty'], ['customs', 'freight'], ['umbrella', 'lostProperty'], ['wheelchair', 'stennickTerminal'], ['payroll', 'accounts'],
  ])('finds by what it is about: %s', (typed, department) => {
    expect(found(typed)[0]!.department).toBe(department)
  })

  it('forgives a slip, a misheard name, accents and hyphens', () => {
    const one = new Directory([someone({})])
    for (const typed of ['brandt', 'brendt', 'brandtohlund', 'ohlund', 'zoe', 'ZOË', 'brant', 'ölund']) {
      expect(one.search(typed, 5), typed).toHaveLength(1)
    }
    expect(one.search('grandt', 5), 'first letters are misheard too').toHaveLength(1)
    expect(one.search('gulliver', 5)).toHaveLength(0)
  })

  it('puts a group after people of that name and before the people who belong to it', () => {
    const all = new Directory([
      someone({ id: '1', first: 'Ann', last: 'Lee', departmentName: 'Marketing' }),
      someone({ id: 'group', first: '', last: 'Marketing', departmentName: '', role: 'Group', isGroup: true }),
      someone({ id: '2', first: 'Marit', last: 'Ash', departmentName: 'IT' }),
    ])
    expect(all.search('mar', 5).map(hit => hit.id)).toEqual(['2', 'group', '1'])
    expect(all.search('marketing', 5).map(hit => hit.id)).toEqual(['group', '1'])
  })

  it('puts loudspeakers behind everybody who can be called, also where both are named alike; by their whole name they are first', () => {
    const all = new Directory(entriesOf(english, merrowby()))
    const zones = new Set(entriesOf(english, merrowby()).filter(({ isZone }) => isZone).map(({ id }) => id))
    for (const typed of ['freight', 'stennick', 'office', 'curlew'])
      expect(zones.has(all.search(typed, 1)[0]!.id), typed).toBe(false)
    expect(all.search('freight yard', 1)[0]!.id).toBe('zone:yard')
  })

  it('finds by digits: the extension that begins so before numbers in which they only stand somewhere', () => {
    const all = new Directory([
      someone({ id: '1', extension: '4711', mobile: '+447700921099' }), someone({ id: '2', extension: '2105', first: 'Zadok' }),
      someone({ id: '3', extension: '4712', mobile: '+447700900210' }),
    ])
    expect(all.search('210', 5).map(({ id }) => id)).toEqual(['2', '1', '3'])
    expect(all.search('2105', 5).map(({ id }) => id)).toEqual(['2'])
    expect(all.search('07700 921', 5).map(({ id }) => id)).toEqual(['1'])
    // A short number typed whole means itself, whoever carries one that ends so.
    const whole = new Directory([
      someone({ id: '1', first: 'Ann', extension: '4711', mobile: '+447700900601' }),
      someone({ id: '2', extension: '601', last: 'Queue', first: '', isGroup: true }),
      someone({ id: '3', first: 'Ada', extension: '4712', mobile: '+447700902105' }), someone({ id: '4', extension: '2105' }),
    ])
    expect([whole.search('601', 5)[0]!.id, whole.search('2105', 5)[0]!.id]).toEqual(['2', '4'])
  })

  it('says by what it found somebody when it was not the name', () => {
    const [hit] = index.search('umbrella', 1)
    expect(spoken(english, hit!.because!)).toBe('handles a lost umbrella')
    expect(index.search(entries[50]!.last, 1)[0]!.because).toBeNull()
  })

  it('narrows with each key: whoever fits the longer text fitted the shorter, for whole beginnings of words', () => {
    fc.assert(fc.property(fc.nat({ max: entries.length - 1 }), fc.integer({ min: 1, max: 12 }), (at, length) => {
      const name = fold(entries[at]!.last)
      const shorter = new Set(index.search(name.slice(0, length), 500).map(hit => hit.id))
      expect(shorter.has(entries[at]!.id)).toBe(true)
    }))
  })

  it('never throws and never gives more than asked for, whatever is typed', () => {
    fc.assert(fc.property(fc.string({ maxLength: 200, unit: 'grapheme' }), fc.nat({ max: 30 }), (typed, limit) => {
      expect(index.search(typed, limit).length).toBeLessThanOrEqual(limit)
    }))
  })

  it('gives the same order for the same text', () => {
    expect(index.search('mar', 50)).toEqual(index.search('mar', 50))
  })
})

describe('a change of the directory', () => {
  it('is found at once, and what is gone is found no more', () => {
    const directory = new Directory([someone({ id: '1' }), someone({ id: '2', first: 'Ann', last: 'Lee' })])
    directory.put(someone({ id: '2', first: 'Ann', last: 'Ravelstone', former: 'Lee' }))
    expect(directory.search('ravel', 5).map(({ id }) => id)).toEqual(['2'])
    expect(directory.search('lee', 5)).toMatchObject([{ id: '2', because: phrase('field.wasFormer', { name: 'Lee' }) }])
    directory.remove('2')
    expect(directory.search('ravel', 5)).toEqual([])
    expect(directory.size).toBe(1)
  })

  it('gives the same answers as a directory made anew', () => {
    const changed = new Directory(entries.slice(0, 40))
    const became = new Directory(entries.slice(20, 60))
    let known = new Map(entries.slice(20, 60).map(entry => [entry.id, entry]))
    const one = fc.nat({ max: 59 })
    fc.assert(fc.property(fc.array(fc.tuple(one, one, fc.boolean()), { maxLength: 12 }), one, (changes, asked) => {
      for (const [at, other, goes] of changes) {
        if (goes) changed.remove(entries[at]!.id)
        else changed.put({ ...entries[at]!, last: entries[other]!.last })
      }
      const now = entries.flatMap(({ id }) => changed.entry(id) ?? [])
      const anew = new Directory(now)
      const typed = entries[asked]!.last.slice(0, 5)
      expect(changed.search(typed, 100)).toEqual(anew.search(typed, 100))
      became.take(changesTo(known, now))
      known = new Map(now.map(entry => [entry.id, entry]))
      expect(became.search(typed, 100)).toEqual(anew.search(typed, 100))
    }), { numRuns: 40 })
  })

  it('two of one name stand in a fixed order, whoever is preferred first', () => {
    const two = new Directory([someone({ id: 'a' }), someone({ id: 'b' })])
    expect(two.search('brandt', 5).map(({ id }) => id)).toEqual(['a', 'b'])
    expect(two.search('brandt', 5, { ...nobodyPreferred, often: new Set(['b']) }).map(({ id }) => id)).toEqual(['b', 'a'])
  })
})

/** Damerau–Levenshtein distance, swaps of neighbours only, of a text to the nearest beginning of a word: the plain way. */
function slipsTo(typed: string, word: string): number {
  const whole = (a: string, b: string): number => {
    const rows = Array.from({ length: a.length + 1 }, (_, i) => Array.from({ length: b.length + 1 }, (_, j) => i === 0 ? j : j === 0 ? i : 0))
    for (let i = 1; i <= a.length; i++) for (let j = 1; j <= b.length; j++) {
      const options = [rows[i - 1]![j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1), rows[i - 1]![j]! + 1, rows[i]![j - 1]! + 1]
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) options.push(rows[i - 2]![j - 2]! + 1)
      rows[i]![j] = Math.min(...options)
    }
    return rows[a.length]![b.length]!
  }
  return Math.min(...Array.from({ length: word.length + 1 }, (_, length) => whole(typed, word.slice(0, length))))
}

describe('words that are nearly the same', () => {
  const text = fc.string({ unit: fc.constantFrom('a', 'b', 'c', 'd'), minLength: 1, maxLength: 9 })

  it('are those, and no others, that the plain way finds, each with its cost', () => {
    fc.assert(fc.property(fc.uniqueArray(text, { minLength: 1, maxLength: 40 }), text, fc.integer({ min: 0, max: 3 }), (words, typed, most) => {
      const sorted = [...words].sort()
      const near = new NearList(sorted).find(typed, most * 100, bySlip).map(({ at, cost }) => [sorted[at], cost / 100])
      expect(near).toEqual(sorted.map(word => [word, slipsTo(typed, word)] as const).filter(([, slips]) => slips <= most))
    }), { numRuns: 400 })
  })
})

describe('sounds', () => {
  it.each([['Philippa', 'Filipa'], ['Carlsson', 'Karlson'], ['Quarrendon', 'Kwarendon'], ['Wrenn', 'Ren'], ['Knott', 'Not']])('%s sounds like %s', (a, b) => {
    expect(soundOf(a)).toBe(soundOf(b))
  })

  it.each([
    ['Zwiebelhof', 'tsvibelhof'], ['Beaucharmont', 'boSarmon'], ['Wójcikowski', 'vujCikovski'], ['Hjelmqvist', 'jelmkvist'], ['Duijnhoven', 'dWnhofen'],
  ])('%s is also read as it is said at home', (name, said) => {
    expect(readingsOf(name)).toContain(said)
  })

  it('a word has one form, however many and wherever it is written', () => {
    const same = ['colours color', 'parties party', 'licences license', 'theatres theater', 'organisation organization', 'tyres tire']
    for (const [one, other] of same.map(pair => pair.split(' '))) expect(stem(one!)).toBe(stem(other!))
    expect(stem('class')).toBe('class')
  })
})
