import { english } from '../../words/english'
import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import type { Request } from '../calls/model'
import { mailboxOf } from '../calls/names'
import { channelsUsed, connectionOf, connectionState, isConversation, outsideCalls, placesOf, talkingCallOf } from '../calls/questions'
import { stretchOf } from '../calls/stretches'
import { tellRecall } from '../calls/story'
import { Tryout } from '../calls/tryout'

/** Nobody waits for nobody: every way in which a caller could be forgotten. */

const [ines, tomas, bryony] = ['t2100', 't2101', 't2102']
const operators = [ines, tomas, bryony]
const [marit, dunstan] = ['t2103', 't2104']
const minute = 60_000
let desk: Tryout

beforeEach(() => {
  desk = new Tryout(merrowby(40))
})

const place = (id: string) => desk.state.calls.get(id) && placesOf(desk.call(id))[0]
const at = (call: string, device: string) => connectionState(desk.state, call, device)
const gone = (device: string) => {
  desk.must({ service: 'setAgentState', device, attended: false })
  desk.wait(30_000)
}
const change: Tryout['change'] = (part, id, fields) => desk.change(part, id, fields)

describe('a queue that nobody serves', () => {
  it.each<[string, (device: string) => Request]>([
    ['do not disturb', device => ({ service: 'setDoNotDisturb', device, on: true })],
    ['away', device => ({ service: 'setStatus', device, reason: 'lunch', until: null })],
  ])('with every operator on %s and their consoles open: new callers go to the night destination', (_, request) => {
    const waits = desk.offer()
    for (const device of operators) desk.must(request(device))
    expect(at(waits, mailboxOf('general'))).toBe('connected')
    expect(at(desk.offer(), mailboxOf('general'))).toBe('connected')
  })

  it('staff queues alike: with all members away their callers go to the operators', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '601' })
    for (const device of desk.state.company.groups['queue:reservations']!.members) desk.must({ service: 'setDoNotDisturb', device, on: true })
    expect(at(call, 'operators')).toBe('queued')
    expect(desk.ask({ service: 'singleStepTransferCall', device: ines, call: desk.inHand(ines), to: '601' })).toMatchObject({ code: 'nobodyServes' })
  })

  it('a lone operator who calls the operators is told that nobody serves, and waits for nobody', () => {
    for (const device of [tomas, bryony]) gone(device)
    expect(desk.ask({ service: 'makeCall', device: ines, number: '0' })).toMatchObject({ code: 'nobodyServes' })
    desk.must({ service: 'setAgentState', device: tomas, attended: true })
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: ines, number: '0' }))
    gone(tomas)
    expect(at(call, 'operators'), 'who calls does not serve the own call').toBeUndefined()
  })
})

describe('a wait that is too long', () => {
  it('for the operators goes to the overflow destination of the line', () => {
    const call = desk.offer()
    desk.wait(4 * minute)
    expect(at(call, mailboxOf('general'))).toBe('connected')
    desk.wait(2 * minute)
    expect(desk.state.calls.get(call)).toBeUndefined()
  })

  it.each([
    ['a person', marit, marit, 'alerting'],
    ['a group', 'group:freight', 't2118', 'alerting'],
    ['another queue', '602', 'queue:freight', 'queued'],
    ['a mailbox', mailboxOf(marit), mailboxOf(marit), 'connected'],
  ])('or to whatever the line says: %s', (_, to, device, state) => {
    change('lines', 'general', { overflow: { after: minute, to } })
    const call = desk.offer()
    desk.wait(minute)
    const there = device === 't2118' ? desk.call(call).connections[1]!.device : device
    expect(at(call, there)).toBe(state)
  })

  it('or to an outside number, which rings there; unanswered, it does not begin again', () => {
    change('lines', 'general', { overflow: { after: minute, to: '020 7946 0099' } })
    const call = desk.offer()
    desk.wait(minute)
    expect(desk.call(call).connections[1]).toMatchObject({ state: 'alerting', party: { number: '+442079460099' } })
    desk.wait(30_000)
    expect(at(call, 'operators')).toBe('queued')
    desk.wait(minute)
    expect(at(call, mailboxOf('general'))).toBe('connected')
  })

  it('rules that lead in a circle end in a mailbox', () => {
    change('lines', 'general', { overflow: { after: minute, to: 'queue:freight' } })
    change('groups', 'queue:freight', { overflow: { after: minute, to: 'queue:reservations' } })
    change('groups', 'queue:reservations', { overflow: { after: minute, to: 'queue:freight' } })
    const call = desk.offer()
    for (let i = 0; i < 12 && desk.state.calls.get(call); i++) desk.wait(minute)
    expect(desk.state.calls.get(call)).toBeUndefined()
  })

  it('in a staff queue goes to the operators', () => {
    const call = desk.inHand(ines)
    desk.configure({ part: 'settings', value: { ...desk.state.company.settings, queueRecall: 60 * minute } })
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '602' })
    desk.wait(4 * minute)
    expect(at(call, 'operators')).toBe('queued')
  })
})

