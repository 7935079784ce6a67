import { english } from '../../../words/english'
import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../../demo/company/merrowby'
import { mailboxOf } from '../names'
import { connectionOf, connectionState, placesOf, reservedFor } from '../questions'
import { stretchOf } from '../stretches'
import { tellConsulted, tellRecall } from '../story'
import { sentenceOf, Tryout } from '../tryout'

/** Every way to hold, ask, pass on, park and get a call back. */

const [ines, tomas, bryony] = ['t2100', 't2101', 't2102']
const marit = 't2103'
const dunstan = 't2104'
let desk: Tryout
let call: string

beforeEach(() => {
  desk = new Tryout(merrowby(40))
  call = desk.inHand(ines)
})

const place = (id = call) => placesOf(desk.call(id))[0]
const name = (device: string) => desk.state.company.telephones[device]?.name ?? device

describe('an announced transfer', () => {
  let asking: string

  beforeEach(() => {
    asking = desk.consult(ines, call, marit)
  })

  it('rings the colleague while the caller waits on hold', () => {
    expect(place()).toBe('onHold')
    expect(connectionState(desk.state, asking, marit)).toBe('alerting')
    expect(desk.call(asking).consultation).toBe(call)
  })

  it('yes: the colleague has the caller, and the operator nothing', () => {
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.must({ service: 'transferCall', device: ines, call, consultation: asking })
    expect(place()).toBe('talking')
    expect(desk.call(call).connections.map(({ device }) => device)).toEqual([desk.call(call).calling, marit])
    expect(desk.state.calls.get(asking)).toBeUndefined()
    expect(desk.call(call).passing).toBeNull()
  })

  it('yes, while several ring: whoever of them answers has the caller, and the others ring no longer', () => {
    desk.must({ service: 'reconnectCall', device: ines, call: asking })
    desk.change('groups', 'queue:freight', { distribution: 'all', members: [marit, dunstan], voluntary: [] })
    const group = desk.consult(ines, call, 'queue:freight')
    expect([marit, dunstan].map(device => connectionState(desk.state, group, device))).toEqual(['alerting', 'alerting'])
    desk.must({ service: 'transferCall', device: ines, call, consultation: group })
    expect([place(), desk.call(call).passing]).toMatchObject(['ringing', { by: ines, to: 'queue:freight' }])
    desk.must({ service: 'answerCall', device: dunstan, call })
    expect(desk.call(call).connections.map(({ device }) => device)).toEqual([desk.call(call).calling, dunstan])
  })

  it('yes, while somebody\'s mobile rings along: it comes back when neither answers', () => {
    desk.must({ service: 'reconnectCall', device: ines, call: asking })
    const { person } = desk.state.company.telephones[dunstan]!
    desk.change('people', person!, { mobile: '+447700900777' })
    desk.must({ service: 'setRingAlong', device: dunstan, on: true })
    const both = desk.consult(ines, call, dunstan)
    expect(desk.call(both).connections.filter(({ state }) => state === 'alerting')).toHaveLength(2)
    desk.must({ service: 'transferCall', device: ines, call, consultation: both })
    expect(place()).toBe('ringing')
    desk.wait(desk.state.company.settings.transferRecall + 1_000)
    desk.wait(desk.state.company.settings.transferRecall + 1_000)
    expect(desk.call(call).connections.map(({ device }) => device)).toContain('operators')
  })

  it('no: the caller is back in hand with one request, whoever the operator was talking to', () => {
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.must({ service: 'retrieveCall', device: ines, call })
    expect(connectionState(desk.state, asking, ines), 'swapped').toBe('held')
    desk.must({ service: 'retrieveCall', device: ines, call: asking })
    desk.must({ service: 'reconnectCall', device: ines, call: asking })
    expect(place()).toBe('talking')
    expect(desk.state.calls.get(asking)).toBeUndefined()
  })

  it('completed before the answer it is watched like any blind transfer, and comes back', () => {
    desk.must({ service: 'transferCall', device: ines, call, consultation: asking })
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('passedOn')
    desk.wait(20_000)
    expect(desk.call(call).recall).toMatchObject({ to: ines, from: marit, cause: 'noAnswer' })
  })

  it.each([
    ['hangs up', 'normalClearing', () => {
      desk.must({ service: 'answerCall', device: marit, call: asking })
      desk.hangUp(asking, marit)
    }, 'hung up'],
    ['declines', 'declined', () => { desk.hangUp(asking, marit) }, 'declined'],
    ['never answers', 'noAnswer', () => { desk.wait(30_000) }, 'did not answer, 6 rings'],
  ])('the colleague %s: the caller waits with the operator, who reads why', (_, cause, happens, words) => {
    happens()
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('inHand')
    expect(desk.call(call).consulted).toMatchObject({ device: marit, cause })
    expect(tellConsulted(english, desk.call(call).consulted!, name, 5_000)).toBe(`${name(marit)} ${words}`)
  })

  it('to somebody busy says so at once', () => {
    desk.must({ service: 'reconnectCall', device: ines, call: asking })
    desk.must({ service: 'makeCall', device: dunstan, number: marit })
    const again = desk.consult(ines, call, marit)
    expect(desk.call(call).consulted).toMatchObject({ cause: 'busy' })
    desk.wait(5_000)
    expect(desk.state.calls.get(again)).toBeUndefined()
    expect(place()).toBe('onHold')
  })

  it('the colleague hangs up at the very moment of completion: the caller stays', () => {
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.hangUp(asking, marit)
    expect(desk.ask({ service: 'transferCall', device: ines, call, consultation: asking })).toMatchObject({ code: 'unknownCall' })
    expect(place()).toBe('onHold')
  })

  it('the caller gives up at each step: the colleague is told by the operator, not cut off', () => {
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.hangUp(call)
    expect(desk.call(asking).consultation).toBeNull()
    expect(place(asking)).toBe('talking')
    expect(desk.ask({ service: 'transferCall', device: ines, call, consultation: asking })).toMatchObject({ code: 'unknownCall' })
    expect(desk.ask({ service: 'reconnectCall', device: ines, call: asking })).toMatchObject({ code: 'notPossibleNow' })
  })

  it('never connects two callers who only happen to be in one hand', () => {
    desk.must({ service: 'reconnectCall', device: ines, call: asking })
    const second = desk.inHand(ines)
    expect(desk.ask({ service: 'transferCall', device: ines, call, consultation: second })).toMatchObject({ code: 'notPossibleNow' })
    expect(place()).toBe('onHold')
  })

  it('is taken by somebody else who picks it up, and completes to them', () => {
    desk.must({ service: 'directedPickupCall', device: dunstan, call: asking })
    desk.must({ service: 'transferCall', device: ines, call, consultation: asking })
    expect(connectionState(desk.state, call, dunstan)).toBe('connected')
  })
})

