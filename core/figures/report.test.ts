import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { instantOf, localTime, offsetsOf } from '../calendar/zones'
import { causes, directions } from '../calls/model'
import { type Attended, dayFigures, longestWait, type Subject } from './day'
import { type Leg, legEnds, legKinds } from './legs'
import { type Report, ReportMaker } from './report'
import { serviceLevel } from './service-level'

const zone = 'Europe/London'
const second = 1_000
const minute = 60 * second

function leg(at: number, more: Partial<Leg> = {}): Leg {
  return {
    call: `c${at}`, of: 'line', place: 'general', at, direction: 'inbound', line: 'general', number: null, passedBy: null, back: false, end: 'answered',
    cause: null, by: 't2100', waited: 10 * second, talked: 60 * second, held: 0, next: null, ...more,
  }
}

interface Asked extends Partial<Subject> {
  /** Days, as the clock shows their midnight. */
  from: number
  to?: number
  attended?: Attended[]
}

const now = instantOf(zone, Date.UTC(2040, 0, 1))

function reportOf({ from, to = from, line = null, queue = null, attended = [] }: Asked, legs: readonly Leg[]): Report {
  const maker = new ReportMaker(zone, from, to)
  const rules = { zone, promiseOf: () => 20 * second, shortAbandon: 5 * second }
  const ordered = [...legs].sort((a, b) => a.at - b.at)
  for (let day = from; day <= to; day += dayLength) {
    const [begins, ends] = [instantOf(zone, day - dayLength), instantOf(zone, day + dayLength)]
    const lastsUntil = ({ at, waited, talked, end }: Leg) => waited === null || (end === 'answered' && talked === null) ? now : at + waited + (talked ?? 0)
    const own = ordered.filter(one => one.at < ends && (one.at >= begins || lastsUntil(one) > begins))
    if (own.length > 0 || attended.length > 0) maker.add(day, JSON.parse(JSON.stringify(dayFigures(day, own, attended, { line, queue }, rules, now))))
  }
  return maker.finish()
}

const dayLength = 24 * 60 * minute
const may12 = Date.UTC(2031, 4, 12)
const noon = instantOf(zone, Date.UTC(2031, 4, 12, 12))
const rule = { kind: 'offered', shortAbandon: 5 * second } as const

