import { english } from '../../words/english'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { greetingAt } from './greeting'

const line = {
  greeting: 'Merrowby, how can I help?',
  greetings: [
    { language: 'Dutch', from: 0, text: 'Goedendag' }, { language: 'Dutch', from: 18 * 60, text: 'Goedenavond' },
    { language: 'German', from: 11 * 60, text: 'Mahlzeit' },
  ],
}

describe('what is said on a line', () => {
  it('goes by the caller\'s language and the time of day', () => {
    expect(greetingAt(english, line, 17 * 60 + 59, 'dutch ')).toBe('Goedendag')
    expect(greetingAt(english, line, 18 * 60, 'Dutch')).toBe('Goedenavond')
    // Before the first of a day, the last of the day before goes on.
    expect(greetingAt(english, line, 60, 'German')).toBe('Mahlzeit')
    expect(greetingAt(english, line, 9 * 60, 'Polish')).toBe('Good morning, Merrowby, how can I help?')
    expect(greetingAt(english, { ...line, greetings: [...line.greetings, { language: '', from: 22 * 60, text: 'Night desk' }] }, 9 * 60,
      'Polish')).toBe('Night desk')
  })

  it('opens by the time of day where the line has nothing of its own, and takes the latest of several in whatever order they stand', () => {
    const plain = { greeting: 'x', greetings: [] }
    const at = [0, 12 * 60 - 1, 12 * 60, 18 * 60 - 1, 18 * 60, 24 * 60 - 1]
    expect(at.map(minute => greetingAt(english, plain, minute))).toEqual([
      'Good morning, x', 'Good morning, x', 'Good afternoon, x', 'Good afternoon, x', 'Good evening, x', 'Good evening, x',
    ])
    const turned = { ...line, greetings: line.greetings.toReversed().map(one => ({ ...one, language: ` ${one.language}` })) }
    expect(greetingAt(english, turned, 18 * 60, 'Dutch')).toBe('Goedenavond')
    expect(greetingAt(english, turned, 17 * 60, 'Dutch')).toBe('Goedendag')
  })

  it('is always something, and what the line has for that language when it has it', () => {
    const greetings = fc.array(fc.record({ language: fc.constantFrom('', 'Dutch', 'German'), from: fc.nat(1439), text: fc.string({ minLength: 1 }) }))
    fc.assert(fc.property(greetings, fc.nat(1439), fc.constantFrom('', 'Dutch', 'Welsh'), (all, minute, language) => {
      const said = greetingAt(english, { greeting: 'x', greetings: all }, minute, language)
      const [own, general] = [all.filter(one => language !== '' && one.language === language), all.filter(one => one.language === '')]
      const from = own.length > 0 ? own : general
      if (from.length === 0) expect(said).toMatch(/^Good \w+, x$/)
      else expect(from.map(({ text }) => text)).toContain(said)
    }))
  })
})
