import { describe, expect, it } from 'vitest'
import { readCalendar } from './occurrences'

/**
 * The examples of RFC 5545, 3.8.5.3, as they stand there: each begins on 2 September 1997 at nine in New York, but for those that say otherwise. The dates are
 * the document's own; of rules without an end the first of them.
 */
const zone = 'America/New_York'
const window = { from: Date.UTC(1996, 0, 1), to: Date.UTC(2003, 0, 1) }

/** Days on which it takes place, as the clock in New York shows them, and the hours where there are several. */
function daysOf(rule: string, { begins = '19970902T090000', more = [] as string[], until = Infinity } = {}): string[] {
  const { occurrences, problems } = readCalendar([
    'BEGIN:VCALENDAR', 'VERSION:2.0', 'BEGIN:VEVENT', 'UID:1', `DTSTART;TZID=${zone}:${begins}`, 'DURATION:PT10M', `RRULE:${rule}`, ...more, 'END:VEVENT',
    'END:VCALENDAR', '',
  ].join('\r\n'), { titles: false, window: { ...window, to: Math.min(window.to, until) }, zone })
  expect(problems).toEqual([])
  const shown = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' })
  return occurrences.map(({ from }) => shown.format(from))
}
const at = (...days: string[]) => days.map(day => `${day} 09:00`)
/** "1997-09: 2 3 4" */
const days = (text: string) => text.split(';').flatMap((part) => {
  const [month, list] = part.split(':') as [string, string]
  return list.trim().split(/\s+/).map(day => `${month.trim()}-${day.padStart(2, '0')} 09:00`)
})
const range = (month: string, from: number, to: number) => `${month}: ${Array.from({ length: to - from + 1 }, (_, index) => from + index).join(' ')}`

