import { describe, expect, it } from 'vitest'
import { placesOf, stretchOf } from '../calls/questions'
import { exchangeOf } from '../world/exchange'
import { merrowby } from '../world/merrowby'
import { busyMoment, prelude } from './scenes'

describe('the busy scene', () => {
  it('has three waiting, two on hold, one being asked, two parked and one coming back', () => {
    const world = merrowby()
    const moment = Date.UTC(2031, 4, 12, 9)
    const state = busyMoment(exchangeOf(world, { epoch: 'scene', now: moment - prelude }), world)
    const calls = Object.values(state.calls)
    const places = calls.filter(call => call.direction === 'inbound').flatMap(placesOf)
    const count = (place: string) => places.filter(one => one === place).length
    expect({ waiting: count('waiting'), onHold: count('onHold'), parked: count('parked') }).toEqual({ waiting: 4, onHold: 2, parked: 2 })
    expect(calls.filter(call => call.recall)).toHaveLength(1)
    const [ines] = world.operatorsGroup.members
    const asked = calls.find(call => call.consultation)!
    expect(stretchOf(state, asked, ines!)).toBe('inHand')
    expect(placesOf(asked)).toEqual(['talking'])
    expect(state.time).toBeLessThanOrEqual(moment)
  })
})
