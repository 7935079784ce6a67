import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import fc from 'fast-check'
import { parsePhoneNumberFromString } from 'libphonenumber-js/min'
import { describe, expect, it } from 'vitest'
import { concealed, formatNumber as formatIn, readCaller, readDialled as readIn } from './dialled'

const home = { country: 'GB', longestInside: 5 }
const readDialled = (text: string) => readIn(text, home)
const formatNumber = (e164: string) => formatIn(e164, home)

describe('what was dialled', () => {
  it.each([
    ['2150', { kind: 'inside', digits: '2150' }],
    [' 0 ', { kind: 'inside', digits: '0' }],
    ['020 7946 0123', { kind: 'outside', e164: '+442079460123' }],
    ['(020) 7946-0123', { kind: 'outside', e164: '+442079460123' }],
    ['+44 20 7946 0123', { kind: 'outside', e164: '+442079460123' }],
    ['tel:+44-20-7946-0123', { kind: 'outside', e164: '+442079460123' }],
    ['07700 900123', { kind: 'outside', e164: '+447700900123' }],
  ])('%s is read', (typed, wanted) => {
    expect(readDialled(typed)).toEqual(wanted)
  })

  /** In what ways people and programs write the number; of a general library each is the same one. */
  it.each([
    '(020) 7946 0123', '[020] 7946 0123', '020–7946–0123', '020‑7946‑0123', '020−7946−0123', '０２０　７９４６　０１２３',
    '＋44 20 7946 0123', '\u202A+44 20 7946 0123\u202C',
    '\u200E020 7946 0123',
    '020\u00A07946\u00A00123', '+44 (0)20 7946 0123', '+44 (0) 20-7946.0123', '(+44) 20 7946 0123', '+ 44 20 7946 0123',
    '0044 20 7946 0123',
    '0044 (0) 20 7946 0123', '020/7946/0123', 'tel:+44-20-7946-0123', 'tel: 020 7946 0123', 'TEL:+442079460123;ext=23', '+442079460123;phone-context=x;ext=23',
    '020 7946 0123 x23', '020 7946 0123x23', '020 7946 0123 ext. 23', '020 7946 0123 ext 23', '020 7946 0123 Extension: 23', '020 7946 0123 #23',
  ])('%s is one number', (typed) => {
    expect(readDialled(typed)).toEqual({ kind: 'outside', e164: '+442079460123' })
    expect(readCaller(typed, home)).toBe('+442079460123')
    expect(parsePhoneNumberFromString(typed.normalize('NFKC'), 'GB')?.number, 'as the library reads it').toBe('+442079460123')
  })

  it.each(['x2153', 'ext 2153', 'Ext. 2153', '２１５３', '(2153)', '\u200E2153'])('%s is one inside', (typed) => {
    expect(readDialled(typed)).toEqual({ kind: 'inside', digits: '2153' })
  })

  it.each(['2153 x4', '+44 20 +7946 0123', '020 7946 0123 and 4', 'ext', 'next 2153', '2153 ext', '<x2153>', '020 7946 0123; 020 7946 0124'])(
    '%s is none',
    (typed) => {
      expect(readDialled(typed).kind).toBe('invalid')
    },
  )

  it.each(['', '   ', 'hello', '+', '07700', '+44', '0207946012399999', '12a4', '<b>1</b>', '９９９', `${'1'.repeat(60)}`])(
    '"%s" can\'t be dialled, with a reason',
    typed => {
      const read = readDialled(typed)
      if (read.kind === 'invalid') expect(spoken(english, read.why)).toMatch(/^[A-Z].*\.$/)
      else expect(read.kind).toBe('inside')
    },
  )

  it('says which fault it is', () => {
    const why = (typed: string) => {
      const read = readDialled(typed)
      return read.kind === 'invalid' ? spoken(english, read.why) : read
    }
    expect(why('hello')).toBe('A telephone number needs digits.')
    expect(why('12a4')).toBe('A telephone number holds digits only, with + in front if it is international.')
    expect(why('1'.repeat(41))).toBe('That is too long to be a telephone number.')
    expect(why('1'.repeat(40))).toBe('That is not a complete telephone number: check the number of digits.')
    expect(why('1'.repeat(81))).toBe('A telephone number holds digits only, with + in front if it is international.')
    expect(why('2153 x4')).toBe('A number inside has no extension: write the one or the other.')
  })

  it('of a caller is what can be called: too short, too long or among words it stays as it was', () => {
    for (const said of ['12345', '0'.repeat(21), '+44', 'anonymous', 'x 020 7946 0123', '+442079460123 and more']) expect(readCaller(said, home)).toBe(said)
    expect(readCaller('0207946012', home)).toBe('+44207946012')
    expect(readCaller('020 7946 0123', { ...home, country: 'XX' })).toBe('020 7946 0123')
    expect(readCaller('+44 20 7946 0123', { ...home, country: 'XX' })).toBe('+442079460123')
    expect(formatIn('+442079460123', { ...home, country: 'XX' })).toBe('+44 20 7946 0123')
  })

  it('reads whatever it has formatted as the same number', () => {
    fc.assert(fc.property(fc.nat({ max: 999 }), fc.constantFrom('+44770090', '+44207946', '+44163296'), (tail, head) => {
      const e164 = `${head}0${String(tail).padStart(3, '0')}`
      expect(readDialled(formatNumber(e164))).toEqual({ kind: 'outside', e164 })
    }))
  })

  it('never throws', () => {
    fc.assert(fc.property(fc.string({ maxLength: 80, unit: 'binary' }), typed => ['inside', 'outside', 'invalid'].includes(readDialled(typed).kind)))
  })

  it.each([
    ['DE', '030 901820', '+4930901820', '030 901820'], ['NL', '020 624 1111', '+31206241111', '020 624 1111'],
    ['US', '(415) 555-2671', '+14155552671', '(415) 555-2671'], ['CA', '416 555 0123', '+14165550123', '(416) 555-0123'],
  ])('in %s %s is one of the country, and is written so', (country, typed, e164, written) => {
    const there = { country, longestInside: 4 }
    expect(readIn(typed, there)).toEqual({ kind: 'outside', e164 })
    expect(formatIn(e164, there)).toBe(written)
    expect(readCaller(typed, there)).toBe(e164)
    // Abroad it is written with its country.
    expect(formatNumber(e164)).toMatch(/^\+/)
  })

  it('takes so many digits for a number inside as the house says', () => {
    expect(readIn('123456', { country: 'GB', longestInside: 6 })).toEqual({ kind: 'inside', digits: '123456' })
    expect(readIn('2150', { country: 'GB', longestInside: 4 })).toEqual({ kind: 'inside', digits: '2150' })
    expect(readIn('2150', { country: 'GB', longestInside: 3 }).kind).not.toBe('inside')
  })

  it('keeps numbers outside, and nothing else, from who sees no callers', () => {
    expect(['+447700900123', '020 7946 0123', '2150', '1234567', 't2150', 'mailbox:t2150', ''].map(concealed))
      .toEqual(['', '', '2150', '1234567', 't2150', 'mailbox:t2150', ''])
  })
})
