import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { smallHouse } from '../calls/small-house'
import { grammarOf } from './grammar'

const company = smallHouse()
const person = Object.values(company.people)[0]!
const of = (first: string, last: string, nickname: string | null = null) =>
  grammarOf({ people: { p: { ...person, first, last, nickname } }, groups: {}, telephones: {} })

describe('what is listened for', () => {
  it('is everybody by first and last name, by nickname, and by their last name alone, each meaning whoever is searched for', () => {
    const { words, jsgf, meant } = of('Dagny', 'O\'Hara-Wrack', 'Dag')
    expect(words).toEqual(['dagny', 'o\'hara', 'wrack', 'dag'])
    expect([...meant]).toEqual([['w0 w1 w2', 'Dagny O\'Hara-Wrack'], ['w3 w1 w2', 'Dagny O\'Hara-Wrack'], ['w1 w2', 'O\'Hara-Wrack']])
    expect(jsgf).toBe('#JSGF V1.0;\ngrammar names;\npublic <name> = /1/ w0 w1 w2 | /1/ w3 w1 w2 | /0.0001/ w1 w2;\n')
  })

  it('has the groups and the places of the house too', () => {
    const { meant } = grammarOf(company)
    const names = [...meant.values()]
    for (const { name } of Object.values(company.groups)) expect(names).toContain(name)
    for (const { first, last } of Object.values(company.people)) expect(names).toContain(`${first} ${last}`)
  })

  it('lets nothing of a name into the grammar but its place, and stays within its bounds', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (first, last) => {
      const { jsgf, words } = of(first, last)
      expect(jsgf.replace(/^.*= /s, '')).toMatch(/^[w\d/. |]*;\n$/)
      for (const word of words) expect(word).toMatch(/^[\p{L}\p{M}'’]+$/u)
    }))
    const letters = (at: number) => at.toString(36).replace(/\d/g, digit => 'αβγδεζηθικ'[+digit]!)
    const people = Object.fromEntries(Array.from({ length: 8_000 }, (_, at) => [`p${at}`, { ...person, first: 'A', last: letters(at) }]))
    expect(grammarOf({ people, groups: {}, telephones: {} }).meant.size).toBe(6_000)
  })
})