describe('the figures of a period', () => {
  it('count who was answered, within the promise, who gave up, and how soon', () => {
    const { total } = reportOf({ from: may12 }, [
      leg(noon), leg(noon + 1, { waited: 30 * second }), leg(noon + 2, { end: 'abandoned', by: null, waited: 2 * second, talked: null }),
      leg(noon + 3, { end: 'abandoned', by: null, waited: 50 * second, talked: null }),
    ])
    expect(total).toMatchObject({ offered: 4, answered: 2, within: 1, abandoned: 2, short: 1, longest: 50 * second, waited: 40 * second, talked: 120 * second })
    expect(serviceLevel(total, rule)).toBeCloseTo(1 / 3)
    expect(serviceLevel(total, { ...rule, kind: 'answered' })).toBe(0.5)
  })

  it('of an empty period are nothing, and a service level of nothing is none', () => {
    const { total, bySteps, waits, operators, flow } = reportOf({ from: may12 }, [])
    expect([total.offered, bySteps.length, operators, flow]).toEqual([0, 1, [], []])
    expect(waits.answered).toHaveLength(longestWait + 1)
    expect([serviceLevel(total, rule), serviceLevel(total, { ...rule, kind: 'answered' })]).toEqual([null, null])
    const onlyShort = reportOf({ from: may12 }, [leg(noon, { end: 'abandoned', by: null, waited: second, talked: null })]).total
    expect(serviceLevel(onlyShort, rule)).toBeNull()
  })

  it('of a queue are those of its own legs: a caller in two queues is in the figures of both', () => {
    const legs = [
      leg(noon, { waited: 9 * second }),
      leg(noon, { of: 'group', place: 'queue:freight', end: 'movedOn', by: null, waited: 30 * second, talked: null, next: 'queue:bookings' }),
      leg(noon + 30 * second, { of: 'group', place: 'queue:bookings', waited: 5 * second, talked: 50 * second }),
    ]
    const all = reportOf({ from: may12 }, legs)
    expect(all.total.offered).toBe(1)
    expect(all.byQueue.map(({ id, offered, answered, movedLate }) => [id, offered, answered, movedLate])).toEqual([
      ['queue:freight', 1, 0, 1], ['queue:bookings', 1, 1, 0],
    ])
    const freight = reportOf({ from: may12, queue: 'queue:freight' }, legs)
    expect(freight.total).toMatchObject({ offered: 1, answered: 0, movedOn: 1 })
    expect(serviceLevel(freight.total, rule)).toBe(0)
  })

  it('a call that comes back is offered to nobody anew', () => {
    const { byQueue, byDestination } = reportOf({ from: may12 }, [
      leg(noon, { of: 'group', place: 'operators', next: 't2105' }),
      leg(noon + minute, { of: 'telephone', place: 't2105', passedBy: 't2100', end: 'movedOn', cause: 'noAnswer', by: null, talked: null, next: 'operators' }),
      leg(noon + 2 * minute, { of: 'group', place: 'operators', back: true }),
    ])
    expect(byQueue[0]).toMatchObject({ offered: 1, answered: 1, back: 1, conversations: 2 })
    expect(byDestination).toEqual([{ id: 't2105', calls: 1, answered: 0, back: [{ cause: 'noAnswer', calls: 1 }] }])
  })

  it('a call over midnight and over a month\'s end counts on the day on which it began, its minutes in the hours in which they were', () => {
    const june = instantOf(zone, Date.UTC(2031, 5, 1))
    const legs = [leg(june - 10 * minute, { waited: 0, talked: 40 * minute })]
    const [may, after] = [reportOf({ from: Date.UTC(2031, 4, 31) }, legs), reportOf({ from: Date.UTC(2031, 5, 1) }, legs)]
    expect([may.total.offered, after.total.offered]).toEqual([1, 0])
    expect([may.byHalfHour[47]!.minutes, after.byHalfHour[0]!.minutes]).toEqual([10, 30])
  })

  it('the half-hours of a changed clock are there twice, or never, and no call is lost in them', () => {
    const autumn = [instantOf(zone, Date.UTC(2026, 9, 25)), instantOf(zone, Date.UTC(2026, 9, 26))] as const
    const legs = Array.from({ length: 100 }, (_, at) => leg(autumn[0] + at * 15 * minute)).filter(({ at }) => at < autumn[1])
    const { byHalfHour, total, bySteps } = reportOf({ from: Date.UTC(2026, 9, 25) }, legs)
    expect(total.offered).toBe(100)
    expect(byHalfHour[2]).toMatchObject({ times: 2, tally: { offered: 4 } })
    expect(byHalfHour[4]).toMatchObject({ times: 1, tally: { offered: 2 } })
    expect(bySteps).toHaveLength(1)
    expect(reportOf({ from: Date.UTC(2027, 2, 28) }, []).byHalfHour.map(({ times }) => times).slice(0, 6)).toEqual([1, 1, 0, 0, 1, 1])
  })

  it('who holds one caller and asks a colleague meanwhile is on calls once, and only while they are there', () => {
    const attended = [{ device: 't2100', from: noon, until: noon + 10 * minute }]
    const desk = (at: number, of: Leg['of'], talked: number) => leg(at, { of, place: of === 'made' ? 't2100' : 'operators', waited: 0, talked })
    const { operators } = reportOf({ from: may12, attended }, [
      desk(noon + minute, 'group', 4 * minute), desk(noon + 2 * minute, 'made', minute), desk(noon + 8 * minute, 'group', 5 * minute),
    ])
    expect(operators).toEqual([{ id: 't2100', calls: 3, talked: 10 * minute, held: 0, attended: 10 * minute, engaged: 6 * minute }])
  })

  it('say who called again within a day, and what had become of their first call', () => {
    const again = (number: string, at: number, end: Leg['end']) => leg(at, { number, end, by: end === 'answered' ? 't2100' : null, talked: null })
    const { again: found } = reportOf({ from: may12, to: may12 + dayLength }, [
      again('+441', noon, 'abandoned'), again('+441', noon + minute, 'answered'), again('+441', noon + dayLength, 'answered'), again('+442', noon, 'answered'),
      again('+441', noon + 2 * dayLength - minute, 'answered'),
    ])
    expect(found).toEqual({ calls: 2, answered: 1, abandoned: 1, other: 0 })
  })

  it('go by weeks and months when there are many days, and every call is in one of them', () => {
    const year = Date.UTC(2030, 0, 1)
    const legs = Array.from({ length: 700 }, (_, at) => leg(instantOf(zone, year) + at * dayLength + 5))
    for (const [days, step, many] of [[92, 'day', 92], [200, 'week', 29], [700, 'week', 101], [1_000, 'month', 33]] as const) {
      const { bySteps, step: its, total } = reportOf({ from: year, to: year + (days - 1) * dayLength }, legs)
      expect([its, bySteps.length]).toEqual([step, many])
      expect(bySteps.reduce((sum, { tally }) => sum + tally.offered, 0)).toBe(total.offered)
    }
  })
})

