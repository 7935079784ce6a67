import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inEnglish } from '../../words/in-english'
import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { greetingsAsText, holidaysAsText, readGreetings, readHolidays, readTimes, readWeek, timesAsText, weekdays } from './written'

const at = (hour: number, minute = 0) => hour * 60 + minute
const span = (opens: number, closes: number) => ({ opens: at(opens), closes: at(closes) })

const dayNames = weekdays.map(day => spoken(english, day))

describe('the times of a day', () => {
  it.each([
    ['8:00-12:00 13:00-18:00', [span(8, 12), span(13, 18)]],
    ['8-12, 13-18', [span(8, 12), span(13, 18)]],
    ['8.30 – 12 and 13 to 17.15', [{ opens: at(8, 30), closes: at(12) }, { opens: at(13), closes: at(17, 15) }]],
    ['9am-5pm', [span(9, 17)]],
    ['9-5pm', [span(9, 17)]],
    ['1-5 pm', [span(13, 17)]],
    ['12pm-1pm', [span(12, 13)]],
    ['0800-1630', [{ opens: at(8), closes: at(16, 30) }]],
    ['8h30-12h', [{ opens: at(8, 30), closes: at(12) }]],
    ['von 8 bis 18 Uhr', [span(8, 18)]],
    ['18:00-24:00', [span(18, 24)]],
    ['18:00-0:00', [span(18, 24)]],
    ['all day', [span(0, 24)]],
    ['13-18; 8-12', [span(8, 12), span(13, 18)]],
    ['closed', []],
    ['geschlossen', []],
    ['', []],
    [' – ', []],
  ])('%j', (text, spans) => {
    expect(readTimes(text)).toEqual({ spans, fault: null })
  })

  it.each([
    ['8-25', /can't be read/], ['eight to five', /can't be read/], ['8:00', /can't be read/], ['8-12 lunch 13-18', /can't be read/],
    ['8:75-12', /can't be read/],
    ['18-8', /closes at 8:00, before it opens at 18:00/], ['8-12 11-18', /opens at 11:00, and is open then already/],
  ])('%j is refused', (text, why) => {
    expect(inEnglish(readTimes(text).fault)).toMatch(why)
  })

  it('come back as they are shown', () => {
    const minutes = fc.uniqueArray(fc.integer({ min: 0, max: 1_440 }), { minLength: 2, maxLength: 8 })
    fc.assert(fc.property(minutes, (all) => {
      const sorted = [...all].sort((a, b) => a - b)
      const spans = Array.from({ length: Math.floor(sorted.length / 2) }, (_, index) => ({ opens: sorted[2 * index]!, closes: sorted[2 * index + 1]! }))
      expect(readTimes(timesAsText(spans))).toEqual({ spans, fault: null })
    }))
  })
})

describe('a week', () => {
  const all = (from: number, to: number, opens: number, closes: number) =>
    Array.from({ length: to - from + 1 }, (_, index) => ({ day: from + index, ...span(opens, closes) }))

  it.each([
    ['Mon 8:00-12:00 13:00-18:00 / Tue-Thu 8-18 / friday 8:00-16:00',
      [{ day: 1, ...span(8, 12) }, { day: 1, ...span(13, 18) }, ...all(2, 4, 8, 18), ...all(5, 5, 8, 16)]],
    ['Mon-Fri 9-17\nSat, Sun closed', all(1, 5, 9, 17)],
    ['Mo bis Fr: 8-17 Uhr\nSa: 9-12', [...all(1, 5, 8, 17), ...all(6, 6, 9, 12)]],
    ['lundi au vendredi 9h-17h', all(1, 5, 9, 17)],
    ['weekdays 8-18', all(1, 5, 8, 18)],
    ['Fri-Mon 10-16', [...all(1, 1, 10, 16), ...all(5, 7, 10, 16)]],
    ['Thurs. & Sat 9-12; Wednesdays 10-11', [{ day: 3, ...span(10, 11) }, { day: 4, ...span(9, 12) }, { day: 6, ...span(9, 12) }]],
    ['daily all day', all(1, 7, 0, 24)],
  ])('%j', (text, week) => {
    expect(readWeek(text)).toEqual({ is: week, faults: [] })
  })

  it('tells the line that it can\'t read, and what is wrong with it', () => {
    const { is, faults } = readWeek('Mon 8-18\nnever 9-5\nTue\nWed 18-8\nMon 9-10\n8-12')
    expect(is).toEqual([{ day: 1, ...span(8, 18) }])
    expect(inEnglish(faults)).toEqual([
      expect.stringMatching(/^Line 2, “never 9-5”: it begins with no day/), expect.stringMatching(/^Line 3, “Tue”: no times/),
      expect.stringMatching(/^Line 4, “Wed 18-8”: It closes at 8:00/), expect.stringMatching(/^Line 5, “Mon 9-10”: Monday stands there already/),
      expect.stringMatching(/^Line 6, “8-12”: it begins with no day/),
    ])
  })

  it('keeps each line, or says what is wrong with it, whatever is written', () => {
    const words = fc.constantFrom('Mon', 'tue-thu', 'Fri', 'x', '8-12', '13:00-18:00', 'closed', '/', ',', '25-26', '\n', 'and', '–')
    fc.assert(fc.property(fc.array(words, { maxLength: 12 }).map(all => all.join(' ')), (text) => {
      const { is, faults } = readWeek(text)
      const lines = text.split('\n').flatMap(line => line.split(/\s\/\s|;/)).filter(part => part.trim() !== '')
      const days = new Set(is.map(({ day }) => day))
      if (faults.length === 0) expect(lines.length === 0 || days.size > 0 || /closed|–/.test(text)).toBe(true)
      expect(faults.length).toBeLessThanOrEqual(lines.length)
    }))
  })

  it.each(dayNames)('%s is known in the languages around', (name) => {
    expect(readWeek(`${name} 8-9`).is).toEqual([{ day: dayNames.indexOf(name) + 1, ...span(8, 9) }])
  })
})

describe('holidays', () => {
  it.each([
    ['2026-12-25 Christmas Day', '2026-12-25', 'Christmas Day'], ['26.12.2026', '2026-12-26', ''], ['26/12/2026 Boxing Day', '2026-12-26', 'Boxing Day'],
    ['1 May 2027: Labour Day', '2027-05-01', 'Labour Day'], ['May 1st, 2027 Labour Day', '2027-05-01', 'Labour Day'],
    ['3. Oktober 2027 Einheit', '2027-10-03', 'Einheit'],
    ['14 juillet 2027', '2027-07-14', ''], ['12/26/2026 Boxing Day', '2026-12-26', 'Boxing Day'],
  ])('%j', (line, date, name) => {
    expect(readHolidays(line)).toEqual({ is: [{ date, name }], faults: [] })
  })

  it('puts the month first where people do', () => {
    expect(readHolidays('4/7/2027').is[0]!.date).toBe('2027-07-04')
    expect(readHolidays('7/4/2027', true).is[0]!.date).toBe('2027-07-04')
    expect(readHolidays('4.7.2027', true).is[0]!.date).toBe('2027-07-04')
  })

  it('tells what is none: no year, no such day, a day twice', () => {
    const { is, faults } = readHolidays('2026-12-25\nChristmas\n26 December\n31.2.2027\n2027-13-01\n25.12.2026')
    expect(is).toEqual([{ date: '2026-12-25', name: '' }])
    expect((inEnglish(faults) as string[]).map(fault => fault.split(',')[0])).toEqual(['Line 2', 'Line 3', 'Line 4', 'Line 5', 'Line 6'])
    expect(inEnglish(faults[4])).toContain('already')
  })

  it('come back as they went out', () => {
    const holidays = [{ date: '2031-05-12', name: '' }, { date: '2031-12-25', name: 'Christmas Day' }]
    expect(readHolidays(holidaysAsText(holidays)).is).toEqual(holidays)
  })
})

describe('greetings', () => {
  it('come back as they went out, whatever their words look like', () => {
    const greeting = fc.record({
      language: fc.constantFrom('', 'Dutch', 'Scots Gaelic'), from: fc.nat(1_439),
      text: fc.oneof(fc.constantFrom('18:00 is late', 'Merrowby: hello', 'a b: c', '7.30 d'), fc.stringMatching(/^[!-~]([ -~]{0,20}[!-~])?$/)),
    })
    fc.assert(fc.property(fc.array(greeting), (all) => {
      expect(readGreetings(greetingsAsText(all))).toEqual({ is: all, faults: [] })
    }))
  })

  it('tell a time that is none', () => {
    expect(inEnglish(readGreetings('  Dutch:  18.30  Goedenavond, Merrowby \n25:00 never\nDutch: 9:00\n'))).toEqual({
      is: [{ language: 'Dutch', from: 1_110, text: 'Goedenavond, Merrowby' }],
      faults: ['Line 2, “25:00 never”: 25:00 is no time of day.', 'Line 3, “Dutch: 9:00”: nothing stands there to be said.'],
    })
  })
})
