import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evolve } from '../../core/calls/evolve'
import type { ExchangeState } from '../../core/calls/model'
import { begin, carryOut, requestOf, start, waitOf, wish } from '../../core/calls/wishes'
import { type Change, type Happened, itemOf, itemsOf, type JournalItem } from './items'

/** What is written in the end: of each call's record the newest, and everything else in its order. */
function written(items: readonly JournalItem[]) {
  const changes = items.flatMap(item => item.changes)
  const isRecord = (change: Change): change is Extract<Change, { kind: 'record' }> => change.kind === 'record'
  return {
    records: Object.fromEntries(changes.filter(isRecord).map(({ record }) => [record.id, record])),
    others: changes.filter(change => !isRecord(change)),
  }
}

describe('what follows from many events', () => {
  it('is what follows from each, though no record is made that a later one takes the place of', () => {
    let [made, saved] = [0, 0]
    fc.assert(fc.property(fc.array(wish, { minLength: 40, maxLength: 120, size: 'max' }), (wishes) => {
      let state: ExchangeState = begin('items')
      let now = start
      const happened: Happened[] = []
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        for (const event of request ? carryOut(state, request, now).events : []) {
          const before = state
          state = evolve(state, event)
          happened.push({ event, before, after: state })
        }
      }
      const [together, oneByOne] = [itemsOf(happened), happened.map(({ event, before, after }) => itemOf(event, before, after))]
      expect(together.map(({ seq, event }) => [seq, event])).toEqual(oneByOne.map(({ seq, event }) => [seq, event]))
      expect(written(together)).toEqual(written(oneByOne))
      made += together.flatMap(({ changes }) => changes).length
      saved += oneByOne.flatMap(({ changes }) => changes).length - together.flatMap(({ changes }) => changes).length
    }), { numRuns: 40 })
    expect(saved).toBeGreaterThan(made / 10)
  })
})
