import { describe, expect, test } from 'vitest'
import { inEnglish } from '../../words/in-english'
import { merrowby } from '../../demo/company/merrowby'
import { readStays } from './csv'

const company = merrowby()

describe('a list of who is where', () => {
  test('places by number and by name, times with and without a zone, and rows for places that nobody knows', () => {
    expect(readStays(company, [
      'Occupant,place,from,to,remark', 'MV Curlew,851,,,x', '"Wick, Aldous",berth 2,2026-07-01T09:00,2026-07-01T12:00Z,', 'Nobody,Berth 99,,,', ',Berth 3,,,',
    ].join('\r\n'))).toEqual({
      stays: [
        { telephone: 't851', name: 'MV Curlew', from: null, to: null },
        { telephone: 't852', name: 'Wick, Aldous', from: Date.parse('2026-07-01T08:00Z'), to: Date.parse('2026-07-01T12:00Z') },
      ],
      unknown: ['Berth 99'],
    })
  })

  test('a person\'s extension is no place', () => {
    expect(readStays(company, 'place,occupant\n2100,Somebody')).toEqual({ stays: [], unknown: ['2100'] })
  })

  test('what can\'t be read is named with its row', () => {
    for (const [list, fault] of [
      ['', /is empty/], ['place,name\n851,x', /first row must name/], ['place,occupant\n"851,x', /can't be read as CSV/],
      ['place,occupant\n851,x\n,y', /^Line 3: place is empty/], ['place,occupant,from\n851,x,tomorrow', /^Line 2: from is not a time/],
      ['place,occupant,from\n851,x,2026-13-45T99:99', /^Line 2: from is not a time/],
      ['place,occupant,from,to\n851,x,2026-01-02,2026-01-01', /^Line 2: to must be later/],
    ] as const) expect(inEnglish(readStays(company, list)), list).toEqual({ fault: expect.stringMatching(fault) as string })
  })
})
