import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { greetingsAsText, greetingsOf, holidaysAsText, holidaysOf, weekAsText, weekOf } from './hours'

describe('opening hours as lines', () => {
  it('come back as they went out', () => {
    const span = fc.record({ day: fc.integer({ min: 1, max: 7 }), opens: fc.integer({ min: 0, max: 1_439 }) }).map(one => ({ ...one, closes: one.opens + 1 }))
    fc.assert(fc.property(fc.uniqueArray(span, { maxLength: 12, selector: one => `${one.day} ${one.opens}` }), (week) => {
      const inOrder = [...week].sort((a, b) => a.day - b.day || a.opens - b.opens)
      expect(weekOf(weekAsText(week))).toEqual(inOrder)
    }))
    const holidays = [{ date: '2031-12-25', name: 'Christmas Day' }, { date: '2031-05-12', name: '' }]
    expect(holidaysOf(holidaysAsText(holidays))).toEqual(holidays)
  })

  it('greetings too, whatever their words look like', () => {
    const greeting = fc.record({
      language: fc.constantFrom('', 'Dutch', 'Scots Gaelic'), from: fc.nat(1_439),
      text: fc.oneof(fc.constantFrom('18:00 is late', 'Merrowby: hello', 'a b: c', '7.30 d'), fc.stringMatching(/^[!-~]([ -~]{0,20}[!-~])?$/)),
    })
    fc.assert(fc.property(fc.array(greeting), (all) => {
      expect(greetingsOf(greetingsAsText(all))).toEqual(all)
    }))
    expect(greetingsOf('  Dutch:  18.30  Goedenavond, Merrowby \n25:00 never\n')).toEqual([{ language: 'Dutch', from: 1_110, text: 'Goedenavond, Merrowby' }])
  })

  it('are read as people write them; what means nothing is nothing', () => {
    expect(weekOf('mon 8.00 – 12.00, 13:00-18:00\nnever 9-5\n')).toEqual([{ day: 1, opens: 480, closes: 720 }, { day: 1, opens: 780, closes: 1_080 }])
    expect(holidaysOf('Christmas\n 2031-12-26  Boxing Day ')).toEqual([{ date: '2031-12-26', name: 'Boxing Day' }])
  })
})
