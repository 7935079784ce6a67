import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '~~/demo/company/merrowby'
import { columnsOf, thingsOf } from './columns'

const value = fc.oneof(fc.constant(null), fc.boolean(), fc.integer(), fc.string(), fc.constantFrom({ until: null }, [], ['a'], { a: { b: 1 } }))
const thing = fc.record({ id: fc.string(), name: value, same: fc.constant({ reason: null, since: 1 }), sometimes: value }, { requiredKeys: ['same'] })
const things = fc.dictionary(fc.string(), thing, { maxKeys: 12 })

describe('things by their fields', () => {
  it('are as they were after they have travelled', () => {
    fc.assert(fc.property(things, (all) => {
      const plain = JSON.parse(JSON.stringify(all)) as typeof all
      expect(thingsOf(JSON.parse(JSON.stringify(columnsOf(plain))))).toEqual(plain)
    }))
  })

  it('keep the ids under which they stand, and what is null apart from what is not there', () => {
    const all = { a: { id: 'a', name: null }, b: { id: 'other' }, c: { id: 'c', name: 'C' } }
    expect(thingsOf(columnsOf<{ id: string, name?: string | null }>(all))).toStrictEqual(all)
    expect(columnsOf({ a: { id: 'a', n: 1 }, b: { id: 'b', n: 1 } })).toEqual({ ids: ['a', 'b'], fields: { id: { ids: true }, n: { all: 1 } } })
    expect(thingsOf(columnsOf({}))).toEqual({})
  })

  it('take less than half of the room in a large house', () => {
    const { telephones } = merrowby(500)
    expect(JSON.stringify(columnsOf(telephones)).length).toBeLessThan(JSON.stringify(telephones).length * 0.5)
  })
})
