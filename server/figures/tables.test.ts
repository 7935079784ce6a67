import { parse } from 'csv-parse/sync'
import { describe, expect, it } from 'vitest'
import { dayFigures } from '~~/core/figures/day'
import type { Leg } from '~~/core/figures/legs'
import { ReportMaker } from '~~/core/figures/report'
import { figureTables } from '~~/shared/figures'
import { figureTable } from './tables'

const day = Date.UTC(2031, 4, 12)
const rule = { kind: 'offered', shortAbandon: 0 } as const

function figuresOf(legs: Partial<Leg>[]) {
  const maker = new ReportMaker('UTC', day, day)
  const whole = legs.map((leg): Leg => ({
    call: 'c', of: 'line', place: 'general', at: day + 36_000_000, direction: 'inbound', line: 'general', number: '=1+1', passedBy: null, back: false,
    end: 'answered', cause: null, by: 't2100', waited: 10_000, talked: 60_000, held: 0, next: null, ...leg,
  }))
  const rules = { zone: 'UTC', promiseOf: () => 20_000, shortAbandon: 0 }
  maker.add(day, dayFigures(day, whole, [], { line: null, queue: null }, rules, day + 172_800_000))
  const names = { 'general': '=1+1', 'operators': '@all', 't2100': '-2+3', 't2105': '＝cmd()', 'slot:1': '+5' }
  return { ...maker.finish(), from: '2031-05-12', to: '2031-05-12', names }
}

describe('the tables of a report as CSV', () => {
  it('hold no formula, whatever lines, queues and people are called, and as many cells in every row', () => {
    const figures = figuresOf([
      {}, { of: 'group', place: 'operators', next: 't2105' }, { of: 'slot', place: 'slot:1' },
      { of: 'telephone', place: 't2105', passedBy: 't2100', end: 'movedOn', cause: 'noAnswer', by: null, talked: null },
    ])
    for (const table of figureTables) {
      const rows = parse(figureTable(figures, table, rule)) as string[][]
      expect(rows.length, table).toBeGreaterThan(1)
      expect(rows.flat().filter(cell => /^[=+\-@＝＋－＠\t\r]/.test(cell)), table).toEqual([])
      expect(new Set(rows.map(row => row.length)).size, table).toBe(1)
    }
    expect(figureTable(figures, 'lines', rule)).toContain('\'=1+1,1,1,1,0,0,0,0,0,0,0,0,1.0000,10,10,60')
  })

  it('of nothing are the names of their columns alone, or empty half-hours and days', () => {
    const figures = figuresOf([])
    expect(figureTable(figures, 'lines', rule).trim().split('\r\n')).toHaveLength(1)
    expect(figureTable(figures, 'halfHours', rule).trim().split('\r\n')).toHaveLength(49)
    expect(figureTable(figures, 'days', rule)).toContain('2031-05-12,0,0,0,0,0,0,0,0,0,0,0,,,0,\r\n')
  })
})
