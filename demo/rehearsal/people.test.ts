import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readDialled } from '../../core/numbers/dialled'
import { chanceFrom } from '../company/chance'
import { merrowby } from '../company/merrowby'
import { faultsOf } from '../../core/company/check'
import { Agenda } from './agenda'
import { regularsOf } from '../company/contacts'
import { inventCaller } from './callers'

const company = merrowby()
const telephones = Object.values(company.telephones)

describe('the agenda', () => {
  it('gives what is due, earliest first, and at the same time in the order it was entered', () => {
    fc.assert(fc.property(fc.array(fc.nat({ max: 20 })), fc.nat({ max: 20 }), (times, now) => {
      const agenda = new Agenda<number>()
      times.forEach((at, index) => agenda.add(at, index))
      const taken: number[] = []
      for (let next = agenda.takeDue(now); next !== null; next = agenda.takeDue(now)) taken.push(next)
      const wanted = times
        .map((at, index) => ({ at, index }))
        .filter(({ at }) => at <= now)
        .sort((a, b) => a.at - b.at || a.index - b.index)
        .map(({ index }) => index)
      expect(taken).toEqual(wanted)
      expect(agenda.next()).toBe(Math.min(Infinity, ...times.filter(at => at > now)) === Infinity ? null : Math.min(...times.filter(at => at > now)))
    }))
  })
})

describe('invented callers', () => {
  const regulars = regularsOf(company)
  const at = Date.UTC(2031, 4, 12, 9)
  const invent = (seed: number) => inventCaller(company, chanceFrom(seed), regulars, at)
  const callers = Array.from({ length: 600 }, (_, seed) => invent(seed))

  it('dial numbers of ours, from numbers set aside for fiction', () => {
    const ours = new Set(Object.values(company.lines).map(line => line.number))
    for (const { number, party } of callers) {
      expect(ours.has(number) || telephones.some(({ direct }) => direct === number)).toBe(true)
      if (party.number) expect(party.number).toMatch(/^\+44(7700900|2079460|1314960|1614960)\d{3}$/)
    }
  })

  it('want something that somebody here can help with, and say so', () => {
    for (const { helpedBy, opening } of callers) {
      expect(helpedBy.size).toBeGreaterThan(0)
      for (const device of helpedBy) expect(company.telephones[device]).toBeDefined()
      expect(opening).toMatch(/^[A-Z].*[.?!]$/)
    }
  })

  it('are the same for the same seed, and different from each other', () => {
    expect(invent(5)).toEqual(invent(5))
    expect(new Set(callers.map(caller => caller.opening)).size).toBeGreaterThan(300)
  })

  it('call again and again, half of them, mostly for what they usually want; some habits change', () => {
    const again = callers.filter(({ party }) => regulars.some(({ number }) => number === party.number))
    expect(again.length).toBeGreaterThan(200)
    const usual = again.filter(({ party, helpedBy }) => {
      const { department } = regulars.find(({ number }) => number === party.number)!.wants(at)
      return [...helpedBy].some(device => company.people[company.telephones[device]!.person ?? '']?.department === department)
    })
    expect(usual.length / again.length).toBeGreaterThan(0.8)
    const later = at + 80 * 24 * 60 * 60_000
    const changed = regulars.filter(({ wants }) => wants(at).department !== wants(later).department)
    expect(changed.length).toBeGreaterThan(5)
    expect(changed.length).toBeLessThan(regulars.length / 2)
    expect(new Set(regulars.map(({ number }) => number)).size).toBe(regulars.length)
  })
})

describe('the demo company', () => {
  it.each([1, 2, 40, 100, 182, 183, 500, 2_000, 12_345, 20_000])('with %i people: every name once, every number readable, nothing wrong with it', (size) => {
    const made = merrowby(size)
    const people = Object.values(made.people)
    expect(people).toHaveLength(size)
    expect(new Set(people.map(({ first, last }) => `${first} ${last}`)).size).toBe(size)
    for (const { mobile } of people) if (mobile) expect(readDialled(mobile, merrowby().settings)).toEqual({ kind: 'outside', e164: mobile })
    expect(faultsOf(made)).toEqual([])
  })

  it('chance is even and repeatable', () => {
    const chance = chanceFrom(1)
    const counts = [0, 0, 0, 0]
    for (let i = 0; i < 4_000; i++) counts[chance.between(0, 3)]!++
    for (const count of counts) expect(Math.abs(count - 1_000)).toBeLessThan(120)
    const gaps = Array.from({ length: 4_000 }, () => chance.gap(10))
    expect(gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length).toBeCloseTo(10, 0)
  })
})