describe('at night', () => {
  it.each([
    ['an extension', marit],
    ['an outside number', '07700 900321'],
  ])('%s as night destination rings like any telephone, and is not cut off', (_, night) => {
    change('lines', 'general', { night })
    for (const device of operators) gone(device)
    const call = desk.offer()
    const rung = desk.call(call).connections[1]!
    expect(rung.state).toBe('alerting')
    desk.must({ service: 'answerCall', device: rung.device, call })
    desk.wait(10 * minute)
    expect(place(call)).toBe('talking')
  })

  it('a night destination that does not answer, or can\'t be rung, leaves the caller to the line\'s mailbox', () => {
    change('lines', 'general', { night: marit })
    for (const device of operators) gone(device)
    const call = desk.offer()
    desk.wait(30_000)
    expect(at(call, mailboxOf('general'))).toBe('connected')
    desk.must({ service: 'setDoNotDisturb', device: marit, on: true })
    expect(at(desk.offer(), mailboxOf('general'))).toBe('connected')
  })
})

describe('on hold with somebody who has gone', () => {
  function conference(): string {
    const call = desk.inHand(ines)
    const asking = desk.consult(ines, call, marit)
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.must({ service: 'conferenceCall', device: ines, call, other: asking })
    return call
  }

  it('after a conference on hold whose colleague hangs up', () => {
    const call = conference()
    desk.must({ service: 'holdCall', device: ines, call })
    gone(ines)
    expect(isConversation(desk.call(call)), 'they talk on').toBe(true)
    desk.hangUp(call, marit)
    expect(at(call, 'operators')).toBe('queued')
  })

  it('in a conference that everybody of ours has put on hold', () => {
    const call = conference()
    desk.must({ service: 'holdCall', device: ines, call })
    desk.must({ service: 'holdCall', device: marit, call })
    desk.wait(3 * minute)
    expect(at(call, marit), 'one of them is reminded').toBe('alerting')
    expect(at(call, ines)).toBeUndefined()
  })

  it('a supplier outside who was being asked', () => {
    const call = desk.inHand(ines)
    const asking = desk.consult(ines, call, '020 7946 0111')
    desk.must({ service: 'answerCall', device: desk.call(asking).connections[1]!.device, call: asking })
    desk.must({ service: 'retrieveCall', device: ines, call })
    gone(ines)
    expect(at(asking, 'operators')).toBe('queued')
    expect(tellRecall(english, desk.call(asking).recall!, () => 'Ines', 5_000)).toBe('Ines has gone and left the caller on hold')
  })

  it('by a hold that comes after they have left, and while an invitation rings', () => {
    const call = desk.inHand(ines)
    gone(ines)
    desk.must({ service: 'holdCall', device: ines, call })
    expect(at(call, 'operators')).toBe('queued')
    desk.must({ service: 'answerCall', device: tomas, call })
    desk.must({ service: 'singleStepConferenceCall', device: tomas, call, to: marit })
    desk.must({ service: 'holdCall', device: tomas, call })
    gone(tomas)
    expect(at(call, 'operators')).toBe('queued')
  })

  it('or with a colleague: rings there again after a while, and then comes to the operators', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    desk.must({ service: 'holdCall', device: marit, call })
    desk.wait(3 * minute)
    expect(at(call, marit)).toBe('alerting')
    desk.wait(30_000)
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('arriving')
  })

  it('or with an operator at a console who does nothing: the others get the caller in the end', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'holdCall', device: ines, call })
    desk.wait(14 * minute)
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('inHand')
    desk.wait(minute)
    expect(stretchOf(desk.state, desk.call(call), tomas)).toBe('arriving')
  })
})

