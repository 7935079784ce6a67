import { describe, expect, it } from 'vitest'
import { Tryout } from '../../core/calls/tryout'
import { dialled, lampOf } from './dialled'

const keziah = 't2104'
const at = (digits: string, day = new Tryout()) => dialled(day.state, keziah, digits)

describe('what is dialled at a telephone', () => {
  it('is a number, as it stands, unless it begins with a star or a hash', () => {
    for (const number of ['2105', '701', '+447700900321', '999', 'queue%3Afreight']) {
      expect(at(number)).toEqual({ begins: { service: 'makeCall', device: keziah, number } })
    }
    for (const nothing of ['*', '#', '*1', '*99#', '#26*5#', '*21#', '*26*2105#', '*21*2105*7#', '*13*999#', '*12#']) expect(at(nothing), nothing).toBeNull()
  })

  it('forwards, and ends that', () => {
    const kinds = { 21: 'always', 61: 'noAnswer', 67: 'busy' }
    for (const [code, when] of Object.entries(kinds)) {
      expect(at(`*${code}*2105#`)).toEqual({ does: { service: 'setForwarding', device: keziah, when, to: '2105' } })
      expect(at(`#${code}#`)).toEqual({ does: { service: 'setForwarding', device: keziah, when, to: null } })
    }
  })

  it('keeps calls away, and serves a queue or pauses', () => {
    expect([at('*26#'), at('#26')]).toEqual([true, false].map(on => ({ does: { service: 'setDoNotDisturb', device: keziah, on } })))
    expect([at('*13*602#'), at('#13*602#')]).toEqual(['paused', 'serving'].map(state =>
      ({ does: { service: 'setQueueServed', device: keziah, queue: 'queue:freight', state } })))
  })

  it('picks up', () => {
    const day = new Tryout()
    const call = day.offer('+441632960105')
    expect(at('*11#', day)).toEqual({ begins: { service: 'groupPickupCall', device: keziah, group: null } })
    expect(at('*11*2105#', day)).toEqual({ begins: { service: 'directedPickupCall', device: keziah, call } })
    expect(at('*11*2108#', day)).toEqual({ begins: { service: 'directedPickupCall', device: keziah, call: '' } })
  })

  it('parks whom it has put on hold last, in a slot of the house or in any', () => {
    const day = new Tryout()
    day.change('telephones', keziah, { capacity: 2 })
    const calls = ['+447700900001', '+447700900002'].map((number) => {
      const call = day.offer('+441632960104', { number, name: null })
      day.must({ service: 'answerCall', device: keziah, call })
      day.now += 1_000
      return call
    })
    day.must({ service: 'holdCall', device: keziah, call: calls[1]! })
    expect(at('*12#', day)).toEqual({ does: { service: 'parkCall', device: keziah, call: calls[1], slot: null, for: null } })
    expect(at('*12*702#', day)).toEqual({ does: { service: 'parkCall', device: keziah, call: calls[1], slot: 'slot:2', for: null } })
    expect(at('*12*799#', day)).toBeNull()
  })
})

describe('a lamp', () => {
  it('shows a telephone or a slot, and nothing else', () => {
    const { state } = new Tryout()
    expect(['2105', '702', '602', ''].map(number => lampOf(state, number))).toEqual(['t2105', 'slot:2', undefined, undefined])
  })
})