describe('a blind transfer', () => {
  const pass = (to: string, more: object = {}) => desk.ask({ service: 'singleStepTransferCall', device: ines, call, to, ...more })

  it('carries a line of text, as plain text', () => {
    expect(pass(marit, { note: 'about the\u0000 <b>cabin</b>' })).toBeUndefined()
    expect(desk.call(call).passing).toMatchObject({ to: marit, note: 'about the <b>cabin</b>' })
  })

  it('is pulled back with one request while it rings', () => {
    pass(marit)
    desk.must({ service: 'directedPickupCall', device: ines, call })
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('inHand')
    expect(connectionState(desk.state, call, marit)).toBeUndefined()
  })

  it('goes outside on a line of ours and comes back when nobody answers', () => {
    expect(pass('020 7946 0321')).toBeUndefined()
    expect(desk.call(call).connections[1]).toMatchObject({ state: 'alerting', party: { number: '+442079460321' } })
    desk.wait(20_000)
    expect(desk.call(call).recall).toMatchObject({ to: ines, cause: 'noAnswer' })
  })

  it('to a number of ours dialled in full stays inside', () => {
    expect(pass('+44 1632 960103')).toBeUndefined()
    expect(connectionState(desk.state, call, marit)).toBe('alerting')
  })

  it('straight to a voicemail rings nowhere and takes a message for so long', () => {
    expect(pass(mailboxOf(marit))).toBeUndefined()
    expect(connectionState(desk.state, call, mailboxOf(marit))).toBe('connected')
    desk.wait(120_000)
    expect(desk.state.calls.get(call)).toBeUndefined()
  })

  it('to a group rings whoever has been free longest, or everybody at once', () => {
    const { members } = desk.state.company.groups['group:reservations']!
    desk.must({ service: 'makeCall', device: members[0]!, number: members[1]! })
    desk.wait(1_000)
    for (const id of [...desk.state.calls.keys()]) if (id !== call) desk.hangUp(id)
    expect(pass('group:reservations')).toBeUndefined()
    expect(connectionState(desk.state, call, members[2]!), 'the first two have only just hung up').toBe('alerting')
    desk.must({ service: 'directedPickupCall', device: ines, call })
    expect(pass('group:reservations', { distribution: 'all' })).toBeUndefined()
    expect(desk.call(call).connections.filter(({ state }) => state === 'alerting').length).toBe(members.length)
    desk.hangUp(call, members[0]!)
    expect(place(), 'one declines, the others go on').toBe('ringing')
    desk.must({ service: 'answerCall', device: members[3]!, call })
    expect(desk.call(call).connections).toHaveLength(2)
  })

  it('to a group where nobody answers comes back in the name of the group', () => {
    pass('group:reservations', { distribution: 'all' })
    desk.wait(20_000)
    expect(tellRecall(english, desk.call(call).recall!, device => desk.state.company.groups[device]?.name ?? name(device), 5_000)).toBe(
      'Reservations did not answer, 4 rings',
    )
  })

  it('to a queue waits there, watched, and comes back after its time', () => {
    expect(pass('601')).toBeUndefined()
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('passedOn')
    desk.wait(60_000)
    expect(desk.call(call).recall).toMatchObject({ to: ines, from: 'queue:reservations' })
  })

  it.each([
    ['oneself', ines, 'toSelf'], ['nobody', '4711', 'unallocatedNumber'], ['nonsense', 'hello', 'invalidNumber'],
    ['the caller\'s own number', '07700 900001', 'toCaller'], ['a blocked number', '07700 900666', 'blocked'],
    ['a slot', 'slot:1', 'notPossibleNow'], ['a voicemail of nobody', 'mailbox:9', 'unallocatedNumber'], ['a prototype', '__proto__', 'invalidNumber'],
  ])('to %s: a sentence, and the caller stays in hand', (_, to, code) => {
    desk.must({ service: 'blockNumber', device: ines, number: '07700 900666', reason: 'shouts' })
    const refusal = pass(to)
    expect(refusal).toMatchObject({ code })
    expect(sentenceOf(refusal)).toContain('still with you')
    expect(place()).toBe('talking')
  })

  it('by a colleague comes back to the colleague, and from there to the operators', () => {
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    desk.must({ service: 'singleStepTransferCall', device: marit, call, to: dunstan })
    desk.wait(20_000)
    expect(connectionState(desk.state, call, marit)).toBe('alerting')
    expect(desk.call(call).recall).toMatchObject({ to: marit, from: dunstan })
    desk.wait(30_000)
    expect(connectionState(desk.state, call, 'operators')).toBe('queued')
  })
})

