import { describe, expect, it } from 'vitest'
import { phonesOf } from './phonemes'

describe('how a name sounds, in the phones of a dictionary', () => {
  it.each([
    ['kw\'IlfED3', 'K W IH L F EH DH ER'],
    ['d\'agni', 'D AE G N IY'],
    ['k\'at#I;@', 'K AE T IH AH'],
    ['w\'eIv3r-IN', 'W EY V ER R IH NG'],
    ['tS\'eI dZ', 'CH EY JH'],
    ['k\'O@steIn', 'K AO R S T EY N'],
  ])('%s', (mnemonics, phones) => expect(phonesOf(mnemonics)).toBe(phones))

  it('takes the longest that it knows, and leaves out what it does not', () => {
    expect(phonesOf('i:')).toBe('IY')
    expect(phonesOf('aU@')).toBe('AW ER')
    expect(phonesOf('\',;|%=_')).toBe('')
    expect(phonesOf('')).toBe('')
  })
})
