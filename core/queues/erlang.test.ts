import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { channelsFor, erlangA, erlangB, erlangC, serversFor, serviceOf } from './erlang'

describe('Erlang B', () => {
  it('is that of the published tables', () => {
    // Loads at which so many channels lose 1 %, 2 % and 0.1 % of the calls (Telephone Traffic Theory, Tables and Charts, Siemens 1970; ITU-D SG 2, Teletraffic
    // Engineering Handbook, appendix).
    const table = [
      [1, 0.01, '0.0101'], [2, 0.01, '0.153'], [3, 0.01, '0.455'], [4, 0.01, '0.869'], [5, 0.01, '1.36'], [10, 0.01, '4.46'], [15, 0.01, '8.11'],
      [20, 0.01, '12.0'], [30, 0.01, '20.3'], [50, 0.01, '37.9'], [100, 0.01, '84.1'], [5, 0.02, '1.66'], [10, 0.02, '5.08'], [30, 0.02, '21.9'],
      [5, 0.001, '0.762'], [10, 0.001, '3.09'], [20, 0.001, '9.41'],
    ] as const
    for (const [channels, lost, printed] of table) {
      let [low, high] = [0, 200]
      while (high - low > 1e-9) {
        const middle = (low + high) / 2
        if (erlangB(channels, middle) < lost) low = middle
        else high = middle
      }
      expect(low.toPrecision(printed.replace('.', '').replace(/^0+/, '').length), `${channels} channels, ${lost}`).toBe(printed)
    }
  })

  it('stands for loads of thousands, and falls with every channel', () => {
    expect(erlangB(20_000, 20_000)).toBeCloseTo(Math.sqrt(2 / (Math.PI * 20_000)), 4)
    fc.assert(fc.property(fc.integer({ min: 0, max: 300 }), fc.double({ min: 0.01, max: 500, noNaN: true }), (channels, load) => {
      const lost = erlangB(channels, load)
      expect(lost === 0 || erlangB(channels + 1, load) < lost).toBe(true)
      const enough = channelsFor(load, 0.01)
      expect(erlangB(enough, load)).toBeLessThanOrEqual(0.01)
      expect(enough === 0 || erlangB(enough - 1, load) > 0.01).toBe(true)
    }))
    expect([erlangB(0, 5), erlangB(0, 0), erlangB(3, 0), channelsFor(0, 0.01)]).toEqual([1, 1, 0, 0])
  })
})

