import { describe, expect, it } from 'vitest'
import { channelsFree } from '../questions'
import { Tryout } from '../tryout'

/** An exchange with two trunks of three channels, one of each kept for emergencies. */
function day() {
  const day = new Tryout()
  for (const id of ['east', 'west']) day.change('trunks', id, { channels: 3, kept: 1 })
  return day
}
const dial = (on: Tryout, device: string, number = '07700 900123') => on.ask({ service: 'makeCall', device, number })

describe('a trunk', () => {
  it('that is taken out of service cuts nobody off, and nothing new comes or goes on it until it is back', () => {
    const on = day()
    const call = on.inHand('t2100')
    on.must({ service: 'setTrunkService', device: 't2101', trunk: 'east', on: false })
    expect(on.call(call).connections).toHaveLength(2)
    expect(channelsFree(on.state, 'east')).toBe(0)
    expect(on.ask({ service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' })?.code).toBe('trunksBusy')
    expect([dial(on, 't2105'), dial(on, 't2106')]).toEqual([undefined, undefined])
    expect(dial(on, 't2107')?.code).toBe('trunksBusy')
    on.must({ service: 'setTrunkService', device: 't2101', trunk: 'east', on: true })
    expect(dial(on, 't2107')).toBeUndefined()
    expect(on.state.troubles.size).toBe(0)
  })

  it('is taken out by operators alone, and one that is not there by nobody', () => {
    const on = day()
    expect(on.ask({ service: 'setTrunkService', device: 't2105', trunk: 'east', on: false })?.code).toBe('notAllowed')
    expect(on.ask({ service: 'setTrunkService', device: 't2100', trunk: '__proto__', on: false })?.code).toBe('unallocatedNumber')
  })

  it('with channels out of order has so many fewer; what is under way goes on', () => {
    const on = day()
    const call = on.inHand('t2100')
    on.must({ service: 'reportTrunk', trunk: 'east', faulty: 9 })
    expect(on.call(call).connections).toHaveLength(2)
    expect([channelsFree(on.state, 'east'), channelsFree(on.state, 'west')]).toEqual([0, 2])
    on.must({ service: 'reportTrunk', trunk: 'east', faulty: 0 })
    expect(channelsFree(on.state, 'east')).toBe(1)
  })

  it('carries an emergency call even when it is out of service, if there is no other', () => {
    const on = day()
    on.must({ service: 'setTrunkService', device: 't2100', trunk: 'east', on: false })
    const first = on.begins(() => expect(dial(on, 't2105', '999')).toBeUndefined())
    expect(on.call(first).connections[1]!.trunk).toBe('west')
    on.must({ service: 'setTrunkService', device: 't2100', trunk: 'west', on: false })
    const second = on.begins(() => expect(dial(on, 't2106', '112')).toBeUndefined())
    expect(on.call(second).connections.some(({ trunk }) => trunk !== undefined)).toBe(true)
  })
})

describe('a number outside that is not reached', () => {
  it.each(['busy', 'outOfService', 'trunksBusy'] as const)('is known as what the network says: %s', (cause) => {
    const on = day()
    const call = on.begins(() => expect(dial(on, 't2105')).toBeUndefined())
    const leg = on.call(call).connections[1]!.device
    on.must({ service: 'reportFailed', device: leg, call, cause })
    expect(on.call(call).failed).toMatchObject({ cause, device: leg })
    expect(channelsFree(on.state, 'east') + channelsFree(on.state, 'west')).toBe(4)
  })

  it('brings a caller who was passed on to it back', () => {
    const on = day()
    const call = on.inHand('t2100')
    on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: '07700 900123' })
    on.must({ service: 'reportFailed', device: on.call(call).connections.find(({ state }) => state === 'alerting')!.device, call, cause: 'busy' })
    expect(on.call(call).recall).toMatchObject({ to: 't2100', cause: 'busy' })
  })

  it('is said of whoever is rung outside, and of nobody who talks or is one of ours', () => {
    const on = day()
    const call = on.begins(() => expect(dial(on, 't2105')).toBeUndefined())
    const leg = on.call(call).connections[1]!.device
    expect(on.ask({ service: 'reportFailed', device: 't2105', call, cause: 'busy' })?.code).toBe('notPossibleNow')
    on.must({ service: 'answerCall', device: leg, call })
    expect(on.ask({ service: 'reportFailed', device: leg, call, cause: 'busy' })?.code).toBe('notPossibleNow')
    expect(on.call(call).connections).toHaveLength(2)
  })
})

it('a number after #31# is called without showing one\'s own, and so is none without it', () => {
  const on = day()
  const [hidden, open] = ['#31#07700 900123', '07700 900124'].map(number => on.begins(() => expect(dial(on, 't2105', number)).toBeUndefined()))
  expect(on.call(hidden!)).toMatchObject({ withheld: true, dialled: '07700 900123' })
  expect(on.call(open!)).not.toHaveProperty('withheld')
})
