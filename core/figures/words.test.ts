import { english } from '../../words/english'
import { describe, expect, it } from 'vitest'
import { type Attended, dayFigures } from './day'
import type { Leg } from './legs'
import { ReportMaker } from './report'
import { tallyFrom } from './service-level'
import {
  againInWords, callsInWords, cameBackInWords, changeInWords, givingUp, givingUpInWords, headline, levelInWords, minutesInWords, operatorsInWords,
  parkingsInWords, waitsInWords, waitWithin, warningOf,
} from './words'

const second = 1_000
const minute = 60 * second
const day = Date.UTC(2031, 4, 12)
const rule = { kind: 'offered', shortAbandon: 0 } as const
const name = (id: string) => ({ t2100: 'Ines Quillfeather', t2105: 'Marit Varrow' })[id] ?? id

function reportOf(legs: Partial<Leg>[], attended: Attended[] = []) {
  const maker = new ReportMaker('UTC', day, day)
  const whole = legs.map((leg): Leg => ({
    call: 'c', of: 'line', place: 'general', at: day + 10 * 60 * minute, direction: 'inbound', line: 'general', number: null, passedBy: null, back: false,
    end: 'answered', cause: null, by: 't2100', waited: 10 * second, talked: minute, held: 0, next: null, ...leg,
  }))
  maker.add(day, dayFigures(day, whole, attended, { line: null, queue: null }, { zone: 'UTC', promiseOf: () => 20 * second, shortAbandon: 0 }, day + 2 * 864e5))
  return maker.finish()
}

describe('what charts say', () => {
  it('of a day of calls', () => {
    const left = { end: 'abandoned', by: null, talked: null } as const
    const report = reportOf([
      {}, { waited: 5 * second }, { ...left, at: day + 11 * 60 * minute, waited: 40 * second },
      { of: 'group', place: 'operators' }, { of: 'telephone', place: 't2105', passedBy: 't2100', end: 'movedOn', cause: 'noAnswer', by: null, talked: null },
      { of: 'slot', place: 'slot:1', waited: 30 * second },
    ], [{ device: 't2100', from: day + 10 * 60 * minute, until: day + 10 * 60 * minute + 4 * minute }])
    expect(callsInWords(english, report)).toBe('3 calls, most from 10:00 to 10:30 (2). 1 gave up, most of them from 11:00 (1).')
    expect(minutesInWords(english, report)).toBe('2 minutes of conversation, most from 10:00 (2).')
    expect(waitsInWords(english, report)).toBe('Half of those answered waited less than 0:06, nine in ten less than 0:11.')
    expect(levelInWords(english, report, rule)).toBe('67 % within the promise.')
    expect(givingUpInWords(english, report)).toBe('1 of 3 gave up (33 %), on average after 0:40.')
    expect(operatorsInWords(english, report.operators, name)).toBe('Ines Quillfeather was on calls for 33 % of 4:00 there, the most of 1.')
    expect(cameBackInWords(english, report, name)).toBe('1 of 1 passed on came back or went further (100 %), most from Marit Varrow (1).')
    expect(againInWords(english, report)).toBe('Nobody called again within a day.')
    expect(parkingsInWords(english, report)).toBe('1 parked, 0:30 on average; 0 gave up there.')
    expect(warningOf(english, 3)).toBe('Only 3 calls: too few to say much.')
    expect(headline(english, report.total, rule).map(({ name: what, value }) => `${what} ${value}`)).toEqual([
      'offered 3', 'answered 2', 'gave up 1', 'service level 67 %', 'mean wait 0:07', 'longest wait 0:40', 'mean length 1:00',
    ])
  })

  it('of nothing', () => {
    const report = reportOf([])
    expect([callsInWords(english, report), minutesInWords(english, report), waitsInWords(english, report), givingUpInWords(english, report),
      operatorsInWords(english, [], name)]).toEqual([
      'No calls.', 'Nobody talked.', 'Nobody was answered.', 'Nobody gave up.', 'No operator was there.',
    ])
    expect([cameBackInWords(english, report, name), parkingsInWords(english, report), levelInWords(english, report, rule), warningOf(english, 0)]).toEqual([
      'No call was passed on.', 'Nobody was parked.', 'There is nobody of whom a service level could be counted.', 'Nobody called in this period.',
    ])
    expect(headline(english, tallyFrom({}), rule).map(({ value }) => value)).toEqual(['0', '0', '0', '–', '–', '–', '–'])
  })

  it('of a change', () => {
    expect([changeInWords(english, 110, 100), changeInWords(english, 50, 100), changeInWords(english, 100, 100), changeInWords(english, 3, 0),
      changeInWords(english, null, 1)]).toEqual([
      '10 % more', '50 % less', 'the same', null, null,
    ])
  })

  it('of who gives up: of those who still waited', () => {
    expect(waitWithin([0, 0, 4], 0.5)).toBe(2)
    expect(waitWithin([], 0.5)).toBeNull()
    expect(givingUp({ answered: [5, 0, 3], abandoned: [0, 2, 0] }, [0, 1, 2])).toEqual([
      { from: 0, waited: 10, gaveUp: 0 }, { from: 1, waited: 5, gaveUp: 2 }, { from: 2, waited: 3, gaveUp: 0 },
    ])
  })
})
