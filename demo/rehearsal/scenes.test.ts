import { describe, expect, it } from 'vitest'
import { lettingRing } from '../../core/queues/offers'
import { isOpen } from '../../core/queues/openings'
import { leavesMessage, placesOf, queueOf } from '../../core/calls/questions'
import { stretchOf } from '../../core/calls/stretches'
import { waitingIn } from '../../core/queues/turns'
import { Tryout } from '../../core/calls/tryout'
import { merrowby } from '../company/merrowby'
import { scenes } from './scenes'

describe('the busy scene', () => {
  it('has three waiting, two on hold, one being asked, two parked and one coming back', () => {
    const moment = Date.UTC(2031, 4, 12, 9)
    const { play, prelude } = scenes.busy!
    const desk = new Tryout(merrowby(), { now: moment - prelude, attended: [] })
    play(desk.quiet)
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

describe('the scene of a cancelled sailing', () => {
  it('has callers waiting past the promise, a trunk out of order, a line closed, somebody paused, and a page in progress', () => {
    const moment = Date.UTC(2031, 4, 12, 9)
    const { play, prelude } = scenes.cancelled!
    const desk = new Tryout(merrowby(), { now: moment - prelude, attended: [] })
    play(desk.quiet)
    const { state } = desk
    const news = state.company.groups['queue:sailingNews']!
    const [first] = waitingIn(state, news.id)
    expect(waitingIn(state, news.id).length).toBeGreaterThan(2)
    expect(state.time - queueOf(first!)!.since).toBeGreaterThan(news.promise)
    expect(first!.told).toBeDefined()
    expect(waitingIn(state, 'operators').length).toBeGreaterThan(2)
    expect(state.troubles.get('west')).toMatchObject({ faulty: state.company.trunks.west!.channels })
    expect(isOpen(state, 'directors')).toBe(false)
    expect([...state.calls.values()].filter(leavesMessage)).toHaveLength(1)
    expect([...state.devices.values()].flatMap(({ absences }) => Object.values(absences ?? {})).map(({ reason }) => reason)).toContain(lettingRing)
    expect([...state.pages.values()]).toMatchObject([{ to: 'zone:hall', waits: false }])
    expect(state.time).toBeLessThanOrEqual(moment)
  })
})