describe('handing over', () => {
  it('to a colleague who has put the operator on hold is refused: the caller stays in sight', () => {
    const call = desk.inHand(ines)
    const asking = desk.consult(ines, call, marit)
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.must({ service: 'holdCall', device: marit, call: asking })
    expect(desk.ask({ service: 'transferCall', device: ines, call, consultation: asking })).toMatchObject({ code: 'notPossibleNow' })
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('inHand')
  })

  it('a recall of a line that its operator no longer serves comes back to the operators, not into a mailbox', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    for (const device of operators) desk.must({ service: 'setLineServed', device, line: 'general', on: false, until: null })
    desk.wait(20_000)
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('arriving')
  })

  it('to a group: who declines or does not answer passes it to the next free member, so many times', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: 'group:reservations' })
    const rung = () => desk.call(call).connections.find(({ state }) => state === 'alerting')?.device
    const tried = [rung()!]
    desk.hangUp(call, rung()!)
    tried.push(rung()!)
    desk.wait(20_000)
    tried.push(rung()!)
    expect(new Set(tried).size).toBe(3)
    expect(desk.call(call).passing, 'still watched').toMatchObject({ by: ines, to: 'group:reservations' })
    desk.hangUp(call, rung()!)
    expect(desk.call(call).recall).toMatchObject({ to: ines, from: 'group:reservations', cause: 'declined' })
  })

  it('to an outside number that answers: stays in sight for a while, is taken back, or ended by rule', () => {
    const pass = () => {
      const call = desk.inHand(ines)
      desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '07700 900444' })
      const leg = desk.call(call).connections[1]!.device
      desk.must({ service: 'answerCall', device: leg, call })
      return { call, leg }
    }
    const first = pass()
    expect(stretchOf(desk.state, desk.call(first.call), ines)).toBe('passedOn')
    desk.must({ service: 'directedPickupCall', device: ines, call: first.call })
    expect(desk.call(first.call).connections.map(({ device }) => device)).toEqual([desk.call(first.call).calling, ines])
    desk.hangUp(first.call)

    const second = pass()
    desk.wait(5 * minute)
    expect(stretchOf(desk.state, desk.call(second.call), ines)).toBeNull()
    expect(outsideCalls(desk.state).map(({ id }) => id)).toEqual([second.call])
    expect(desk.ask({ service: 'clearCall', device: marit, call: second.call })).toMatchObject({ code: 'notAllowed' })
    desk.must({ service: 'clearCall', device: bryony, call: second.call })
    expect(desk.state.calls.get(second.call)).toBeUndefined()

    const third = pass()
    desk.wait(120 * minute)
    expect(desk.state.calls.get(third.call)).toBeUndefined()
    expect(channelsUsed(desk.state, 'east') + channelsUsed(desk.state, 'west')).toBe(0)
  })
})

