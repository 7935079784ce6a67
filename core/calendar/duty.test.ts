import { describe, expect, test } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { onDuty, peopleNamed, type Turn } from './duty'
import { engagedAt } from './engaged'

const turn = (from: number, to: number, ...people: string[]): Turn => ({ from, to, people, unknown: [] })

describe('who is on duty', () => {
  const turns = [turn(0, 10, 'a'), turn(10, 20, 'b'), turn(12, 14, 'a', 'c'), turn(30, 40, 'c')]

  test('whoever has the turn, from its first moment on and not at its end, and who is next', () => {
    expect(onDuty(turns, 0)).toMatchObject({ people: ['a'], until: 10, next: { from: 10 } })
    expect(onDuty(turns, 10)).toMatchObject({ people: ['b'], until: 12, next: { from: 12 } })
    expect(onDuty(turns, 13)).toMatchObject({ people: ['b', 'a', 'c'], until: 14, next: { from: 30 } })
  })

  test('a gap says itself, with when it ends; behind the last turn nobody knows', () => {
    expect(onDuty(turns, 20)).toEqual({ people: [], unknown: [], until: 30, next: turns[3] })
    expect(onDuty(turns, 40)).toEqual({ people: [], unknown: [], until: null, next: null })
  })
})

describe('whom a roster means', () => {
  const company = structuredClone(merrowby())
  const [one, other] = Object.values(company.people)

  test('names in either order, with other marks and case, extensions, and several in order', () => {
    expect(peopleNamed(company, `${one!.last}, ${one!.first}`)).toEqual({ people: [one!.id], unknown: [] })
    expect(peopleNamed(company, `${other!.first.toUpperCase()}  ${other!.last} / 2100;Nobody Here`)).toEqual({
      people: [other!.id, company.telephones.t2100!.person], unknown: ['Nobody Here'],
    })
    expect(peopleNamed(company, `${one!.last}, ${one!.first}; ${other!.first} ${other!.last}`).people).toEqual([one!.id, other!.id])
    expect(peopleNamed(company, `${one!.first} ${one!.last}, ${other!.first} ${other!.last}`).people).toEqual([one!.id, other!.id])
    expect(peopleNamed(company, '')).toEqual({ people: [], unknown: [] })
  })

  test('two people of one name are nobody; an extension tells them apart', () => {
    const twins = { ...company, people: { ...company.people, twin: { ...one!, id: 'twin' } } }
    expect(peopleNamed(twins, `${one!.first} ${one!.last}`)).toEqual({ people: [], unknown: [`${one!.first} ${one!.last}`] })
    expect(peopleNamed(twins, '2100').people).toHaveLength(1)
  })
})

test('a calendar takes a moment until nothing goes on any more', () => {
  const spans = [{ from: 0, to: 10, place: '' }, { from: 5, to: 20, place: 'Chart room' }, { from: 20, to: 30, place: '' }, { from: 31, to: 40, place: '' }]
  expect(engagedAt(spans, 6)).toEqual({ until: 30, place: 'Chart room' })
  expect(engagedAt(spans, 0)).toEqual({ until: 30, place: '' })
  expect(engagedAt(spans, 30)).toBeNull()
  expect(engagedAt([{ from: 0, to: 0, place: '' }], 0)).toBeNull()
})
