import { describe, expect, it } from 'vitest'
import type { Leg } from './legs'
import { addCounts, count, meanTalk, meanWait, noCounts, serviceLevel, type Tally, tallyFrom, tallyOf } from './service-level'

const second = 1_000
const promise = 20 * second
const short = 5 * second
const none = { back: false, talked: null, held: 0 }

function counted(...legs: [leg: Partial<Leg> & Pick<Leg, 'end'>, waited: number][]): Partial<Tally> {
  const counts = noCounts()
  for (const [leg, waited] of legs) count(counts, { ...none, ...leg }, waited, promise, short)
  return Object.fromEntries(Object.entries(tallyOf(counts)).filter(([, value]) => value !== 0))
}

describe('a leg is counted', () => {
  it('as answered, within the promise until it is over; with its conversation once that has ended', () => {
    expect(counted([{ end: 'answered' }, promise])).toEqual({ offered: 1, answered: 1, within: 1, waited: promise, longest: promise })
    expect(counted([{ end: 'answered' }, promise + 1])).toEqual({ offered: 1, answered: 1, waited: promise + 1, longest: promise + 1 })
    expect(counted([{ end: 'answered', talked: 60 * second, held: 7 * second }, 0], [{ end: 'answered', talked: 30 * second, held: 3 * second }, 0]))
      .toEqual({ offered: 2, answered: 2, within: 2, conversations: 2, talked: 90 * second, held: 10 * second })
    expect(counted([{ end: 'abandoned', talked: 1 }, 0]), 'who gave up has talked with nobody').toEqual({ offered: 1, abandoned: 1, short: 1 })
  })

  it('as given up, too soon to count until that time has passed', () => {
    expect(counted([{ end: 'abandoned' }, short - 1])).toEqual({ offered: 1, abandoned: 1, short: 1, abandonedAfter: short - 1, longest: short - 1 })
    expect(counted([{ end: 'abandoned' }, short])).toEqual({ offered: 1, abandoned: 1, abandonedAfter: short, longest: short })
    expect(counted([{ end: 'abandoned' }, promise + 1])).toEqual({ offered: 1, abandoned: 1, abandonedAfter: promise + 1, longest: promise + 1 })
  })

  it.each(['movedOn', 'mailbox', 'turnedAway', 'promised'] as const)('as %s, late when the promise was broken', (end) => {
    expect(counted([{ end }, promise])).toEqual({ offered: 1, [end]: 1, longest: promise })
    expect(counted([{ end }, promise + 1])).toEqual({ offered: 1, [end]: 1, movedLate: 1, longest: promise + 1 })
  })

  it.each(['lost', 'waiting'] as const)('as %s, which nobody has broken a promise by yet', (end) => {
    expect(counted([{ end }, promise + 1])).toEqual({ offered: 1, [end]: 1, longest: promise + 1 })
  })

  it('as moved on where it failed', () => {
    expect(counted([{ end: 'failed' }, 0])).toEqual({ offered: 1, movedOn: 1 })
  })

  it('that has come back as that alone, but for its conversation', () => {
    expect(counted([{ end: 'answered', back: true, talked: 9 }, promise + 1])).toEqual({ back: 1, talked: 9, conversations: 1 })
  })

  it('with the longest wait of all, wherever it stands', () => {
    expect(counted([{ end: 'answered' }, 9], [{ end: 'waiting' }, 12], [{ end: 'abandoned' }, 3]).longest).toBe(12)
  })
})

it('what was counted in two places adds up, but for the longest wait, which is the longer one', () => {
  const [one, other] = [noCounts(), noCounts()]
  count(one, { ...none, end: 'answered' }, 9, promise, short)
  count(other, { ...none, end: 'answered' }, 7, promise, short)
  count(other, { ...none, end: 'abandoned' }, 8, promise, short)
  addCounts(one, other)
  expect(tallyOf(one)).toEqual(tallyFrom({ offered: 3, answered: 2, within: 2, abandoned: 1, short: 1, waited: 16, longest: 9, abandonedAfter: 8 }))
  addCounts(one, [1])
  expect(tallyOf(one).offered, 'what an earlier version did not count is nothing').toBe(4)
})

describe('the service level', () => {
  const tally = tallyFrom({ offered: 20, answered: 10, within: 6, abandoned: 5, short: 2, movedLate: 3, movedOn: 4 })

  it('is of all who were offered and did not give up at once, or of those who were answered', () => {
    expect(serviceLevel(tally, { kind: 'offered', shortAbandon: short })).toBe(6 / 16)
    expect(serviceLevel(tally, { kind: 'answered', shortAbandon: short })).toBe(0.6)
  })

  it('and means are null where there is nobody to count', () => {
    const nobody = tallyFrom({ abandoned: 2, short: 2 })
    for (const kind of ['offered', 'answered'] as const) expect(serviceLevel(nobody, { kind, shortAbandon: 0 })).toBeNull()
    expect([meanWait(nobody), meanTalk(nobody)]).toEqual([null, null])
    expect([meanWait(tallyFrom({ answered: 4, waited: 10 })), meanTalk(tallyFrom({ conversations: 4, talked: 6 }))]).toEqual([2.5, 1.5])
  })
})
