import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { ExchangeState } from '../calls/model'
import { begin, carryOut, requestOf, runsOf, start, waitOf, wish } from '../calls/wishes'
import { offersDue } from './offers'

/** After each request only the queues are looked at that it can have touched: of no other there was anything to be done. */
it('whatever anybody asks, no queue has anybody left to ring, to let go, or to send on', () => {
  let looked = 0
  fc.assert(fc.property(fc.array(wish, { minLength: 40, maxLength: 100 }), (wishes) => {
    let state: ExchangeState = begin('offers')
    let now = start
    const trail: string[] = []
    for (const wanted of wishes) {
      if (wanted.kind === 'wait') now += waitOf(wanted)
      const request = requestOf(state, wanted)
      if (!request) continue
      const done = carryOut(state, request, now)
      state = done.state
      if (done.refused) continue
      trail.push(JSON.stringify(request))
      looked++
      expect(offersDue(state, null, state.time), trail.slice(-8).join('\n')).toEqual([])
    }
  }), { numRuns: runsOf(300), seed: Number(process.env.LAW_SEED ?? Date.now() % 1_000_000), endOnFailure: true })
  expect(looked).toBeGreaterThan(300)
}, 120_000)