describe('parking', () => {
  const park = (more: object = {}) => desk.ask({ service: 'parkCall', device: ines, call, slot: null, for: null, ...more })

  it('puts the caller into the first free slot, from where one of two gets them and the other a sentence', () => {
    expect(park()).toBeUndefined()
    expect(desk.call(call).parked).toMatchObject({ slot: 'slot:1', by: ines })
    desk.must({ service: 'directedPickupCall', device: marit, call })
    expect(desk.ask({ service: 'directedPickupCall', device: tomas, call })).toMatchObject({ code: 'alreadyAnswered' })
    expect(desk.call(call).connections).toHaveLength(2)
  })

  it('is taken from any telephone by the number of the slot', () => {
    park({ slot: 'slot:3' })
    expect(desk.ask({ service: 'makeCall', device: marit, number: '702' })).toMatchObject({ code: 'slotEmpty' })
    desk.must({ service: 'makeCall', device: marit, number: '703' })
    expect(connectionState(desk.state, call, marit)).toBe('connected')
  })

  it('comes back with its story to who parked it', () => {
    park()
    desk.wait(90_000)
    expect(desk.call(call).recall).toMatchObject({ to: ines, cause: 'unfetched' })
    expect(tellRecall(english, desk.call(call).recall!, () => 'park slot 1', 5_000)).toBe('nobody came to park slot 1')
  })

  it('for a person: their telephone lists them, the longest waiting first, even while they talk', () => {
    park({ for: marit })
    desk.wait(1_000)
    const second = desk.inHand(ines)
    desk.must({ service: 'parkCall', device: ines, call: second, slot: null, for: marit })
    desk.must({ service: 'makeCall', device: marit, number: dunstan })
    expect(reservedFor(desk.state, marit).map(({ id }) => id)).toEqual([call, second])
    desk.must({ service: 'directedPickupCall', device: marit, call: second })
    expect(reservedFor(desk.state, marit).map(({ id }) => id)).toEqual([call])
  })

  it('a note that has outlived its caller says so until it is put away', () => {
    park({ for: marit })
    desk.wait(5_000)
    desk.hangUp(call)
    expect(desk.state.outlived).toMatchObject([{ for: marit, by: ines, slot: 'slot:1', party: { number: '+447700900001' } }])
    expect(desk.ask({ service: 'dismissNote', device: dunstan, note: call })).toMatchObject({ code: 'notPossibleNow' })
    desk.must({ service: 'dismissNote', device: marit, note: call })
    expect(desk.state.outlived).toEqual([])
  })

  it('is refused with the caller still in hand when every slot is taken, or that one', () => {
    for (let i = 0; i < 10; i++) {
      const next = desk.inHand(tomas)
      desk.must({ service: 'parkCall', device: tomas, call: next, slot: null, for: null })
    }
    expect(park()).toMatchObject({ code: 'slotsFull' })
    expect(park({ slot: 'slot:4' })).toMatchObject({ code: 'slotTaken' })
    expect(place()).toBe('talking')
  })
})