const anyLeg = fc.record({
  of: fc.constantFrom(...legKinds), place: fc.constantFrom('general', 'operators', 'queue:freight', 't2105'), at: fc.nat({ max: 3 * dayLength }),
  direction: fc.constantFrom(...directions), line: fc.constantFrom(null, 'general', 'freight'), number: fc.constantFrom(null, '+441', '+442'),
  passedBy: fc.constantFrom(null, 't2100'), back: fc.boolean(), end: fc.constantFrom(...legEnds), cause: fc.constantFrom(null, ...causes),
  by: fc.constantFrom(null, 't2100', 't2101'), waited: fc.option(fc.nat({ max: 40 * minute })), talked: fc.option(fc.nat({ max: 3 * 60 * minute })),
  held: fc.nat({ max: 100 }).map(seconds => seconds * second), next: fc.constantFrom(null, 'operators', 'mailbox:t2105', 'outside'),
}).map(it => ({ ...it, call: 'c' }) satisfies Leg)

describe('whatever the legs', () => {
  const from = instantOf(zone, Date.UTC(2026, 9, 24))
  const until = instantOf(zone, Date.UTC(2026, 9, 27))

  it('sums are those of counting them one by one', () => {
    const lines = fc.constantFrom(null, 'general')
    const queues = fc.constantFrom(null, 'queue:freight')
    fc.assert(fc.property(fc.array(anyLeg, { maxLength: 80 }), lines, queues, (drawn, line, queue) => {
      const legs = drawn.map(one => ({ ...one, at: from - dayLength / 2 + one.at }))
      const asked = legs.filter(one => !line || one.line === line)
      const isIn = ({ at }: Leg) => at >= from && at < until
      const isBlocked = ({ of, cause }: Leg) => of === 'line' && cause === 'blocked'
      const isCounted = (one: Leg) => (queue ? one.of === 'group' && one.place === queue : one.of === 'line') && !isBlocked(one)
      const { total, byHalfHour, bySteps, byQueue, waits, blocked } = reportOf({ from: Date.UTC(2026, 9, 24), to: Date.UTC(2026, 9, 26), line, queue }, legs)
      const counted = asked.filter(one => isCounted(one) && isIn(one))
      const offered = counted.filter(({ back }) => !back)
      expect(total.offered).toBe(offered.length)
      expect(total.back).toBe(counted.length - offered.length)
      for (const end of ['answered', 'abandoned', 'mailbox', 'lost', 'waiting'] as const) expect(total[end]).toBe(offered.filter(one => one.end === end).length)
      expect(total.within).toBe(offered.filter(one => one.end === 'answered' && (one.waited ?? now - one.at) <= 20 * second).length)
      for (const tallies of [byHalfHour, bySteps]) expect(tallies.reduce((sum, { tally }) => sum + tally.offered, 0)).toBe(offered.length)
      expect(waits.answered.reduce((a, b) => a + b)).toBe(total.answered)
      expect(byQueue.reduce((sum, { offered: some }) => sum + some, 0))
        .toBe(asked.filter(one => one.of === 'group' && !one.back && isIn(one) && (!queue || one.place === queue)).length)
      expect(blocked).toBe(queue ? 0 : asked.filter(one => isBlocked(one) && isIn(one)).length)
      const minutes = asked.filter(isCounted)
        .filter(({ end, by }) => end === 'answered' && by !== null).reduce((sum, { at, waited, talked }) => {
          const begun = at + (waited ?? now - at)
          const over = begun + (talked ?? Math.max(0, now - begun))
          return sum + Math.max(0, Math.min(over, until) - Math.max(begun, from))
        }, 0)
      expect(byHalfHour.reduce((sum, one) => sum + one.minutes, 0)).toBeCloseTo(minutes / minute, 6)
    }), { numRuns: 300 })
  })

  it('clocks are ahead by what they show', () => {
    const places = fc.constantFrom('Europe/London', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'America/St_Johns', 'UTC')
    fc.assert(fc.property(places, fc.nat({ max: 700 }), (where, days) => {
      const [begin, end] = [Date.UTC(2026, 0, 1) + days * dayLength, Date.UTC(2026, 0, 1) + (days + 40) * dayLength]
      const offsets = offsetsOf(where, begin, end)
      for (let at = begin; at < end; at += 47 * minute) {
        const { offset } = offsets.findLast(({ from: since }) => since <= at)!
        expect(at + offset).toBe(localTime(where, at))
      }
    }), { numRuns: 20 })
  })
})
