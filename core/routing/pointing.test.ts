import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { pointedIn } from './pointing'

const company = merrowby()
const people = Object.values(company.people)
const telephoneOf = (id: string) => Object.values(company.telephones).find(({ person }) => person === id)?.id
const alone = people.filter(({ first, last, id }) => telephoneOf(id) && people.filter(other => other.last === last).length === 1
  && people.filter(other => other.first === first).length === 1)
const [one] = alone as [typeof alone[number]]
const same = people.filter(({ last }) => people.filter(other => other.last === last).length > 1)
const firstOf = (said: string) => pointedIn(company, said)[0]
const groupFor = (handled: string) => {
  const department = Object.values(company.departments).find(({ handles }) => handles.includes(handled))!
  return Object.values(company.groups).find(group => group.department === department.id && group.distribution !== 'queue')!.id
}

describe('the words of a caller', () => {
  const whole = `${one.first} ${one.last}`
  it.each([
    [`Good day, could I speak to ${whole}, please?`, whole], [`Is ${whole} about?`, whole], [`${whole}, please, about our appointment.`, whole],
    [`I'd like ${whole.toUpperCase()}.`, whole], [`could you put me through to Mr ${one.last}`, one.last],
    [`Nell Elsewhere here. I have a missed call from ${one.last}.`, one.last], [`This is Nell, can I talk to ${one.first}?`, one.first], [one.last, one.last],
  ])('name somebody: %s', (said, words) => {
    expect(firstOf(said)).toEqual({ destination: telephoneOf(one.id), words, plain: true })
  })

  it.each([
    ['I\'m calling about photographs.', 'photographs'], ['It\'s about a lost umbrella, is that you?', 'a lost umbrella'],
    ['Umbrella. I think I lost it on board. A lost umbrella!', 'a lost umbrella'], ['Hello, invoice, please.', 'invoices'],
    ['Where do I ask about customs papers for two lorries', 'customs papers'],
  ])('say what it is about: %s', (said, handled) => {
    expect(firstOf(said)).toMatchObject({ destination: groupFor(handled), words: handled, plain: true })
  })

  it('point to nobody by what callers call themselves, nor by a name that nobody is asked for by', () => {
    expect(pointedIn(company, `${whole} here.`)).toEqual([])
    expect(pointedIn(company, `${whole} from Kelp & Co. here.`)).toEqual([])
    expect(pointedIn(company, `My name is ${whole}`)).toEqual([])
    expect(pointedIn(company, `Good morning, this is ${whole}.`)).toEqual([])
    expect(pointedIn(company, 'Hello, are you still there?')).toEqual([])
    expect(pointedIn(company, `there was a big ${one.last} standing in our road since yesterday`)).toEqual([])
  })

  it('are not plain when several can be meant, and are by the department or the first name', () => {
    const [first, second] = same.filter(({ last }) => last === same[0]!.last)
    const both = pointedIn(company, `Can I speak to ${first!.last}?`)
    expect(both.length).toBeGreaterThan(1)
    expect(both.every(({ plain }) => !plain)).toBe(true)
    expect(pointedIn(company, `Can I speak to ${second!.first} ${second!.last}?`)).toEqual([
      { destination: telephoneOf(second!.id), words: `${second!.first} ${second!.last}`, plain: true },
    ])
    const apart = same.find(({ last, department }) => same.some(other => other.last === last && other.department !== department)
      && same.filter(other => other.last === last && other.department === department).length === 1 && telephoneOf(same.find(p => p.last === last)!.id))!
    const { name } = company.departments[apart.department]!
    expect(firstOf(`Could you put me through to ${apart.last}? ${name}, I think.`)).toMatchObject({ destination: telephoneOf(apart.id), plain: true })
  })

  it('count the more the more of a subject they say', () => {
    expect(firstOf('a lost telephone')!.words).toBe('a lost telephone')
    expect(firstOf('a car on the ferry, and the weather')!.words).toBe('a car on the ferry')
  })

  it('whatever they are, point to at most three who can be rung, each once', () => {
    fc.assert(fc.property(fc.array(fc.oneof(fc.string(), fc.constantFrom('to', 'is', 'here', '.', ...people.flatMap(({ first, last }) => [first, last]),
      ...Object.values(company.departments).flatMap(({ name, handles }) => [name, ...handles]))), { maxLength: 12 }), (words) => {
      const pointed = pointedIn(company, words.join(' '))
      expect(pointed.length).toBeLessThanOrEqual(3)
      expect(new Set(pointed.map(({ destination }) => destination)).size).toBe(pointed.length)
      for (const { destination } of pointed) expect(company.telephones[destination] ?? company.groups[destination]).toBeDefined()
      expect(pointed.slice(1).every(({ plain }) => !plain)).toBe(true)
    }), { numRuns: 300 })
  })
})