describe('a conference', () => {
  function joined(): void {
    const asking = desk.consult(ines, call, marit)
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.must({ service: 'conferenceCall', device: ines, call, other: asking })
  }

  it('joins caller, colleague and operator, rings others to join, and holds six and more', () => {
    joined()
    for (const next of [dunstan, 't2105', 't2106']) {
      desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: next })
      expect(place(), 'the others talk on').toBe('talking')
      desk.must({ service: 'answerCall', device: next, call })
    }
    expect(desk.call(call).connections.filter(({ state }) => state === 'connected')).toHaveLength(6)
    for (const next of ['t2107', 't2108']) {
      desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: next })
      desk.must({ service: 'answerCall', device: next, call })
    }
    expect(desk.ask({ service: 'singleStepConferenceCall', device: ines, call, to: 't2109' })).toMatchObject({ code: 'conferenceFull' })
  })

  it('asks whoever has calls sent on where they are, with their mobile or without; and says where nobody can be asked', () => {
    desk.must({ service: 'setForwarding', device: marit, when: 'always', to: dunstan })
    desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: marit })
    expect(connectionOf(desk.call(call), dunstan)).toMatchObject({ state: 'alerting', invitedBy: ines })
    expect(desk.call(call).story.at(-2)).toMatchObject({ type: 'forwarded', device: marit, to: dunstan })
    desk.must({ service: 'answerCall', device: dunstan, call })
    expect(desk.call(call).connections.map(({ device }) => device)).toEqual([desk.call(call).calling, ines, dunstan])

    desk.change('people', desk.state.company.telephones.t2105!.person!, { mobile: '+447700900777' })
    desk.must({ service: 'setRingAlong', device: 't2105', on: true })
    desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: 't2105' })
    const mobile = desk.call(call).connections.find(({ along }) => along)!
    expect(mobile).toMatchObject({ state: 'alerting', invitedBy: ines })
    desk.must({ service: 'answerCall', device: mobile.device, call })
    expect(desk.call(call).connections.map(({ device }) => device)).toEqual([desk.call(call).calling, ines, dunstan, mobile.device])

    desk.must({ service: 'setForwarding', device: 't2106', when: 'always', to: 'queue:freight' })
    const why = sentenceOf(desk.ask({ service: 'singleStepConferenceCall', device: ines, call, to: 't2106' }))
    expect(why).toBe(`${name('t2106')} has calls sent on to ${desk.state.company.groups['queue:freight']!.name}: `
      + 'nobody can be asked to join there. The others are still with you.')
  })

  it('asks an emergency service although every line is in use: another call gives its channel', () => {
    desk.change('trunks', 'west', { channels: 1, kept: 0 })
    desk.change('trunks', 'east', { channels: 2, kept: 0 })
    const other = desk.begins(() => desk.must({ service: 'makeCall', device: marit, number: '07700 900999' }))
    desk.wait(1_000)
    const another = desk.begins(() => desk.must({ service: 'makeCall', device: dunstan, number: '07700 900998' }))
    desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: '999' })
    expect([desk.state.calls.has(other), desk.state.calls.has(another)]).toEqual([true, false])
    expect(desk.call(call).connections.find(({ party }) => party?.number === '999')).toMatchObject({ state: 'alerting', invitedBy: ines })
  })

  it('goes on without who leaves it, and without who is dropped', () => {
    joined()
    desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: dunstan })
    desk.must({ service: 'answerCall', device: dunstan, call })
    expect(desk.ask({ service: 'dropParty', device: marit, call, party: dunstan })).toMatchObject({ code: 'notAllowed' })
    desk.must({ service: 'dropParty', device: ines, call, party: dunstan })
    desk.must({ service: 'clearConnection', device: ines, call })
    expect(desk.call(call)).toMatchObject({ conference: null })
    expect(place()).toBe('talking')
  })

  it('who does not come when asked to join is missed by nobody', () => {
    desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: dunstan })
    expect(desk.hangUp(call, ines), 'the caller would be alone').toMatchObject({ code: 'notPossibleNow' })
    desk.wait(20_000)
    expect(place()).toBe('talking')
    expect([...desk.state.indexes.timers.values()].filter(({ name }) => name !== 'opening')).toEqual([])
    expect(desk.hangUp(call, ines)).toBeUndefined()
  })

  it('mutes one, and nobody stays muted when it is over', () => {
    joined()
    desk.must({ service: 'setMicrophoneMute', device: ines, call, party: marit, on: true })
    expect(connectionOf(desk.call(call), marit)!.muted).toBe(true)
    desk.hangUp(call, ines)
    expect(connectionOf(desk.call(call), marit)!.muted).toBeUndefined()
  })

  it('ends for all only by who joined it', () => {
    joined()
    expect(desk.ask({ service: 'clearCall', device: marit, call })).toMatchObject({ code: 'notAllowed' })
    desk.must({ service: 'clearCall', device: ines, call })
    expect(desk.state.calls.size).toBe(0)
  })
})

