import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { abreast, densities, frontOf, smallestPlace } from './floor'

const departments = fc.array(fc.integer({ min: 0, max: 40 }), { maxLength: 30 })
const room = fc.record({ width: fc.integer({ min: 0, max: 2600 }), height: fc.integer({ min: 0, max: 1600 }) })

/** Column and row of every plate and every person, as the front fills them: down each column. */
function placed(people: number[], { gaps, rows }: ReturnType<typeof frontOf>) {
  let at = 0
  const where = () => ({ column: Math.floor(at / rows), row: at++ % rows })
  return people.map((count, index) => {
    at += gaps[index]!
    return { plate: where(), windows: Array.from({ length: count }, where) }
  })
}

describe('the floor', () => {
  it('has a place for everybody, no window smaller than can be read, and no plate away from its people', () => {
    fc.assert(fc.property(departments, room, fc.constantFrom(...densities), (people, size, density) => {
      const front = frontOf(people, size, density)
      const smallest = smallestPlace[density]
      expect(front.height).toBeGreaterThanOrEqual(smallest.height)
      if (size.width >= smallest.width) expect(front.columns * smallest.width * front.scale).toBeLessThanOrEqual(size.width)
      for (const { plate, windows } of placed(people.map(count => Math.ceil(count / abreast[density])), front)) {
        expect(plate.column).toBeLessThan(front.columns * front.parts)
        if (windows[0]) expect(windows[0].column).toBe(plate.column)
        for (const window of windows) expect(window.column).toBeLessThan(front.columns * front.parts)
      }
    }))
  })

  it('is divided where not nearly all have room: no part is higher than the room', () => {
    const many = Array.from({ length: 60 }, (_, index) => 20 + index)
    const front = frontOf(many, { width: 1200, height: 430 }, 'names')
    expect(front.parts).toBeGreaterThan(8)
    expect(front.rows * front.height).toBeLessThanOrEqual(430)
    expect(frontOf(many.slice(0, 10), { width: 1200, height: 430 }, 'names').parts).toBe(1)
  })

  it('fills its columns evenly: nobody stands alone in the last', () => {
    const demo = [3, 6, 22, 8, 14, 9, 8, 10, 14, 7, 9, 10, 6, 3, 12, 7, 9, 8, 6, 4, 4, 3]
    const front = frontOf(demo, { width: 1200, height: 630 }, 'names')
    const columns = placed(demo, front).flatMap(({ plate, windows }) => [plate, ...windows]).map(({ column }) => column)
    const alone = columns.filter(column => column === Math.max(...columns))
    expect(alone.length).toBeGreaterThan(front.rows / 2)
  })

  it('has a thousand in sight at 1280 x 800, each by their number', () => {
    const thousand = Array.from({ length: 40 }, (_, index) => 15 + index % 21)
    expect(thousand.reduce((sum, people) => sum + people, 0)).toBeGreaterThan(970)
    const front = frontOf(thousand, { width: 1256, height: 390 }, 'numbers')
    expect(front.parts).toBe(1)
    expect(front.rows * front.height).toBeLessThanOrEqual(390)
  })

  it('uses larger windows where there is more room', () => {
    const demo = [3, 6, 22, 8, 14, 9, 8, 10, 14, 7, 9, 10, 6, 3, 12, 7, 9, 8, 6, 4, 4, 3]
    const small = frontOf(demo, { width: 1256, height: 345 }, 'names')
    const large = frontOf(demo, { width: 1896, height: 620 }, 'names')
    expect(small.rows * small.height).toBeLessThanOrEqual(345)
    expect(large.scale).toBeGreaterThan(small.scale * 1.3)
    expect(large.rows * large.height).toBeGreaterThan(600)
  })
})
