import { describe, expect, it } from 'vitest'
import { placesOf, stretchOf } from '../../core/calls/questions'
import { Tryout } from '../../core/calls/tryout'
import { merrowby } from '../company/merrowby'
import { busyMoment, prelude } from './scenes'

describe('the busy scene', () => {
  it('has three waiting, two on hold, one being asked, two parked and one coming back', () => {
    const moment = Date.UTC(2031, 4, 12, 9)
    const desk = new Tryout(merrowby(), { now: moment - prelude, attended: [] })
    busyMoment(desk.quiet)
    const { state } = desk
    const calls = [...state.calls.values()]
    const places = calls.filter(call => call.direction === 'inbound').flatMap(placesOf)
    const count = (place: string) => places.filter(one => one === place).length
    expect({ waiting: count('waiting'), onHold: count('onHold'), parked: count('parked') }).toEqual({ waiting: 4, onHold: 2, parked: 2 })
    expect(calls.filter(call => call.recall)).toHaveLength(1)
    const [ines] = state.company.groups.operators!.members
    const asked = calls.find(call => call.consultation)!
    expect(stretchOf(state, asked, ines!)).toBe('inHand')
    expect(placesOf(asked)).toEqual(['talking'])
    expect(state.time).toBeLessThanOrEqual(moment)
  })
})