describe('Erlang C and Erlang A', () => {
  it('are those that are published', () => {
    // One and two servers in closed form (D. Gross and others, 2.2 and 2.3): the load itself, and r² / (2 + r).
    expect(erlangC(1, 0.7).waits).toBeCloseTo(0.7, 12)
    expect(erlangC(2, 1).waits).toBeCloseTo(1 / 3, 12)
    // 50 people, 48 calls a minute of one minute each, patience two minutes (O. Garnett, A. Mandelbaum, M. Reiman 2002, table 1): without abandonment a mean
    // wait of 20.8 s and 17 in the queue; with it 3.1 % give up, 3 are in the queue, and people are on calls for 93 %.
    const patient = erlangC(50, 48)
    expect((patient.meanWait * 60).toFixed(1)).toBe('20.8')
    expect((patient.meanWait * 48).toFixed(0)).toBe('17')
    const impatient = erlangA(50, 48, 2)
    expect((impatient.abandons * 100).toFixed(1)).toBe('3.1')
    expect((impatient.meanWait * 48).toFixed(0)).toBe('3')
    expect(Math.round(impatient.occupancy * 100)).toBe(93)
  })

  it('Erlang A becomes Erlang C with the patient, and Erlang B with those who do not wait at all', () => {
    const share = fc.double({ min: 0.1, max: 0.9, noNaN: true })
    fc.assert(fc.property(fc.integer({ min: 1, max: 60 }), share, share, (servers, busy, time) => {
      const load = servers * busy
      const [patient, c] = [erlangA(servers, load, 1e7), erlangC(servers, load)]
      expect(patient.waits).toBeCloseTo(c.waits, 5)
      expect(patient.within(time)).toBeCloseTo(c.within(time), 4)
      expect(erlangA(servers, load, 1e-6).abandons).toBeCloseTo(erlangB(servers, load), 4)
    }), { numRuns: 40 })
  })

  it('stands where hardly anybody gives up, and where there are thousands: within a moment, and between its neighbours', () => {
    const began = performance.now()
    // Twice as many calls as can be answered, and a patience of 220 lengths: everybody waits, and as many give up as can't be answered.
    const crowded = serviceOf({ calls: 120, length: 180_000, patience: 11 * 3_600_000 }, 3)
    expect(crowded.waits).toBeCloseTo(1, 9)
    expect(crowded.abandons).toBeCloseTo(0.5, 6)
    expect(crowded.occupancy).toBeCloseTo(1, 9)
    expect(crowded.within(20_000)).toBeLessThan(1e-6)
    for (const servers of [4_900, 5_000, 5_100]) {
      const one = serviceOf({ calls: 100_000, length: 180_000, patience: 3_600_000 }, servers)
      const c = serviceOf({ calls: 100_000, length: 180_000, patience: null }, servers)
      expect(one.within(20_000)).toBeGreaterThanOrEqual(c.within(20_000) - 1e-4)
      expect(one.within(20_000)).toBeLessThanOrEqual(1 + 1e-9)
    }
    expect(serversFor({ calls: 100_000, length: 150_000, patience: 40_000_000 }, 20_000, 0.8)).toBeGreaterThan(4_000)
    // Bounded work, not a measurement: it never came to an end before.
    expect(performance.now() - began).toBeLessThan(20_000)
  })

  it('for very many is what the exact way gives', () => {
    // Just below and above the number of steps from which it is only nearly exact: nothing jumps.
    const within = (calls: number) => serviceOf({ calls, length: 180_000, patience: 600_000 }, Math.round(calls / 20.4)).within(20_000)
    const found = [9_000, 12_000, 15_000, 18_000, 21_000, 24_000].map(within)
    for (const [index, one] of found.slice(1).entries()) expect(Math.abs(one - found[index]!)).toBeLessThan(0.05)
  })

  it('is what a simulation of the same calls gives', () => {
    for (const [servers, calls, patience] of [[4, 100, 60_000], [12, 260, 90_000], [12, 320, 120_000], [6, 90, null]] as const) {
      const [length, promise] = [150_000, 20_000]
      const expected = serviceOf({ calls, length, patience }, servers)
      const found = simulated(servers, calls, length, patience, promise)
      // Of 200,000 calls, each of which depends on those before it: within two in a hundred.
      expect(Math.abs(found.within - expected.within(promise)), `${servers} serve ${calls}`).toBeLessThan(0.02)
      expect(Math.abs(found.abandons - expected.abandons)).toBeLessThan(0.01)
      if (patience !== null) expect(found.meanWait / expected.meanWait).toBeCloseTo(1, 1)
    }
  })

  it('more people never make it worse, and as few as will do are found', () => {
    const demand = fc.record({
      calls: fc.double({ min: 1, max: 900, noNaN: true }), length: fc.integer({ min: 20_000, max: 600_000 }),
      patience: fc.option(fc.integer({ min: 20_000, max: 600_000 })),
    })
    fc.assert(fc.property(demand, fc.integer({ min: 5_000, max: 120_000 }), (demand, promise) => {
      const servers = serversFor(demand, promise, 0.8)!
      expect(serviceOf(demand, servers).within(promise)).toBeGreaterThanOrEqual(0.8)
      if (servers > 1) expect(serviceOf(demand, servers - 1).within(promise)).toBeLessThan(0.8)
      expect(serviceOf(demand, servers + 1).within(promise)).toBeGreaterThanOrEqual(serviceOf(demand, servers).within(promise) - 1e-9)
    }), { numRuns: 60 })
    expect(serversFor({ calls: 0, length: 100_000, patience: null }, 20_000, 0.8)).toBe(0)
    expect(serversFor({ calls: 40_000, length: 180_000, patience: null }, 20_000, 0.8)).toBeGreaterThan(2_000)
  })
})

/** So many calls, one after the other, with a queue of who waits; from a fixed seed. */
function simulated(servers: number, calls: number, length: number, patience: number | null, promise: number) {
  let seed = 20_311
  const chance = () => {
    seed = Math.imul(seed ^ (seed >>> 15), 0x2C1B3C6D) + 0x6D2B79F5 | 0
    const mixed = Math.imul(seed ^ (seed >>> 13), 0x297A2D39)
    return ((mixed ^ (mixed >>> 16)) >>> 0) / 4_294_967_296
  }
  const exponential = (mean: number) => -mean * Math.log(1 - chance())
  const free = Array.from({ length: servers }, () => 0)
  let [now, within, abandoned, waited] = [0, 0, 0, 0]
  const many = 200_000
  for (let call = 0; call < many; call++) {
    now += exponential(3_600_000 / calls)
    const first = free.indexOf(Math.min(...free))
    const wait = Math.max(0, free[first]! - now)
    const gives = patience === null ? Infinity : exponential(patience)
    waited += Math.min(wait, gives)
    if (wait > gives) abandoned++
    else {
      if (wait <= promise) within++
      free[first] = now + wait + exponential(length)
    }
  }
  return { within: within / many, abandons: abandoned / many, meanWait: waited / many }
}
