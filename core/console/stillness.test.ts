import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Place, settle } from './stillness'

const same = (id: string) => id
const ids = fc.uniqueArray(fc.constantFrom(...'abcdefghij'), { maxLength: 8 })
const shown = (places: Place<string>[]) => places.map(({ id }) => id)

describe('a list under the hand', () => {
  it('is in order while no hand rests on it', () => {
    expect(shown(settle([{ id: 'b', item: 'b' }], ['a', 'b'], same, false))).toEqual(['a', 'b'])
  })

  it('keeps a gap where somebody was, and puts who comes at the end', () => {
    const before = settle([], ['a', 'b', 'c'], same, false)
    expect(settle(before, ['d', 'c', 'a'], same, true)).toEqual([
      { id: 'a', item: 'a' }, { id: 'b', item: null }, { id: 'c', item: 'c' }, { id: 'd', item: 'd' },
    ])
  })

  it('moves nobody while a hand rests, whatever comes and goes, and shows everybody who is there once', () => {
    fc.assert(fc.property(ids, fc.array(ids, { maxLength: 6 }), (first, later) => {
      let places = settle([], first, same, false)
      for (const items of later) {
        const before = places
        places = settle(before, items, same, true)
        expect(shown(places).slice(0, before.length)).toEqual(shown(before))
        expect(places.flatMap(({ item }) => item ?? []).sort()).toEqual([...items].sort())
      }
    }))
  })
})
