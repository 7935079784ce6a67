import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { entriesOf } from './entries'
import { type DirectoryEntry, fold, indexDirectory, isOneSlipAway, searchDirectory, soundOf } from './search'

const entries: DirectoryEntry[] = entriesOf(merrowby()).filter(entry => !entry.isGroup)
const index = indexDirectory(entries)
const found = (typed: string, limit = 24) => searchDirectory(index, typed, limit).map(hit => entries.find(entry => entry.id === hit.id)!)
const someone = (who: Partial<DirectoryEntry>): DirectoryEntry => ({
  id: 't9000',
  telephones: ['t9000'],
  extension: '9000',
  first: 'Zoë',
  last: 'Brandt-Öhlund',
  nickname: null,
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
    const one = indexDirectory([someone({})])
    for (const typed of ['brandt', 'brendt', 'brandtohlund', 'ohlund', 'zoe', 'ZOË', 'brant', 'ölund']) {
      expect(searchDirectory(one, typed, 5), typed).toHaveLength(1)
    }
    expect(searchDirectory(one, 'grandt', 5), 'the first letter is rarely wrong').toHaveLength(0)
  })

  it('puts a group after people of that name and before the people who belong to it', () => {
    const all = indexDirectory([
      someone({ id: '1', first: 'Ann', last: 'Lee', departmentName: 'Marketing' }),
      someone({ id: 'group', first: '', last: 'Marketing', departmentName: '', role: 'Group', isGroup: true }),
      someone({ id: '2', first: 'Marit', last: 'Ash', departmentName: 'IT' }),
    ])
    expect(searchDirectory(all, 'mar', 5).map(hit => hit.id)).toEqual(['2', 'group', '1'])
    expect(searchDirectory(all, 'marketing', 5).map(hit => hit.id)).toEqual(['group', '1'])
  })

  it('says by what it found somebody when it was not the name', () => {
    const [hit] = searchDirectory(index, 'umbrella', 1)
    expect(hit!.because).toBe('a lost umbrella')
    expect(searchDirectory(index, entries[50]!.last, 1)[0]!.because).toBeNull()
  })

  it('narrows with each key: whoever fits the longer text fitted the shorter, for whole beginnings of words', () => {
    fc.assert(fc.property(fc.nat({ max: entries.length - 1 }), fc.integer({ min: 1, max: 12 }), (at, length) => {
      const name = fold(entries[at]!.last)
      const shorter = new Set(searchDirectory(index, name.slice(0, length), 500).map(hit => hit.id))
      expect(shorter.has(entries[at]!.id)).toBe(true)
    }))
  })

  it('never throws and never gives more than asked for, whatever is typed', () => {
    fc.assert(fc.property(fc.string({ maxLength: 200, unit: 'grapheme' }), fc.nat({ max: 30 }), (typed, limit) => {
      expect(searchDirectory(index, typed, limit).length).toBeLessThanOrEqual(limit)
    }))
  })

  it('gives the same order for the same text', () => {
    expect(searchDirectory(index, 'mar', 50)).toEqual(searchDirectory(index, 'mar', 50))
  })
})

describe('likeness', () => {
  it.each([['tern', 'tren'], ['marsh', 'mrsh'], ['quay', 'quaay'], ['skarne', 'skarme']])('%s and %s are one slip apart', (a, b) => {
    expect(isOneSlipAway(a, b)).toBe(true)
    expect(isOneSlipAway(b, a)).toBe(true)
  })

  it('two slips are too many', () => {
    expect(isOneSlipAway('lantern', 'lxntxrn')).toBe(false)
  })

  it.each([['Philippa', 'Filipa'], ['Carlsson', 'Karlson'], ['Wylie', 'Vilie']])('%s sounds like %s', (a, b) => {
    expect(soundOf(fold(a))).toBe(soundOf(fold(b)))
  })
})
