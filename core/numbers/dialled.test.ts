import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatNumber, readDialled } from './dialled'

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

  it.each(['', '   ', 'hello', '+', '07700', '+44', '0207946012399999', '12a4', '<b>1</b>', '９９９', `${'1'.repeat(60)}`])(
    '"%s" can\'t be dialled, with a reason',
    typed => {
      const read = readDialled(typed)
      if (read.kind === 'invalid') expect(read.why).toMatch(/^[A-Z].*\.$/)
      else expect(read.kind).toBe('inside')
    },
  )

  it('reads whatever it has formatted as the same number', () => {
    fc.assert(fc.property(fc.nat({ max: 999 }), fc.constantFrom('+44770090', '+44207946', '+44163296'), (tail, head) => {
      const e164 = `${head}0${String(tail).padStart(3, '0')}`
      expect(readDialled(formatNumber(e164))).toEqual({ kind: 'outside', e164 })
    }))
  })

  it('never throws', () => {
    fc.assert(fc.property(fc.string({ maxLength: 80, unit: 'binary' }), typed => ['inside', 'outside', 'invalid'].includes(readDialled(typed).kind)))
  })
})
