import { beforeEach, describe, expect, it } from 'vitest'
import { Tryout } from '../calls/tryout'
import { presenceOf, samePresence } from './presence'

const ines = 't2100'
const marit = 't2105'
const other = 't2106'
let desk: Tryout

beforeEach(() => {
  desk = new Tryout()
})

const of = (device: string) => presenceOf(desk.state, device)

describe('what everybody sees of a telephone', () => {
  it('free is lit; nothing else is', () => {
    expect(of(marit)).toMatchObject({ kind: 'free', lit: true })
    desk.must({ service: 'setDoNotDisturb', device: marit, on: true })
    expect(of(marit)).toMatchObject({ kind: 'doNotDisturb', lit: false })
    desk.must({ service: 'setDoNotDisturb', device: marit, on: false })
    desk.must({ service: 'setStatus', device: marit, reason: 'lunch', until: desk.now + 60_000 })
    expect(of(marit)).toMatchObject({ kind: 'away', lit: false, reason: 'lunch', until: desk.now + 60_000 })
  })

  it('a call: calling, ringing, talking with whom and which way, holding', () => {
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: marit, number: other }))
    expect(of(marit)).toMatchObject({ kind: 'calling', way: 'out', peer: { device: other } })
    expect(of(other)).toMatchObject({ kind: 'ringing', way: 'in', peer: { device: marit } })
    desk.now += 5_000
    desk.must({ service: 'answerCall', device: other, call })
    expect(of(other)).toMatchObject({ kind: 'talking', since: desk.now })
    desk.must({ service: 'holdCall', device: other, call })
    expect(of(other).kind).toBe('holding')
    expect(of(marit).kind, 'who hears music is still on the telephone').toBe('talking')
  })

  it('shows the call one talks on, however many are on hold', () => {
    desk.inHand(ines)
    const second = desk.inHand(ines)
    expect(of(ines)).toMatchObject({ kind: 'talking', peer: { device: desk.call(second).calling } })
  })

  it('calls outweigh words', () => {
    desk.must({ service: 'makeCall', device: marit, number: other })
    desk.must({ service: 'setDoNotDisturb', device: marit, on: true })
    expect(of(marit).kind).toBe('calling')
  })

  it('knows when nothing has changed to the eye', () => {
    expect(samePresence(of(marit), of(marit))).toBe(true)
    const before = of(marit)
    desk.must({ service: 'makeCall', device: marit, number: other })
    expect(samePresence(before, of(marit))).toBe(false)
    expect(presenceOf(desk.state, 'nobody')).toMatchObject({ kind: 'disconnected' })
  })
})