describe('picking up and moving', () => {
  it('within one\'s pickup group, and anywhere for operators', () => {
    const [a, b] = desk.state.company.groups['group:reservations']!.members as [string, string]
    const direct = desk.offer(desk.state.company.telephones[a]!.direct!)
    const [stranger] = desk.state.company.groups['group:freight']!.members as [string]
    expect(desk.ask({ service: 'directedPickupCall', device: stranger, call: direct })).toMatchObject({ code: 'notAllowed' })
    desk.must({ service: 'groupPickupCall', device: b, group: null })
    expect(connectionState(desk.state, direct, b)).toBe('connected')
    expect(desk.ask({ service: 'groupPickupCall', device: b, group: null })).toMatchObject({ code: 'notPossibleNow' })
  })

  it('moves what rings or talks elsewhere, for operators only, and comes back to them', () => {
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    expect(desk.ask({ service: 'deflectCall', device: 't2105', call, from: marit, to: dunstan })).toMatchObject({ code: 'notAllowed' })
    desk.must({ service: 'deflectCall', device: bryony, call, from: marit, to: dunstan })
    expect(connectionState(desk.state, call, dunstan)).toBe('alerting')
    desk.wait(20_000)
    expect(desk.call(call).recall).toMatchObject({ to: bryony })
  })

  it('sends on what waits without answering it', () => {
    const waits = desk.offer()
    desk.must({ service: 'deflectCall', device: tomas, call: waits, to: marit })
    expect(desk.call(waits).passing).toMatchObject({ by: tomas, to: marit })
  })
})

