import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { comesFrom, inOrder, readCarriers } from './carrier'

const least = { trunk: 'east', name: 'Bay', host: '192.0.2.20' }
const fault = (value: unknown) => {
  try {
    readCarriers(typeof value === 'string' ? value : JSON.stringify(value))
    return null
  }
  catch (error) {
    return (error as Error).message
  }
}

describe('the carriers of a house', () => {
  it('need a trunk, a name and a host; the rest is as usual', () => {
    expect(readCarriers(JSON.stringify([least]))).toEqual([{
      ...least, port: 5060, protocol: 'udp', priority: 0, weight: 1, from: [], account: null, registers: false,
    }])
  })

  it.each([
    ['not a list', 'not JSON'],
    [{}, 'array'],
    [[{ ...least, host: '' }], 'host'],
    [[{ ...least, port: '5060' }], 'port'],
    [[{ ...least, port: 70_000 }], 'port'],
    [[{ ...least, protocol: 'sctp' }], 'protocol'],
    [[{ ...least, from: ['everywhere'] }], 'from[0]'],
    [[{ ...least, weight: 0 }], 'weight'],
    [[{ ...least, secret: 'x' }], 'secret'],
    [[{ ...least, account: { name: 'x' } }], 'account.secret'],
    [[{ ...least, registers: true }], 'needs an account'],
    [[least, least], 'same name'],
  ])('say what is wrong with them: %j', (value, word) => {
    expect(fault(value)).toContain(word)
  })

  it('are tried by priority, each as often first as it weighs, and those that do not answer last', () => {
    const ways = [{ name: 'a', priority: 1, weight: 1 }, { name: 'b', priority: 0, weight: 3 }, { name: 'c', priority: 0, weight: 1 }]
    fc.assert(fc.property(fc.infiniteStream(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true })), (chances) => {
      const chance = () => chances.next().value as number
      expect(inOrder(ways, ({ name }) => name === 'b', chance).map(({ name }) => name)).toEqual(['c', 'a', 'b'])
    }), { numRuns: 50 })
    let first = 0
    for (let at = 0; at < 4_000; at++) first += Number(inOrder(ways, () => false, Math.random)[0]!.name === 'b')
    expect(first / 4_000).toBeGreaterThan(0.7)
    expect(first / 4_000).toBeLessThan(0.8)
  })

  it('are known by the address from which they come, and by a port where one is named', () => {
    const peer = { protocol: 'udp', address: '192.0.2.20', port: 5070 } as const
    expect(comesFrom(['192.0.2.20'], peer)).toBe(true)
    expect(comesFrom(['192.0.2.20:5070'], peer)).toBe(true)
    expect(comesFrom(['192.0.2.20:5060', '192.0.2.2'], peer)).toBe(false)
    expect(comesFrom(['192.0.2.20'], { ...peer, address: '::ffff:192.0.2.20' })).toBe(true)
    expect(comesFrom(['[2001:db8::20]'], { ...peer, address: '2001:db8::20' })).toBe(true)
    expect(comesFrom([], peer)).toBe(false)
  })
})
