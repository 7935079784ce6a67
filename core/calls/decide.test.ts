import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import type { Refusal, Request } from './model'
import { connectionOf, connectionState } from './questions'
import { stretchOf } from './stretches'
import { nextDeadline } from './timers'
import { sentenceOf, Tryout } from './tryout'

const [ines, tomas] = ['t2100', 't2101']
const marit = 't2105'
const other = 't2106'
let desk: Tryout

beforeEach(() => {
  desk = new Tryout(merrowby(12))
})

const ask = (request: Request): Refusal | undefined => desk.ask(request)
const offer = (number?: string) => desk.offer(number)
const wait = (ms: number) => desk.wait(ms)
const inHand = () => desk.inHand(ines)

describe('a call to a line', () => {
  it('waits where every operator sees it, until one answers', () => {
    const call = offer()
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, ines)).toBe('arriving')
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, tomas)).toBe('arriving')
    expect(ask({ service: 'answerCall', device: ines, call })).toBeUndefined()
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, ines)).toBe('inHand')
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, tomas)).toBeNull()
  })

  it('is refused kindly to the operator who is late', () => {
    const call = inHand()
    const refusal = ask({ service: 'answerCall', device: tomas, call })
    expect(refusal).toMatchObject({ code: 'alreadyAnswered' })
    expect(sentenceOf(refusal)).toContain('Ines Quillfeather')
  })

  it('can\'t be answered by somebody who serves no line', () => {
    expect(ask({ service: 'answerCall', device: marit, call: offer() })).toMatchObject({ code: 'alreadyAnswered' })
  })

  it('puts the present caller on hold when answered, and cuts nobody off', () => {
    const first = inHand()
    const second = inHand()
    expect(connectionState(desk.state, first, ines)).toBe('held')
    expect(connectionState(desk.state, second, ines)).toBe('connected')
    expect(ask({ service: 'retrieveCall', device: ines, call: first })).toBeUndefined()
    expect(connectionState(desk.state, second, ines)).toBe('held')
    expect(ask({ service: 'clearConnection', device: ines, call: second })).toMatchObject({ code: 'callerOnHold' })
  })

  it('is refused by the network when every channel is in use', () => {
    for (let i = 0; i < 20; i++) offer()
    expect(ask({ service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' })).toMatchObject({ code: 'trunksBusy' })
  })
})

describe('a blind transfer', () => {
  it('stays with who passed it on until the colleague answers', () => {
    const call = inHand()
    expect(ask({ service: 'singleStepTransferCall', device: ines, call, to: marit })).toBeUndefined()
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, ines)).toBe('passedOn')
    ask({ service: 'answerCall', device: marit, call })
    expect(desk.state.calls.get(call)!.passing).toBeNull()
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, ines)).toBeNull()
  })

  it('comes back with its story when nobody answers', () => {
    const call = inHand()
    ask({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    expect(nextDeadline(desk.state)).toBe(desk.now + 20_000)
    wait(20_000)
    expect(desk.state.calls.get(call)!.recall).toMatchObject({ to: ines, from: marit, cause: 'noAnswer', rang: 20_000 })
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, ines)).toBe('arriving')
    expect(stretchOf(desk.state, desk.state.calls.get(call)!, tomas), 'another operator may help').toBe('arriving')
  })

  it('comes back when the colleague declines', () => {
    const call = inHand()
    ask({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    ask({ service: 'clearConnection', device: marit, call })
    expect(desk.state.calls.get(call)!.recall).toMatchObject({ to: ines, cause: 'declined' })
  })

  it.each([
    ['a colleague who talks', 'busy', () => { ask({ service: 'makeCall', device: marit, number: other }) }],
    ['do not disturb', 'doNotDisturb', () => { ask({ service: 'setDoNotDisturb', device: marit, on: true }) }],
    ['a telephone that is not there', 'outOfService', () => { desk.change('telephones', marit, { inService: false }) }],
  ])('to %s is refused with the caller still in hand', (_, code, arrange) => {
    const call = inHand()
    arrange()
    const refusal = ask({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    expect(refusal).toMatchObject({ code })
    expect(sentenceOf(refusal)).toContain('still with you')
    expect(connectionState(desk.state, call, ines)).toBe('connected')
  })

  it('to oneself, to the caller or to nobody is refused', () => {
    const call = inHand()
    expect(ask({ service: 'singleStepTransferCall', device: ines, call, to: ines })).toMatchObject({ code: 'toSelf' })
    expect(ask({ service: 'singleStepTransferCall', device: ines, call, to: '9999' })).toMatchObject({ code: 'unallocatedNumber' })
    ask({ service: 'clearConnection', device: ines, call })
    ask({ service: 'makeCall', device: marit, number: ines })
    const inside = [...desk.state.calls.keys()][0]!
    ask({ service: 'answerCall', device: ines, call: inside })
    expect(ask({ service: 'singleStepTransferCall', device: ines, call: inside, to: marit })).toMatchObject({ code: 'toCaller' })
  })

  it('ends everywhere when the caller gives up while it rings', () => {
    const call = inHand()
    ask({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    ask({ service: 'clearConnection', device: desk.state.calls.get(call)!.calling, call })
    expect(desk.state.calls.size).toBe(0)
    expect(ask({ service: 'answerCall', device: marit, call })).toMatchObject({ code: 'unknownCall' })
  })

  it('can\'t be made by a stranger to the call', () => {
    const call = inHand()
    expect(ask({ service: 'singleStepTransferCall', device: tomas, call, to: marit })).toMatchObject({ code: 'notYourCall' })
  })
})

describe('a direct call', () => {
  it('that nobody takes goes to the operators', () => {
    const call = offer('+441632960105')
    expect(connectionState(desk.state, call, marit)).toBe('alerting')
    wait(30_000)
    expect(connectionState(desk.state, call, 'operators')).toBe('queued')
    expect(desk.state.calls.get(call)!.recall).toMatchObject({ to: 'operators', from: marit, cause: 'noAnswer' })
  })

  it('to a busy extension goes to the operators at once', () => {
    offer('+441632960105')
    const second = offer('+441632960105')
    expect(desk.state.calls.get(second)!.recall).toMatchObject({ cause: 'busy' })
  })
})

describe('calling out', () => {
  it('takes a channel and normalises the number', () => {
    expect(ask({ service: 'makeCall', device: ines, number: '020 7946 0123' })).toBeUndefined()
    const [call] = [...desk.state.calls.values()]
    expect(call!.connections[1]).toMatchObject({ state: 'alerting', party: { number: '+442079460123' } })
    expect(call!.direction).toBe('outbound')
  })

  it('holds the present caller meanwhile', () => {
    const call = inHand()
    ask({ service: 'makeCall', device: ines, number: marit })
    expect(connectionOf(desk.state.calls.get(call)!, ines)!.state).toBe('held')
  })

  it('to somebody on the telephone fails with a tone that ends by itself', () => {
    ask({ service: 'makeCall', device: marit, number: other })
    ask({ service: 'makeCall', device: ines, number: marit })
    const call = [...desk.state.calls.values()].find(candidate => candidate.calling === ines)!
    expect(call.failed).toMatchObject({ device: marit, cause: 'busy' })
    expect(connectionOf(call, marit), 'who could not be reached has nothing to do with it').toBeUndefined()
    wait(5_000)
    expect(desk.state.calls.get(call.id)).toBeUndefined()
  })

  it.each([
    ['', 'invalidNumber'],
    ['call me', 'invalidNumber'],
    ['+44', 'invalidNumber'],
    ['8765', 'unallocatedNumber'],
    [ines, 'toSelf'],
  ])('refuses "%s"', (number, code) => {
    expect(ask({ service: 'makeCall', device: ines, number })).toMatchObject({ code })
  })
})

describe('own status', () => {
  it('ends at the time it was set until', () => {
    ask({ service: 'setStatus', device: ines, reason: 'lunch', until: desk.now + 60_000 })
    expect(desk.state.devices.get(ines)!.status.reason).toBe('lunch')
    wait(60_000)
    expect(desk.state.devices.get(ines)!.status).toMatchObject({ reason: null, until: null })
  })
})
