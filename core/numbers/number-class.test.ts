import { describe, expect, it } from 'vitest'
import { classOf } from './number-class'

const home = { country: 'GB', longestInside: 5 }

describe('the kind of a number', () => {
  it.each([
    ['+442079460123', 'inland'], ['+447700900123', 'inland'], ['+443069990123', 'inland'],
    ['+4930901820', 'abroad'], ['+14155552671', 'abroad'],
    ['+449098790123', 'premium'], ['+448457000000', 'premium'], ['+447012345678', 'premium'], ['+499001123456', 'premium'], ['+979123456789', 'premium'],
    ['+870773111632', 'satellite'], ['+881631555555', 'satellite'], ['+8821612345678', 'satellite'], ['+883510012345678', 'satellite'],
  ])('%s is %s', (number, wanted) => {
    expect(classOf(number, home)).toBe(wanted)
  })

  it('is seen from where the house stands', () => {
    expect(classOf('+4930901820', { ...home, country: 'DE' })).toBe('inland')
    expect(classOf('+442079460123', { ...home, country: 'DE' })).toBe('abroad')
    // Countries that share a calling code do not call each other at home.
    expect(classOf('+14155552671', { ...home, country: 'US' })).toBe('inland')
  })

  it('that nothing is known of is one abroad', () => {
    expect(classOf('+999123456789', home)).toBe('abroad')
  })
})
