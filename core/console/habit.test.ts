import fc from 'fast-check'
import { expect, test } from 'vitest'
import { afterChoice, chosenOften, type Habit } from './habit'

const after = (...ids: string[]) => ids.reduce<Habit>((habit, id) => afterChoice(habit, id), [])

test('three choices make a habit, which fades when others are chosen', () => {
  expect([...chosenOften(after('a', 'a'))]).toEqual([])
  expect([...chosenOften(after('a', 'b', 'a', 'a'))]).toEqual(['a'])
  expect([...chosenOften(after('a', 'a', 'a', ...Array.from({ length: 40 }, (_, n) => `x${n}`)))]).toEqual([])
})

test('it stays small, knows each once, and never grows beyond what is kept', () => {
  fc.assert(fc.property(fc.array(fc.nat(80).map(String), { maxLength: 400 }), (ids) => {
    const habit = after(...ids)
    expect(habit.length).toBeLessThanOrEqual(40)
    expect(new Set(habit.map(({ id }) => id)).size).toBe(habit.length)
    for (const { weight } of habit) expect(weight).toBeLessThan(1 / (1 - 0.97) + 1)
  }))
})