describe('operators who come and go', () => {
  it('a call that one refuses waits for the others; refused by all it goes to the line\'s night destination', () => {
    const waits = desk.offer()
    desk.must({ service: 'clearConnection', device: ines, call: waits })
    expect(stretchOf(desk.state, desk.call(waits), ines)).toBeNull()
    expect(stretchOf(desk.state, desk.call(waits), tomas)).toBe('arriving')
    desk.must({ service: 'clearConnection', device: tomas, call: waits })
    desk.must({ service: 'clearConnection', device: bryony, call: waits })
    expect(connectionState(desk.state, waits, mailboxOf('general'))).toBe('connected')
  })

  it('a line that nobody serves any more goes to its night destination, and is served again after its time', () => {
    const waits = desk.offer('+441632960010')
    for (const device of [ines, tomas, bryony]) desk.must({ service: 'setLineServed', device, line: 'freight', on: false, until: desk.now + 60_000 })
    expect(connectionState(desk.state, waits, mailboxOf('freight'))).toBe('connected')
    desk.wait(60_000)
    expect(stretchOf(desk.state, desk.call(desk.offer('+441632960010')), ines)).toBe('arriving')
  })

  it('callers on hold with one who has gone are offered to the others after a while', () => {
    desk.must({ service: 'holdCall', device: ines, call })
    desk.must({ service: 'setAgentState', device: ines, attended: false })
    expect(place()).toBe('onHold')
    desk.wait(30_000)
    expect(stretchOf(desk.state, desk.call(call), tomas)).toBe('arriving')
    expect(tellRecall(english, desk.call(call).recall!, name, 5_000)).toBe(`${name(ines)} has gone and left the caller on hold`)
  })

  it('whoever is back in time keeps their callers; dying in a consultation loses nobody', () => {
    const asking = desk.consult(ines, call, marit)
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.must({ service: 'setAgentState', device: ines, attended: false })
    desk.wait(10_000)
    desk.must({ service: 'setAgentState', device: ines, attended: true })
    desk.wait(60_000)
    expect(stretchOf(desk.state, desk.call(call), ines)).toBe('inHand')
    desk.must({ service: 'setAgentState', device: ines, attended: false })
    desk.wait(30_000)
    expect(stretchOf(desk.state, desk.call(call), tomas)).toBe('arriving')
    expect(place(asking)).toBe('talking')
  })

  it('with nobody left, recalls and new calls reach the night destination, never nowhere', () => {
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    for (const device of [ines, tomas, bryony]) desk.must({ service: 'setAgentState', device, attended: false })
    desk.wait(30_000)
    expect(connectionState(desk.state, call, mailboxOf('general'))).toBe('connected')
    const late = desk.offer('+441632960020')
    expect(connectionState(desk.state, late, mailboxOf('harbour'))).toBe('connected')
  })
})

describe('at the telephone', () => {
  it('sends digits with pauses, and nothing else', () => {
    expect(desk.ask({ service: 'generateDigits', device: ines, call, digits: '1234,,5#' })).toBeUndefined()
    expect(desk.ask({ service: 'generateDigits', device: ines, call, digits: 'hello' })).toMatchObject({ code: 'invalidNumber' })
  })

  it('a blocked caller hears a sentence and is not put through; lifted, they are', () => {
    desk.must({ service: 'blockNumber', device: ines, number: '07700 900777', reason: 'threats' })
    const before = desk.state.calls.size
    desk.must({ service: 'offerCall', trunk: 'east', party: { number: '+447700900777', name: null }, number: '+441632960000' })
    expect(desk.state.calls.size).toBe(before)
    desk.must({ service: 'unblockNumber', device: tomas, number: '+447700900777' })
    expect(desk.offer('+441632960000', { number: '+447700900777', name: null })).toBeDefined()
    expect(desk.ask({ service: 'blockNumber', device: marit, number: '07700 900777', reason: 'x' })).toMatchObject({ code: 'notAllowed' })
    expect(desk.ask({ service: 'blockNumber', device: ines, number: 't2105', reason: 'x' })).toMatchObject({ code: 'invalidNumber' })
  })

  it('do not disturb on behalf of a colleague says who set it and ends in time', () => {
    desk.must({ service: 'setDoNotDisturb', device: ines, of: marit, on: true, until: desk.now + 60_000 })
    expect(desk.state.devices.get(marit)).toMatchObject({ doNotDisturb: true, doNotDisturbBy: ines })
    expect(desk.ask({ service: 'setDoNotDisturb', device: marit, of: dunstan, on: true })).toMatchObject({ code: 'notAllowed' })
    desk.wait(60_000)
    expect(desk.state.devices.get(marit)).toMatchObject({ doNotDisturb: false, doNotDisturbBy: null })
  })
})