describe('emergency numbers', () => {
  const trunks = () => ['east', 'west'].map(trunk => channelsUsed(desk.state, trunk))

  it.each(['112', '999', '9 9 9', 'tel:112'])('%s is dialled before any plan of ours, whatever else is set', (number) => {
    desk.must({ service: 'setDoNotDisturb', device: marit, on: true })
    for (let i = 0; i < 3; i++) desk.ask({ service: 'makeCall', device: marit, number: ['t2104', 't2105', 't2106'][i]! })
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: marit, number }))
    expect(desk.call(call).connections[1]).toMatchObject({ state: 'alerting', party: { number: number.replace(/\D/g, '') } })
    desk.wait(10 * minute)
    expect(place(call), 'it is rung until it answers').toBe('ringing')
  })

  it('find a channel when every other is in use, and one that is taken from whoever can best be spared when those are too', () => {
    for (let i = 0; i < 50; i++)
      desk.ask({ service: 'offerCall', trunk: i % 2 ? 'east' : 'west', party: { number: null, name: null }, number: '+441632960000' })
    expect(trunks()).toEqual([20, 20])
    expect(desk.ask({ service: 'makeCall', device: ines, number: '020 7946 0000' })).toMatchObject({ code: 'trunksBusy' })
    const spared = [...desk.state.calls.keys()][3]!
    desk.must({ service: 'deflectCall', device: ines, call: spared, to: mailboxOf('general') })
    for (const device of [marit, dunstan]) desk.must({ service: 'makeCall', device, number: '999' })
    expect(trunks()).toEqual([21, 21])
    desk.must({ service: 'makeCall', device: 't2105', number: '112' })
    expect(trunks()).toEqual([21, 21])
    expect(desk.state.calls.get(spared), 'a mailbox goes first').toBeUndefined()
  })

  it('never take the channel of the caller they are for', () => {
    const call = desk.inHand(ines)
    for (let i = 0; i < 50; i++)
      desk.ask({ service: 'offerCall', trunk: i % 2 ? 'east' : 'west', party: { number: null, name: null }, number: '+441632960000' })
    for (const device of [marit, dunstan]) desk.must({ service: 'makeCall', device, number: '999' })
    desk.now += 1_000
    desk.must({ service: 'consultationCall', device: ines, call, number: '999' })
    expect(place(call)).toBe('onHold')
    const asking = [...desk.state.calls.values()].find(({ consultation }) => consultation === call)!
    desk.must({ service: 'reconnectCall', device: ines, call: asking.id })
    desk.must({ service: 'makeCall', device: 't2105', number: '112' })
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '112' })
    expect(desk.call(call).passing).toMatchObject({ by: ines })
    expect(trunks()).toEqual([21, 21])
  })

  it('other short numbers of the network are known, and have no such right', () => {
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: marit, number: '101' }))
    expect(desk.call(call)).toMatchObject({ direction: 'outbound' })
  })
})

describe('conferences', () => {
  function three(): { call: string, asking: string } {
    const call = desk.inHand(ines)
    const asking = desk.consult(ines, call, marit)
    desk.must({ service: 'answerCall', device: marit, call: asking })
    return { call, asking }
  }

  it('stepping back from a consultation that the colleague has made a conference leaves it to the others', () => {
    const { call, asking } = three()
    desk.must({ service: 'singleStepConferenceCall', device: marit, call: asking, to: dunstan })
    desk.must({ service: 'answerCall', device: dunstan, call: asking })
    desk.must({ service: 'reconnectCall', device: ines, call: asking })
    expect(place(call)).toBe('talking')
    expect(desk.call(asking).connections.map(({ device }) => device)).toEqual([marit, dunstan])
  })

  it('while somebody is rung to join only who asked them may call that off, and nobody else drops anybody', () => {
    const { call, asking } = three()
    desk.must({ service: 'conferenceCall', device: ines, call, other: asking })
    desk.must({ service: 'singleStepConferenceCall', device: marit, call, to: dunstan })
    for (const party of [ines, desk.call(call).calling])
      expect(desk.ask({ service: 'dropParty', device: marit, call, party })).toMatchObject({ code: 'notAllowed' })
    desk.must({ service: 'dropParty', device: marit, call, party: dunstan })
  })

  it('whoever asks somebody to join leads; when the leader goes, whoever of ours has been in it longest leads', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    expect(desk.call(call).conference).toMatchObject({ by: ines })
    desk.must({ service: 'singleStepConferenceCall', device: marit, call, to: dunstan })
    desk.must({ service: 'answerCall', device: dunstan, call })
    const caller = desk.call(call).calling
    desk.must({ service: 'setMicrophoneMute', device: ines, call, party: caller, on: true })
    desk.hangUp(call, ines)
    expect(desk.call(call).conference).toMatchObject({ by: marit })
    desk.must({ service: 'setMicrophoneMute', device: marit, call, party: caller, on: false })
  })
})

