import { expect, it } from 'vitest'
import { faultsOf } from '../company/check'
import { smallHouse } from './small-house'

it('the house that the laws are tried in could be anybody\'s', () => {
  expect(faultsOf(smallHouse())).toEqual([])
})
