import { english } from '../../words/english'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Announcement, Announcements, type Ending, loudnesses, type Rank } from './announcements'

const ranks: Rank[] = ['now', 'urgent', 'own', 'calls']
const wait = (name: string, since: number, held = false) => ({ name, line: 'General line', since, held })
const arrives = (name: string, line = 'General line'): Announcement =>
  ({ text: `${line}: ${name}`, rank: 'calls', about: name, arrival: { name, line, since: 0, held: false } })
const waits = (name: string, since: number, held = false): Announcement =>
  ({ text: `${name} ${held ? 'on hold' : 'waiting'}`, rank: 'waits', about: name, wait: wait(name, since, held) })

function everything(speech: Announcements, from: number): Announcement[] {
  const all: Announcement[] = []
  for (let now = from, next = speech.next(now, now); next || speech.due(now) !== null; now += speech.due(now) ?? 0, next = speech.next(now, now)) {
    if (next) all.push(next)
  }
  return all
}
const texts = (all: Announcement[]) => all.map(({ text }) => text)

describe('what the screen says', () => {
  it('does not speak over itself: the second waits until the first can have been heard, by a voice of its speed', () => {
    const slow = new Announcements(english, () => 'everything', () => 'slow')
    const fast = new Announcements(english, () => 'everything', () => 'fast')
    for (const speech of [slow, fast]) {
      speech.put(arrives('Olive Quill'), 0)
      speech.put({ text: 'Held', rank: 'own', about: null }, 0)
      expect(speech.next(0, 0)?.text).toBe('Held')
      expect(speech.next(17, 17)).toBeNull()
      expect(speech.next(17 + speech.due(17)!, 0)?.text).toBe('General line: Olive Quill')
    }
    expect(slow.due(0)).toBeNull()
    for (const speech of [slow, fast]) speech.put({ text: 'x'.repeat(20), rank: 'own', about: null }, 9_000)
    for (const speech of [slow, fast]) speech.next(9_000, 0)
    for (const speech of [slow, fast]) speech.put({ text: 'y', rank: 'own', about: null }, 9_000)
    expect(slow.due(9_000)).toBeGreaterThan(fast.due(9_000)! * 1.7)
  })

  it('says whom one has, and their greeting, before anything else', () => {
    const speech = new Announcements(english, () => 'urgent')
    for (let index = 0; index < 8; index++) speech.put(waits(`Caller ${index}`, 0), 0)
    speech.put({ text: 'Ada Fenn hung up', rank: 'urgent', about: 'gone' }, 0)
    speech.put({ text: 'You have Olive Quill. Good morning', rank: 'now', about: 'mine' }, 0)
    expect(texts(everything(speech, 40_000))).toEqual([
      'You have Olive Quill. Good morning', 'Ada Fenn hung up', expect.stringMatching(/^8 wait to be answered, the longest 0:4\d$/),
    ])
  })

  it('does not say of a call what is not so any more', () => {
    const speech = new Announcements(english, () => 'everything')
    speech.put({ text: 'Nobody found', rank: 'own', about: null }, 0)
    speech.next(0, 0)
    speech.put({ ...arrives('Olive Quill'), about: 'one' }, 0)
    speech.put({ ...arrives('Piet Lanthorn'), about: 'two' }, 0)
    speech.put({ text: 'You have Olive Quill', rank: 'now', about: 'one' }, 0)
    expect(texts(everything(speech, 10_000))).toEqual(['You have Olive Quill', 'General line: Piet Lanthorn'])
  })

  it('never hides that somebody has come behind that they wait; many who come at once are told together', () => {
    const speech = new Announcements(english, () => 'everything')
    speech.put(arrives('Olive Quill'), 0)
    speech.put(waits('Olive Quill', 0), 20_000)
    expect(texts(everything(speech, 20_000))).toEqual(['General line: Olive Quill'])
    for (const [name, line] of [['A', 'General line'], ['B', 'Freight line'], ['C', 'General line']] as const) speech.put(arrives(name, line), 30_000)
    expect(texts(everything(speech, 30_000))).toEqual(['General line: A, C. Freight line: B'])
  })

  it('tells of those who wait together, those on hold by name, and not every moment', () => {
    const speech = new Announcements(english, () => 'calls')
    speech.put(waits('A', 10_000), 50_000)
    speech.put(waits('B', 20_000, true), 50_000)
    speech.put(waits('C', 30_000), 50_000)
    expect(speech.next(50_000, 50_000)?.text).toBe('B on hold for 0:30. 2 wait to be answered, the longest 0:40')
    speech.put(waits('D', 40_000), 55_000)
    expect(speech.next(60_000, 60_000)).toBeNull()
    expect(speech.due(60_000)).toBe(5_000)
    expect(speech.next(65_000, 65_000)?.text).toBe('D waiting')
  })

  it('says what one did with a call also when more has come of it meanwhile', () => {
    const speech = new Announcements(english, () => 'everything')
    speech.put({ text: 'Olive Quill passed on to Marit', rank: 'own', about: 'one' }, 0)
    speech.put({ text: 'Marit took it', rank: 'calls', about: 'one' }, 0)
    expect(texts(everything(speech, 0))).toEqual(['Olive Quill passed on to Marit', 'Marit took it'])
  })

  it('says however late how the way of a call ended, and many who ended alike together', () => {
    const speech = new Announcements(english, () => 'everything')
    const ends = (name: string, how: Ending['how']) =>
      speech.put({ text: `${name}: ${how}`, rank: 'calls', about: name, ending: { how, name } }, 0)
    for (const name of ['A', 'B', 'C']) ends(name, 'gaveUp')
    ends('D', 'taken')
    ends('E', 'taken')
    for (const name of ['F', 'G', 'H']) ends(name, 'leavesMessage')
    expect(texts(everything(speech, 60_000))).toEqual(['Gave up: A, B, C', 'D: taken', 'E: taken', 'Leave messages: F, G, H'])
  })

  it('leaves out what came of a call so long ago that nobody needs it, and no arrival', () => {
    const speech = new Announcements(english, () => 'everything')
    speech.put({ text: 'Marit took it', rank: 'calls', about: 'one' }, 0)
    speech.put(arrives('Olive Quill'), 0)
    expect(texts(everything(speech, 25_000))).toEqual(['General line: Olive Quill'])
  })

  it('loses nothing, says nothing twice, and says the urgent first', () => {
    const some = fc.array(fc.record({ text: fc.string({ maxLength: 40 }), rank: fc.constantFrom(...ranks), about: fc.constant(null) }), { maxLength: 5 })
    fc.assert(fc.property(some, fc.constantFrom(...loudnesses), (list, loudness) => {
      const speech = new Announcements(english, () => loudness, () => 'fast')
      for (const announcement of list) speech.put(announcement, 0)
      const heard = everything(speech, 0)
      const wanted = list.filter(({ rank }) => loudness === 'everything' || rank === 'urgent' || rank === 'now' || (loudness === 'calls' && rank === 'calls'))
      expect(new Set(texts(heard))).toEqual(new Set(wanted.map(({ text }) => text)))
      expect(heard.length).toBe(new Set(texts(heard)).size)
      const places = heard.map(({ rank }) => ['now', 'urgent', 'own', 'calls'].indexOf(rank))
      expect(places).toEqual([...places].sort((a, b) => a - b))
    }))
  })
})