describe('who could not be reached', () => {
  it('has nothing to do with the call: stays free for others, and ends nothing', () => {
    desk.must({ service: 'makeCall', device: marit, number: dunstan })
    desk.must({ service: 'makeCall', device: 't2105', number: marit })
    desk.must({ service: 'makeCall', device: 't2106', number: marit })
    desk.hangUp(desk.state.calls.get([...desk.state.calls.keys()][0]!)!.id, marit)
    expect(talkingCallOf(desk.state, marit)).toBeUndefined()
    const call = desk.inHand(ines)
    desk.must({ service: 'consultationCall', device: ines, call, number: marit })
    const tone = [...desk.state.calls.values()].find(({ calling }) => calling === 't2105')!
    expect(desk.ask({ service: 'clearConnection', device: marit, call: tone.id })).toMatchObject({ code: 'notYourCall' })
  })

  it('of a group that rings all at once from inside: the others ring on, and the caller is in one place', () => {
    desk.change('groups', 'group:freight', { distribution: 'all' })
    const { number, members } = desk.state.company.groups['group:freight']!
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: ines, number }))
    desk.hangUp(call, members[0]!)
    expect(placesOf(desk.call(call))).toEqual(['ringing'])
    desk.wait(30_000)
    expect(placesOf(desk.call(call))).toEqual(['tone'])
    expect(desk.call(call).failed).toMatchObject({ device: 'group:freight', cause: 'noAnswer' })
  })
})

describe('who has been free longest', () => {
  it('is remembered for each telephone, however many others hang up', () => {
    desk = new Tryout(merrowby(600))
    const { members } = desk.state.company.groups['group:reservations']!
    const [first, second] = members as [string, string]
    const hangsUp = (device: string) => {
      const call = desk.begins(() => desk.must({ service: 'makeCall', device, number: 't2101' }))
      desk.hangUp(call, device)
      desk.now += 1_000
    }
    const there = members.filter(device => desk.state.company.telephones[device]!.inService)
    for (const device of there) hangsUp(device)
    for (const { id, inService } of Object.values(desk.state.company.telephones).slice(200, 420)) if (inService) hangsUp(id)
    const rung = new Set<string>()
    for (let i = 0; i < 5; i++) {
      const call = desk.inHand(ines)
      desk.must({ service: 'singleStepTransferCall', device: ines, call, to: 'group:reservations' })
      const [member] = desk.call(call).connections.filter(({ state }) => state === 'alerting')
      rung.add(member!.device)
      desk.must({ service: 'answerCall', device: member!.device, call })
      desk.now += 1_000
      desk.hangUp(call)
    }
    expect([...rung].slice(0, 2)).toEqual([first, second])
    expect(rung.size).toBe(5)
  })
})

