import { describe, expect, it } from 'vitest'
import type { ExchangeState } from '../calls/model'
import { Tryout } from '../calls/tryout'
import { tonesOfCountry } from './country-tones'
import { heardBy, speaksOnCall, toneOf } from './heard'
import { readTone } from './tone'

const toneAt = (state: ExchangeState, ear: string) => heardBy(state, ear).tone
const [ines, dagny, ingrid, jory, berth] = ['t2100', 't2106', 't2107', 't2108', 't851']

describe('which tone an ear hears', () => {
  it('rings for a caller while they are rung for or wait, and no longer once somebody has answered', () => {
    const house = new Tryout()
    const call = house.offer()
    const caller = house.call(call).calling
    expect(toneAt(house.state, caller)).toBe('ringing')
    expect(toneAt(house.state, ines)).toBeNull()
    house.must({ service: 'answerCall', device: ines, call })
    expect(toneAt(house.state, caller)).toBeNull()
    house.must({ service: 'holdCall', device: ines, call })
    expect(toneAt(house.state, caller)).toBeNull()
    house.must({ service: 'singleStepTransferCall', device: ines, call, to: jory })
    expect(toneAt(house.state, caller)).toBe('ringing')
    expect(toneAt(house.state, jory)).toBeNull()
  })

  it('is one tone for who talks, another for who can\'t be reached, and goes with the call', () => {
    const house = new Tryout()
    house.must({ service: 'makeCall', device: dagny, number: '2107' })
    house.must({ service: 'answerCall', device: ingrid, call: house.state.calls.keys().next().value! })
    house.must({ service: 'makeCall', device: jory, number: '2106' })
    expect(toneAt(house.state, jory)).toBe('busy')
    expect(toneAt(house.state, dagny)).toBeNull()
    house.change('telephones', berth, { inService: false })
    house.must({ service: 'makeCall', device: 't2109', number: '851' })
    expect(toneAt(house.state, 't2109')).toBe('unobtainable')
    const failed = [...house.state.calls.values()].find(({ calling }) => calling === 't2109')!
    expect(toneAt(house.state, berth)).toBeNull()
    house.must({ service: 'clearConnection', device: 't2109', call: failed.id })
    expect(toneAt(house.state, 't2109')).toBeNull()
  })
})

it('rings for who waits in a queue, and for who asks a third while a caller is on hold', () => {
  const house = new Tryout()
  const call = house.inHand(ines)
  expect(toneAt(house.state, ines)).toBeNull()
  house.must({ service: 'singleStepTransferCall', device: ines, call, to: 'queue:sailingNews' })
  expect(toneAt(house.state, house.call(call).calling)).toBe('ringing')
  const held = house.inHand(ines)
  house.must({ service: 'consultationCall', device: ines, call: held, number: jory })
  expect(toneAt(house.state, ines)).toBe('ringing')
  expect(toneAt(house.state, house.call(held).calling)).toBeNull()
})

describe('what a tone of the house is', () => {
  const { settings } = new Tryout().state.company

  it('the country\'s, until the house writes another', () => {
    expect(toneOf({ ...settings, country: 'DE' }, 'busy')).toEqual(readTone(tonesOfCountry('DE').busy))
    const own = { ...settings.tones, busy: '500: 1 on 1 off' }
    expect(toneOf({ ...settings, tones: own }, 'busy')).toEqual(readTone('500: 1 on 1 off'))
    expect(toneOf({ ...settings, tones: own }, 'ringing')).toEqual(readTone(tonesOfCountry('GB').ringing))
  })
})

it('a microphone is open on the call that one talks on, and not while it is muted, on hold, or there is none', () => {
  const house = new Tryout()
  const call = house.offer()
  expect(speaksOnCall(house.state, ines)).toBe(false)
  house.must({ service: 'answerCall', device: ines, call })
  expect(speaksOnCall(house.state, ines)).toBe(true)
  house.must({ service: 'setMicrophoneMute', device: ines, party: ines, call, on: true })
  expect(speaksOnCall(house.state, ines)).toBe(false)
  house.must({ service: 'setMicrophoneMute', device: ines, party: ines, call, on: false })
  house.must({ service: 'holdCall', device: ines, call })
  expect(speaksOnCall(house.state, ines)).toBe(false)
})
