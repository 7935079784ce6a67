import { inEnglish } from '../../words/in-english'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { NoCalendar, readCalendar } from './occurrences'
import { dayOf, instantOf, localTime } from './zones'

const london = 'Europe/London'
const calendar = (...lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Merrowby//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n')
const event = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:nell@merrowby.example', ...lines, 'END:VEVENT']
const another = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:another', ...lines, 'END:VEVENT']
const window = (from: string, to: string) => ({ from: Date.parse(from), to: Date.parse(to) })
const november = window('2026-11-01T00:00Z', '2026-12-01T00:00Z')
const inUtc = (at: number) => new Date(at).toISOString().slice(0, 16)
const occurrencesOf = (text: string, within: { from: number, to: number }, zone: string) => readCalendar(text, { titles: true, window: within, zone })
const spans = (text: string, within = november, zone = london) =>
  occurrencesOf(text, within, zone).occurrences.map(({ from, to }) => `${inUtc(from)}/${inUtc(to)}`)

describe('clocks', () => {
  test('an instant and what the clock shows belong together, also on the days on which clocks change', () => {
    fc.assert(fc.property(
      fc.integer({ min: Date.UTC(1990, 0, 1), max: Date.UTC(2040, 0, 1) }),
      fc.constantFrom(london, 'America/St_Johns', 'Pacific/Chatham', 'Asia/Kolkata', 'UTC'),
      (at, zone) => {
        const second = Math.floor(at / 1_000) * 1_000
        const back = instantOf(zone, localTime(zone, second))
        expect(localTime(zone, back)).toBe(localTime(zone, second))
        expect(back).toBeLessThanOrEqual(second)
        const { begins, ends } = dayOf(zone, second)
        expect(begins <= second && second < ends).toBe(true)
        expect([23, 23.5, 24, 24.5, 25]).toContain((ends - begins) / 3_600_000)
      },
    ))
  })

  test('a time that the clock shows twice is the first of them; one that it leaves out is read as before the change', () => {
    expect(new Date(instantOf(london, Date.UTC(2026, 9, 25, 1, 30))).toISOString()).toBe('2026-10-25T00:30:00.000Z')
    expect(new Date(instantOf(london, Date.UTC(2026, 2, 29, 1, 30))).toISOString()).toBe('2026-03-29T01:30:00.000Z')
  })
})

describe('what takes place', () => {
  test('once, in UTC, in a zone by name, and by the clock of the house', () => {
    expect(spans(calendar(...event('DTSTART:20261126T090000Z', 'DTEND:20261126T100000Z')))).toEqual(['2026-11-26T09:00/2026-11-26T10:00'])
    expect(spans(calendar(...event('DTSTART;TZID=Europe/Oslo:20261126T090000', 'DURATION:PT90M')))).toEqual(['2026-11-26T08:00/2026-11-26T09:30'])
    const floating = calendar(...event('DTSTART:20261126T090000', 'DTEND:20261126T100000'))
    expect(spans(floating, november, 'America/New_York')).toEqual(['2026-11-26T14:00/2026-11-26T15:00'])
  })

  test('daily without end stays at nine when clocks change, however long ago it began', () => {
    const text = calendar(...event('DTSTART;TZID=Europe/London:19990101T090000', 'DTEND;TZID=Europe/London:19990101T093000', 'RRULE:FREQ=DAILY'))
    expect(spans(text, window('2026-10-24T00:00Z', '2026-10-27T00:00Z'))).toEqual([
      '2026-10-24T08:00/2026-10-24T08:30', '2026-10-25T09:00/2026-10-25T09:30', '2026-10-26T09:00/2026-10-26T09:30',
    ])
    expect(occurrencesOf(text, november, london).occurrences).toHaveLength(30)
  })

  test('the last of a series counts, whether its end is said in UTC, as the clock shows it, or as a day', () => {
    const series = (end: string) => spans(calendar(...event(
      'DTSTART;TZID=Europe/Oslo:20261102T090000', 'DTEND;TZID=Europe/Oslo:20261102T100000', `RRULE:FREQ=WEEKLY;${end}`,
    ))).length
    expect([series('UNTIL=20261116T080000Z'), series('UNTIL=20261116T075959Z'), series('UNTIL=20261116'), series('COUNT=3')]).toEqual([3, 2, 3, 3])
  })

  test('repetitions are left out, added, moved into and out of sight, called off, and changed from one on', () => {
    const master = event('DTSTART;TZID=Europe/London:20261102T090000', 'DTEND;TZID=Europe/London:20261102T100000', 'RRULE:FREQ=WEEKLY',
      'EXDATE:20261109T090000Z', 'RDATE;TZID=Europe/London:20261110T150000')
    const moved = event('RECURRENCE-ID:20261207T090000Z', 'DTSTART:20261127T090000Z', 'DTEND:20261127T093000Z')
    const off = event('RECURRENCE-ID;TZID=Europe/London:20261116T090000', 'DTSTART;TZID=Europe/London:20261116T090000', 'DURATION:PT1H', 'STATUS:CANCELLED')
    const later = event('RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/London:20261123T090000', 'DTSTART;TZID=Europe/London:20261123T140000', 'DURATION:PT2H')
    expect(spans(calendar(...master, ...moved, ...off, ...later), window('2026-11-01T00:00Z', '2026-12-05T00:00Z'))).toEqual([
      '2026-11-02T09:00/2026-11-02T10:00', '2026-11-10T15:00/2026-11-10T16:00', '2026-11-23T14:00/2026-11-23T16:00',
      '2026-11-27T09:00/2026-11-27T09:30', '2026-11-30T14:00/2026-11-30T16:00',
    ])
  })

  test('whole days begin and end at midnight of the house, also the one on which clocks change; the day after the last is free', () => {
    const text = calendar(...event('DTSTART;VALUE=DATE:20261024', 'DTEND;VALUE=DATE:20261026'))
    const [only] = occurrencesOf(text, window('2026-10-20T00:00Z', '2026-10-30T00:00Z'), london).occurrences
    expect(only).toMatchObject({ from: Date.parse('2026-10-23T23:00Z'), to: Date.parse('2026-10-26T00:00Z'), allDay: true })
    expect(spans(calendar(...event('DTSTART;VALUE=DATE:20261126')))).toEqual(['2026-11-26T00:00/2026-11-27T00:00'])
  })

  test('what takes nobody\'s time is left out: free, called off, without a length', () => {
    expect(spans(calendar(
      ...event('DTSTART:20261126T090000Z', 'DTEND:20261126T100000Z', 'TRANSP:TRANSPARENT'),
      ...event('DTSTART:20261126T090000Z', 'DTEND:20261126T100000Z', 'STATUS:CANCELLED'),
      ...event('DTSTART:20261126T090000Z'), ...event('DTSTART:20261126T090000Z', 'DTEND:20261126T080000Z'),
    ))).toEqual([])
  })

  test('times called taken count; those called free do not', () => {
    expect(spans(calendar('BEGIN:VFREEBUSY', 'UID:f', 'FREEBUSY;FBTYPE=BUSY-UNAVAILABLE:20261126T090000Z/PT1H,20261126T130000Z/20261126T140000Z',
      'FREEBUSY;FBTYPE=FREE:20261126T150000Z/PT1H', 'END:VFREEBUSY'))).toEqual(['2026-11-26T09:00/2026-11-26T10:00', '2026-11-26T13:00/2026-11-26T14:00'])
  })

  test('a zone that only the calendar describes is believed; one that nobody knows is read as the house, and that is said', () => {
    const zone = ['BEGIN:VTIMEZONE', 'TZID:Harbour time', 'BEGIN:STANDARD', 'DTSTART:19700101T000000', 'TZOFFSETFROM:+0300', 'TZOFFSETTO:+0300',
      'END:STANDARD', 'END:VTIMEZONE']
    const meeting = (name: string) => event(`DTSTART;TZID=${name}:20261126T090000`, `DTEND;TZID=${name}:20261126T100000`)
    expect(spans(calendar(...zone, ...meeting('Harbour time')))).toEqual(['2026-11-26T06:00/2026-11-26T07:00'])
    for (const text of [calendar(...meeting('Nowhere/Land')), calendar('BEGIN:VTIMEZONE', 'TZID:Nowhere/Land', 'END:VTIMEZONE', ...meeting('Nowhere/Land'))]) {
      expect(spans(text)).toEqual(['2026-11-26T09:00/2026-11-26T10:00'])
      const { problems } = occurrencesOf(text, november, london)
      expect(inEnglish(problems)).toEqual(['Nobody knows the time zone “Nowhere/Land”: its times were read as those of Europe/London.'])
    }
  })

  test('a zone that the calendar describes counts before one of that name, and of an hour that is there twice it is the first', () => {
    const rules = ['BEGIN:VTIMEZONE', 'TZID:Europe/London', 'BEGIN:STANDARD', 'DTSTART:19701025T030000', 'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
      'TZOFFSETFROM:+0300', 'TZOFFSETTO:+0200', 'END:STANDARD', 'BEGIN:DAYLIGHT', 'DTSTART:19700329T020000',
      'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU', 'TZOFFSETFROM:+0200',
      'TZOFFSETTO:+0300', 'END:DAYLIGHT', 'END:VTIMEZONE']
    const autumn = window('2026-10-01T00:00Z', '2026-12-01T00:00Z')
    const at = (time: string) => spans(calendar(...rules, ...event(`DTSTART;TZID=Europe/London:${time}`, 'DURATION:PT30M')), autumn)
    expect(at('20261126T090000')).toEqual(['2026-11-26T07:00/2026-11-26T07:30'])
    expect(at('20261001T090000')).toEqual(['2026-10-01T06:00/2026-10-01T06:30'])
    expect(at('20261025T023000'), 'twice').toEqual(['2026-10-24T23:30/2026-10-25T00:00'])
    expect(at('20261025T033000')).toEqual(['2026-10-25T01:30/2026-10-25T02:00'])
  })

  test('a mark of byte order before it, added times with a length of their own, and the latest of several versions', () => {
    expect(spans(`\uFEFF${calendar(...event('DTSTART:20261126T090000Z', 'DURATION:PT1H'))}`)).toEqual(['2026-11-26T09:00/2026-11-26T10:00'])
    const added = 'RDATE;VALUE=PERIOD:20261127T090000Z/PT3H,20261128T090000Z/20261128T091500Z'
    expect(spans(calendar(...event('DTSTART:20261126T090000Z', 'DURATION:PT1H', added)))).toEqual([
      '2026-11-26T09:00/2026-11-26T10:00', '2026-11-27T09:00/2026-11-27T12:00', '2026-11-28T09:00/2026-11-28T09:15',
    ])
    const version = (sequence: string[], hour: string, ...lines: string[]) => event(...sequence, `DTSTART:20261126T${hour}0000Z`, 'DURATION:PT1H', ...lines)
    const [old, next, latest] = [version([], '09'), version(['SEQUENCE:1'], '10'), version(['SEQUENCE:2'], '11')]
    for (const some of [[old, next, latest], [latest, old, next], [next, latest, old]])
      expect(spans(calendar(...some.flat()))).toEqual(['2026-11-26T11:00/2026-11-26T12:00'])
    expect(spans(calendar(...latest, ...version(['SEQUENCE:3'], '12', 'STATUS:CANCELLED')))).toEqual([])
  })

  test('twenty thousand single events are read; what is over is not kept, what comes is', () => {
    const at = (day: number) => new Date(Date.UTC(1980, 0, 1 + day)).toISOString().slice(0, 10).replaceAll('-', '')
    const all = calendar(...Array.from({ length: 20_000 }, (_, index) => [
      'BEGIN:VEVENT', `UID:${index}`, `DTSTART;TZID=Europe/London:${at(index)}T090000`, `DTEND;TZID=Europe/London:${at(index)}T100000`, 'END:VEVENT',
    ]).flat())
    const { content, occurrences, problems } = occurrencesOf(all, november, london)
    expect([occurrences.length, problems]).toEqual([30, []])
    expect(content.match(/BEGIN:VEVENT/g)!.length).toBeLessThan(20_000 - 17_000)
    // The kept one says the same, now and in days to come.
    for (const within of [november, window('2027-02-01T00:00Z', '2027-03-01T00:00Z')])
      expect(occurrencesOf(content, within, london).occurrences).toEqual(occurrencesOf(all, within, london).occurrences)
  })

  test('a rule that is cut short says so', () => {
    const to = (end: number) => Array.from({ length: end }, (_, at) => at).join(',')
    const often = `RRULE:FREQ=DAILY;BYHOUR=${to(24)};BYMINUTE=${to(60)}`
    const { occurrences, problems } = occurrencesOf(calendar(...event('DTSTART:20261101T000000Z', 'DURATION:PT1M', often)), november, london)
    expect(occurrences.length).toBeLessThanOrEqual(5_000)
    expect(inEnglish(problems)).toContain('An event repeats more than 5000 times in these weeks: the later ones were left out.')
  })

  test('a broken event is left out and said so; the others stay', () => {
    for (const broken of ['RRULE:FREQ=SECONDLY', 'RRULE:FREQ=WEEKLY;BYDAY=99XX', 'RRULE:NONSENSE', 'DTSTART:tomorrow']) {
      const text = calendar(...event(broken, 'DTSTART:20261126T090000Z', 'DURATION:PT1H'), ...another('DTSTART:20261127T090000Z', 'DURATION:PT1H'))
      const { occurrences, problems } = occurrencesOf(text, november, london)
      expect(occurrences.map(({ from }) => from), broken).toContain(Date.parse('2026-11-27T09:00Z'))
      expect(problems, broken).toHaveLength(1)
    }
  })

  test('what is no calendar is refused, whatever it is', () => {
    for (const text of ['', 'hello', '<html></html>', 'BEGIN:VCARD\r\nEND:VCARD\r\n', '\u0000', '{}'])
      expect(() => occurrencesOf(text, november, london), text).toThrow(NoCalendar)
    fc.assert(fc.property(fc.string(), (text) => {
      try {
        occurrencesOf(text, november, london)
      }
      catch (error) {
        expect(error).toBeInstanceOf(NoCalendar)
      }
    }))
  })
})

test('of a calendar only times and places are kept, and they are the same afterwards', () => {
  const text = calendar(...event(
    'SUMMARY:Talk about the sale', 'DESCRIPTION:Secret', 'ORGANIZER;CN=Nell Secret:mailto:nell@merrowby.example', 'ATTENDEE:mailto:x@merrowby.example',
    'LOCATION;ALTREP="https://secret.example/":Chart room', 'X-NOTE:Secret', 'URL:https://secret.example', 'COMMENT:Secret', 'CATEGORIES:Secret',
    'DTSTART;TZID=Europe/London;X-WHY=Secret:20261126T090000', 'DURATION:PT1H', 'RRULE:FREQ=WEEKLY',
    'BEGIN:VALARM', 'ACTION:DISPLAY', 'DESCRIPTION:Secret', 'TRIGGER:-PT5M', 'END:VALARM',
  ))
  const { content } = readCalendar(text, { titles: false, window: november, zone: london })
  expect(content).not.toMatch(/secret|sale|nell|mailto/i)
  const read = occurrencesOf(content, november, london).occurrences
  const [from, to] = ['2026-11-26T09:00Z', '2026-11-26T10:00Z'].map(Date.parse)
  expect(read).toEqual([{ from, to, allDay: false, place: 'Chart room', title: '', priority: 0 }])
  expect(occurrencesOf(text, november, london).occurrences).toEqual(read.map(one => ({ ...one, title: 'Talk about the sale' })))
  expect(readCalendar(text, { titles: true, window: november, zone: london }).content).toContain('Talk about the sale')
})
