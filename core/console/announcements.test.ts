import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Announcement, Announcements, loudnesses, type Rank } from './announcements'

const ranks: Rank[] = ['urgent', 'calls', 'own']

function everything(speech: Announcements, from: number): Announcement[] {
  const all: Announcement[] = []
  for (let now = from, next = speech.next(now); next || speech.due(now) !== null; now += speech.due(now) ?? 0, next = speech.next(now)) {
    if (next) all.push(next)
  }
  return all
}

describe('what the screen says', () => {
  it('does not speak over itself: the second waits until the first can have been heard', () => {
    const speech = new Announcements(() => 'everything')
    speech.put({ text: 'General line: Olive Quill', rank: 'calls', about: 'one' })
    speech.put({ text: 'Held', rank: 'own', about: null })
    expect(speech.next(0)?.text).toBe('Held')
    expect(speech.next(17)).toBeNull()
    expect(speech.due(17)).toBeGreaterThan(100)
    expect(speech.next(17 + speech.due(17)!)?.text).toBe('General line: Olive Quill')
    expect(speech.due(1e6)).toBeNull()
  })

  it('does not say of a call what is not so any more', () => {
    const speech = new Announcements(() => 'everything')
    speech.put({ text: 'Nobody found', rank: 'own', about: null })
    speech.next(0)
    speech.put({ text: 'General line: Olive Quill', rank: 'calls', about: 'one' })
    speech.put({ text: 'General line: Piet Lanthorn', rank: 'calls', about: 'two' })
    speech.put({ text: 'You have Olive Quill', rank: 'own', about: 'one' })
    expect(everything(speech, 10_000).map(({ text }) => text)).toEqual(['You have Olive Quill', 'General line: Piet Lanthorn'])
  })

  it('loses nothing, says nothing twice, and says the urgent first', () => {
    const some = fc.array(fc.record({ text: fc.string({ maxLength: 40 }), rank: fc.constantFrom(...ranks), about: fc.constant(null) }), { maxLength: 20 })
    fc.assert(fc.property(some, fc.constantFrom(...loudnesses), (list, loudness) => {
      const speech = new Announcements(() => loudness)
      for (const announcement of list) speech.put(announcement)
      const heard = everything(speech, 0)
      const wanted = list.filter(({ rank }) => loudness === 'everything' || rank === 'urgent' || (loudness === 'calls' && rank === 'calls'))
      expect(new Set(heard.map(({ text }) => text))).toEqual(new Set(wanted.map(({ text }) => text)))
      expect(heard.length).toBe(new Set(heard.map(({ text }) => text)).size)
      const urgent = heard.map(({ rank }) => rank === 'urgent')
      expect(urgent.lastIndexOf(true)).toBeLessThanOrEqual(urgent.filter(Boolean).length - 1)
    }))
  })
})