describe('numbers', () => {
  it.each(['07700 900998', '00447700900998', '447700900998', '+44 7700 900998', '+44 (0)7700 900998'])(
    'a blocked number is blocked however the network spells it: %s',
    number => {
      desk.must({ service: 'blockNumber', device: ines, number: '07700 900998', reason: 'threats' })
      const before = desk.state.calls.size
      desk.must({ service: 'offerCall', trunk: 'east', party: { number, name: null }, number: '+441632960000' })
      expect(desk.state.calls.size).toBe(before)
    },
  )

  it.each([
    ['withheld', null, null],
    ['malformed', 'x12-34', 'x12-34'],
    ['too short', '12', '12'],
  ])('a %s number is let in and shown as it is', (_, number, kept) => {
    expect(desk.call(desk.offer('+441632960000', { number, name: null })).party).toEqual({ number: kept, name: null })
  })

  it('calls out spread over the trunks', () => {
    for (let i = 0; i < 6; i++) desk.ask({ service: 'makeCall', device: `t${2110 + i}`, number: `020 7946 000${i}` })
    expect(['east', 'west'].map(trunk => channelsUsed(desk.state, trunk))).toEqual([3, 3])
  })

  it('a direct number reaches one telephone, or none', () => {
    desk = new Tryout(merrowby(1_500))
    const direct = Object.values(desk.state.company.telephones).flatMap(({ direct }) => direct ?? [])
    expect(new Set(direct).size).toBe(direct.length)
    expect(direct.every(number => !Object.values(desk.state.company.lines).some(line => line.number === number))).toBe(true)
    const call = desk.offer('+441632960105')
    expect(connectionOf(desk.call(call), 't2105')).toBeDefined()
  })

  it('which digits were sent is in no event', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'generateDigits', device: ines, call, digits: '4929 1234,5#' })
    expect(JSON.stringify(desk.state)).not.toContain('4929')
  })
})

describe('the clock on the wall', () => {
  it('set back an hour changes no wait, and what is set until a time ends at that time', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'setStatus', device: dunstan, reason: 'lunch', until: desk.now + 30 * minute })
    desk.must({ service: 'adjustClock', offset: -60 * minute })
    desk.wait(20_000)
    expect(desk.call(call).recall).toMatchObject({ cause: 'noAnswer' })
    desk.wait(30 * minute)
    expect(desk.state.devices.get(dunstan)!.status.reason).toBe('lunch')
    desk.wait(60 * minute)
    expect(desk.state.devices.get(dunstan)!.status.reason).toBeNull()
  })
})

describe('a mailbox', () => {
  it('is nobody who waits: an operator who has gone and puts it on hold keeps the call until the message is over', () => {
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: ines, number: tomas }))
    desk.must({ service: 'answerCall', device: tomas, call })
    desk.consult(ines, call, marit)
    for (const operator of operators) gone(operator)
    expect(at(call, mailboxOf(ines))).toBe('connected')
    desk.must({ service: 'makeCall', device: tomas, number: '2110' })
    expect(at(call, tomas)).toBe('held')
    expect(placesOf(desk.call(call))).toEqual(['onHold'])
    desk.wait(120_000)
    expect(desk.state.calls.has(call)).toBe(false)
  })
})

describe('a group that rings', () => {
  const group = 'queue:freight'
  const members = ['t2105', 't2106']
  it.each(['all', 'longestFree'] as const)('rings (%s) for whoever comes on a line that leads to it', (distribution) => {
    const on = new Tryout(merrowby(12))
    on.change('groups', group, { members, voluntary: [], distribution })
    on.change('lines', 'freight', { target: group })
    const call = on.offer(on.state.company.lines.freight!.number, { number: '+447700900001', name: 'Ada Fenn' })
    const rung = on.call(call).connections.filter(({ state }) => state === 'alerting').map(({ device }) => device)
    expect(rung.length).toBeGreaterThan(0)
    expect(members).toEqual(expect.arrayContaining(rung))
  })

  it('rings for those who waited when it was still a queue; where nobody is free they go on', () => {
    const on = new Tryout(merrowby(12))
    on.change('groups', group, { members, voluntary: [], distribution: 'queue', ringing: 'none' })
    const waiting = ['+447700900001', '+447700900002'].map((number) => {
      const call = on.offer('+441632960000', { number, name: null })
      on.must({ service: 'answerCall', device: 't2100', call })
      on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: group })
      return call
    })
    on.must({ service: 'setDoNotDisturb', device: 't2106', on: true })
    on.change('groups', group, { distribution: 'all' })
    expect(waiting.map(call => on.call(call).connections.map(({ device }) => device).filter(device => !device.includes('#'))))
      .toEqual([['t2105'], ['operators']])
  })
})