describe('the rules of RFC 5545\'s own examples', () => {
  it.each<[string, string, string[], Parameters<typeof daysOf>[1]?]>([
    ['daily for 10 occurrences', 'FREQ=DAILY;COUNT=10', days(range('1997-09', 2, 11))],
    ['daily until December 24', 'FREQ=DAILY;UNTIL=19971224T000000Z', days([
      range('1997-09', 2, 30), range('1997-10', 1, 31), range('1997-11', 1, 30), range('1997-12', 1, 23),
    ].join(';'))],
    ['every 10 days, 5 occurrences', 'FREQ=DAILY;INTERVAL=10;COUNT=5', days('1997-09: 2 12 22; 1997-10: 2 12')],
    ['weekly for 10 occurrences', 'FREQ=WEEKLY;COUNT=10', days('1997-09: 2 9 16 23 30; 1997-10: 7 14 21 28; 1997-11: 4')],
    ['weekly until December 24', 'FREQ=WEEKLY;UNTIL=19971224T000000Z', days(
      '1997-09: 2 9 16 23 30; 1997-10: 7 14 21 28; 1997-11: 4 11 18 25; 1997-12: 2 9 16 23')],
    ['weekly on Tuesday and Thursday for five weeks', 'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
      days('1997-09: 2 4 9 11 16 18 23 25 30; 1997-10: 2')],
    ['every other week on Monday, Wednesday, and Friday', 'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR', days(
      '1997-09: 1 3 5 15 17 19 29; 1997-10: 1 3 13 15 17 27 29 31; 1997-11: 10 12 14 24 26 28; 1997-12: 8 10 12 22'), { begins: '19970901T090000' }],
    ['every other week on Tuesday and Thursday, for 8 occurrences', 'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
      days('1997-09: 2 4 16 18 30; 1997-10: 2 14 16')],
    ['monthly on the first Friday for 10 occurrences', 'FREQ=MONTHLY;COUNT=10;BYDAY=1FR', at(
      '1997-09-05', '1997-10-03', '1997-11-07', '1997-12-05', '1998-01-02', '1998-02-06', '1998-03-06', '1998-04-03', '1998-05-01', '1998-06-05'),
    { begins: '19970905T090000' }],
    ['every other month on the first and last Sunday', 'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU', at(
      '1997-09-07', '1997-09-28', '1997-11-02', '1997-11-30', '1998-01-04', '1998-01-25', '1998-03-01', '1998-03-29', '1998-05-03', '1998-05-31'),
    { begins: '19970907T090000' }],
    ['monthly on the second-to-last Monday for 6 months', 'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', at(
      '1997-09-22', '1997-10-20', '1997-11-17', '1997-12-22', '1998-01-19', '1998-02-16'), { begins: '19970922T090000' }],
    ['monthly on the 2nd and 15th for 10 occurrences', 'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15', at(
      '1997-09-02', '1997-09-15', '1997-10-02', '1997-10-15', '1997-11-02', '1997-11-15', '1997-12-02', '1997-12-15', '1998-01-02', '1998-01-15')],
    ['monthly on the first and last day for 10 occurrences', 'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1', at(
      '1997-09-30', '1997-10-01', '1997-10-31', '1997-11-01', '1997-11-30', '1997-12-01', '1997-12-31', '1998-01-01', '1998-01-31', '1998-02-01'),
    { begins: '19970930T090000' }],
    ['every 18 months on the 10th thru 15th for 10 occurrences', 'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15',
      days('1997-09: 10 11 12 13 14 15; 1999-03: 10 11 12 13'), { begins: '19970910T090000' }],
    ['yearly in June and July for 10 occurrences', 'FREQ=YEARLY;COUNT=10;BYMONTH=6,7', at(
      '1997-06-10', '1997-07-10', '1998-06-10', '1998-07-10', '1999-06-10', '1999-07-10', '2000-06-10', '2000-07-10', '2001-06-10', '2001-07-10'),
    { begins: '19970610T090000' }],
    ['every third year on the 1st, 100th, and 200th day', 'FREQ=YEARLY;INTERVAL=3;COUNT=5;BYYEARDAY=1,100,200', at(
      '1997-01-01', '1997-04-10', '1997-07-19', '2000-01-01', '2000-04-09'), { begins: '19970101T090000' }],
    ['every 20th Monday of the year', 'FREQ=YEARLY;BYDAY=20MO;COUNT=3', at('1997-05-19', '1998-05-18', '1999-05-17'), { begins: '19970519T090000' }],
    ['Monday of week number 20', 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO;COUNT=3', at('1997-05-12', '1998-05-11', '1999-05-17'), { begins: '19970512T090000' }],
    ['every Thursday in March', 'FREQ=YEARLY;BYMONTH=3;BYDAY=TH;COUNT=8',
      days('1997-03: 13 20 27; 1998-03: 5 12 19 26; 1999-03: 4'), { begins: '19970313T090000' }],
    ['the first Saturday that follows the first Sunday of the month', 'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13;COUNT=10', at(
      '1997-09-13', '1997-10-11', '1997-11-08', '1997-12-13', '1998-01-10', '1998-02-07', '1998-03-07', '1998-04-11', '1998-05-09', '1998-06-13'),
    { begins: '19970913T090000' }],
    ['US presidential election day', 'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8;COUNT=2',
      at('1996-11-05', '2000-11-07'), { begins: '19961105T090000' }],
    ['the third Tuesday, Wednesday, or Thursday, for three months', 'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3',
      at('1997-09-04', '1997-10-07', '1997-11-06'),
      { begins: '19970904T090000' }],
    ['the second-to-last weekday of the month', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2;COUNT=7', at(
      '1997-09-29', '1997-10-30', '1997-11-27', '1997-12-30', '1998-01-29', '1998-02-26', '1998-03-30'), { begins: '19970929T090000' }],
    ['where the week begins makes a difference: Monday', 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO',
      at('1997-08-05', '1997-08-10', '1997-08-19', '1997-08-24'),
      { begins: '19970805T090000' }],
    ['where the week begins makes a difference: Sunday', 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU',
      at('1997-08-05', '1997-08-17', '1997-08-19', '1997-08-31'),
      { begins: '19970805T090000' }],
    ['an invalid date is left out', 'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', at('2000-01-15', '2000-01-30', '2000-02-15', '2000-03-15', '2000-03-30'),
      { begins: '20000115T090000' }],
  ])('%s', (_, rule, expected, how) => {
    expect(daysOf(rule, how)).toEqual(expected)
  })

  it('every Friday the 13th', () => {
    const more = [`EXDATE;TZID=${zone}:19970902T090000`]
    expect(daysOf('FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;COUNT=5', { more })).toEqual(at('1998-02-13', '1998-03-13', '1998-11-13', '1999-08-13', '2000-10-13'))
  })

  it('every 20 minutes of a working day, written as days', () => {
    const found = daysOf('FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40', { until: Date.UTC(1997, 8, 3, 4) })
    expect([found.length, found[0], found[1], found.at(-1)]).toEqual([24, '1997-09-02 09:00', '1997-09-02 09:20', '1997-09-02 16:40'])
  })
})
