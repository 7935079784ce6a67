import { beforeEach, describe, expect, it } from 'vitest'
import { Tryout } from '../calls/tryout'
import { onMobilesIn, presenceOf, samePresence } from './presence'

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

  it('who talks on their mobile is shown talking, and on what', () => {
    const person = desk.state.company.telephones[marit]!.person!
    desk.change('people', person, { mobile: '+447700900777' })
    const seen = () => presenceOf(desk.state, marit, { onMobile: onMobilesIn(desk.state).get(marit) })
    desk.must({ service: 'setRingAlong', device: marit, on: true })
    const call = desk.offer(desk.state.company.telephones[marit]!.direct!)
    expect(seen(), 'both ring: the desk telephone is named').toMatchObject({ kind: 'ringing', on: null })
    desk.must({ service: 'answerCall', device: desk.call(call).connections.find(({ along }) => along)!.device, call })
    expect(seen()).toMatchObject({ kind: 'talking', lit: false, on: 'mobile', way: 'in', peer: { device: desk.call(call).calling } })
    expect(of(marit).kind).toBe('free')

    desk.must({ service: 'clearConnection', device: desk.call(call).calling, call })
    expect(seen()).toMatchObject({ kind: 'free', lit: true, on: null })
    const dialled = desk.begins(() => desk.must({ service: 'makeCall', device: other, number: '07700 900777' }))
    expect(seen()).toMatchObject({ kind: 'ringing', on: 'mobile', peer: { device: other } })
    desk.must({ service: 'clearConnection', device: other, call: dialled })
    // Somebody who sees no numbers sees it where the mobile rings along.
    expect(onMobilesIn(desk.state).size).toBe(0)
  })

  it('of several telephones shows the one that is busy, wherever one looks', () => {
    const { [marit]: telephone } = desk.state.company.telephones
    desk.change('telephones', 't2999', { ...telephone!, id: 't2999', number: '2999', direct: null, rank: 1 })
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: 't2999', number: other }))
    desk.must({ service: 'answerCall', device: other, call })
    expect(of(marit)).toMatchObject({ kind: 'talking', lit: false, on: 't2999', way: 'out' })
    expect(of('t2999')).toMatchObject({ kind: 'talking', on: null })
  })

  it('another in any part is another to the eye', () => {
    const seen = {
      kind: 'talking', lit: false, since: 1, until: 2, reason: 'lunch', peer: { device: 'a', party: null }, way: 'in', on: null, to: null, place: '',
    } as const
    expect(samePresence(seen, { ...seen, peer: { device: 'a', party: null } })).toBe(true)
    const others = [
      { kind: 'ringing' }, { since: null }, { until: null }, { reason: null }, { way: 'out' }, { on: 'mobile' }, { to: '2100' }, { place: 'Hall' },
      { peer: null }, { peer: { device: 'b', party: null } },
    ] as const
    for (const other of others) expect(samePresence(seen, { ...seen, ...other }), JSON.stringify(other)).toBe(false)
  })

  it('forwarded and engaged say until when and where; nothing of it is lit', () => {
    desk.must({ service: 'setForwarding', device: marit, when: 'always', to: other, until: desk.now + 60_000 })
    expect(of(marit)).toEqual({
      kind: 'forwarded', lit: false, since: null, until: desk.now + 60_000, reason: null, peer: null, way: null, on: null, to: other, place: '',
    })
    const engaged = presenceOf(desk.state, other, { engaged: { until: 5, place: 'Hall' } })
    expect(engaged).toMatchObject({ kind: 'engaged', lit: false, until: 5, place: 'Hall' })
    desk.change('telephones', other, { inService: false })
    expect(presenceOf(desk.state, other, { engaged: { until: 5, place: 'Hall' } })).toMatchObject({ kind: 'disconnected', lit: false })
    expect(of('nobody')).toMatchObject({ kind: 'disconnected' })
  })

  it('names who could not be reached, and of whom outside one talks with', () => {
    desk.must({ service: 'makeCall', device: other, number: 't2107' })
    desk.must({ service: 'makeCall', device: marit, number: other })
    expect(of(marit)).toMatchObject({ kind: 'calling', peer: { device: other, party: null }, way: 'out' })
    const caller = desk.inHand(ines)
    expect(of(ines).peer!.party).toEqual(desk.call(caller).party)
  })

  it('knows when nothing has changed to the eye', () => {
    expect(samePresence(of(marit), of(marit))).toBe(true)
    const before = of(marit)
    desk.must({ service: 'makeCall', device: marit, number: other })
    expect(samePresence(before, of(marit))).toBe(false)
    expect(presenceOf(desk.state, 'nobody')).toMatchObject({ kind: 'disconnected' })
  })
})
