import { describe, expect, it } from 'vitest'
import { english } from './english'
import { phrase, spoken } from './phrase'

describe('a phrase', () => {
  it('is said with what fills its blanks, also with other phrases; a name as it is', () => {
    const slot = phrase('names.parkSlot', { name: '3' })
    expect(spoken(english, phrase('refusals.nobodyWaitsIn', { name: slot }))).toBe('Nobody waits in park slot 3.')
    expect(spoken(english, phrase('common.oneAndOther', { one: 'Wren', other: phrase('names.theVoicemailOf', { name: 'Wren' }) })))
      .toBe('Wren and the voicemail of Wren')
    expect(spoken(english, 'Wren {name} | x')).toBe('Wren {name} | x')
  })

  it('is data that travels: said afterwards it is the same', () => {
    const told = phrase('openThings.tried', { count: 3 })
    expect(JSON.parse(JSON.stringify(told))).toEqual(told)
    expect([told, phrase('openThings.tried', { count: 1 })].map(one => spoken(english, one))).toEqual([', tried 3 times', ', tried once'])
    expect(JSON.stringify(phrase('refusals.slotIsFree' as never))).toBe('{"key":"refusals.slotIsFree"}')
  })

  it('that an older or newer part of the house says is said as its key, and throws nothing', () => {
    expect(spoken(english, { key: 'refusals.ofTomorrow' as never, with: { name: 'Wren' } })).toBe('refusals.ofTomorrow')
  })
})
