import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../../demo/company/merrowby'
import { changesBetween } from '../../company/changes'
import { nobody } from '../../company/company'
import { connectionState, placesOf, reservedFor } from '../questions'
import { stretchOf } from '../stretches'
import { nextDeadline } from '../timers'
import { sentenceOf, Tryout } from '../tryout'

/** The company changes while calls go on. */

const ines = 't2100'
const tomas = 't2101'
const marit = 't2105'
let desk: Tryout

beforeEach(() => {
  desk = new Tryout(merrowby(60))
})

const place = (call: string) => placesOf(desk.call(call))[0]
const at = (call: string, device: string) => connectionState(desk.state, call, device)
/** A telephone goes, out of every group first. */
const remove = (id: string) => {
  const groups = Object.values(desk.state.company.groups).filter(({ members }) => members.includes(id))
  return desk.configure(
    ...groups.map(group => ({ part: 'groups' as const, id: group.id, value: { ...group, members: group.members.filter(member => member !== id) } })),
    { part: 'telephones', id, value: null },
  )
}

describe('an exchange that has just begun', () => {
  it('knows nobody until it is told which company it serves, and then serves it', () => {
    desk = new Tryout({ ...nobody, groups: { operators: { ...merrowby(3).groups.operators!, members: [] } } }, { attended: [] })
    expect(desk.ask({ service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' })).toMatchObject({
      code: 'trunksBusy',
    })
    expect(desk.ask({ service: 'makeCall', device: ines, number: '2105' })).toMatchObject({ code: 'unknownDevice' })
    const company = merrowby(12)
    expect(desk.ask({ service: 'configure', from: 0, version: 7, changes: changesBetween(desk.state.company, company) })).toBeUndefined()
    expect(desk.state.company).toEqual({ ...company, version: 7 })
    desk.must({ service: 'setAgentState', device: ines, attended: true })
    expect(place(desk.offer())).toBe('waiting')
  })

  it('takes the same version over once, refuses one that does not follow, and one that is wrong', () => {
    const { version } = desk.state.company
    desk.configure({ part: 'slots', id: 'slot:1', value: null })
    const { seq } = desk.state
    desk.must({ service: 'configure', from: version, version: version + 1, changes: [{ part: 'slots', id: 'slot:2', value: null }] })
    expect(desk.state.seq, 'told twice').toBe(seq)
    expect(sentenceOf(desk.ask({ service: 'configure', from: version, version: version + 2, changes: [] }))).toContain('version')
    expect(sentenceOf(desk.configure({ part: 'telephones', id: marit, value: { ...desk.state.company.telephones[marit]!, number: '2106' } }))).toContain(
      'same number',
    )
    expect(desk.state.seq).toBe(seq)
  })
})

describe('an extension that is renumbered', () => {
  it('in the middle of a call keeps it, and is reached by its new number only', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '2105' })
    desk.must({ service: 'answerCall', device: marit, call })
    desk.change('telephones', marit, { number: '3105' })
    expect(at(call, marit)).toBe('connected')
    const again = desk.inHand(tomas)
    expect(desk.ask({ service: 'singleStepTransferCall', device: tomas, call: again, to: '2105' })).toMatchObject({ code: 'unallocatedNumber' })
    expect(desk.ask({ service: 'singleStepTransferCall', device: tomas, call: again, to: '3105' }), 'it is on the telephone').toMatchObject({ code: 'busy' })
    desk.hangUp(call)
    desk.must({ service: 'singleStepTransferCall', device: tomas, call: again, to: '3105' })
    expect(at(again, marit)).toBe('alerting')
  })

  it('and its old number given to another telephone: who dials it reaches the other one, who was shown it by name does not', () => {
    desk.configure(
      { part: 'telephones', id: marit, value: { ...desk.state.company.telephones[marit]!, number: '3105' } },
      { part: 'telephones', id: 't2106', value: { ...desk.state.company.telephones.t2106!, number: '2105' } },
    )
    const dialled = desk.begins(() => desk.must({ service: 'makeCall', device: ines, number: '2105' }))
    expect(at(dialled, 't2106')).toBe('alerting')
    const named = desk.begins(() => desk.must({ service: 'makeCall', device: tomas, number: marit }))
    expect(at(named, marit)).toBe('alerting')
  })
})

describe('a group', () => {
  it('that rings one after the other rings nobody next who is no member any more', () => {
    const [first, second, third] = desk.state.company.groups['group:reservations']!.members as [string, string, string]
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: 'group:reservations' })
    expect(at(call, first)).toBe('alerting')
    desk.change('groups', 'group:reservations', {
      members: desk.state.company.groups['group:reservations']!.members.filter(member => member !== first && member !== second),
    })
    expect(at(call, first), 'what rings already rings on').toBe('alerting')
    desk.hangUp(call, first)
    expect(at(call, third)).toBe('alerting')
  })

  it('of the operators: who joins it is offered what waits, who leaves it is not, and their callers on hold come back to the others', () => {
    const waits = desk.offer()
    const held = desk.inHand(tomas)
    desk.must({ service: 'holdCall', device: tomas, call: held })
    desk.change('groups', 'operators', { members: [ines, marit] })
    expect(stretchOf(desk.state, desk.call(waits), tomas)).toBeNull()
    desk.must({ service: 'setAgentState', device: marit, attended: true })
    expect(stretchOf(desk.state, desk.call(waits), marit)).toBe('arriving')
    expect(desk.ask({ service: 'setAgentState', device: tomas, attended: true })).toMatchObject({ code: 'notAllowed' })
    for (let i = 0; i < 8; i++) desk.wait(60_000)
    expect(place(held)).not.toBe('onHold')
  })

  it('that is gone sends whoever waits in it to the operators', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '602' })
    expect(at(call, 'queue:freight')).toBe('queued')
    desk.configure({ part: 'groups', id: 'queue:freight', value: null })
    expect(at(call, 'operators')).toBe('queued')
  })

  it('that nobody serves any more does so too', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '602' })
    desk.change('groups', 'queue:freight', { members: [] })
    expect(at(call, 'operators')).toBe('queued')
  })
})

describe('a telephone', () => {
  it('that is gone while it rings gives its caller back', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    expect(remove(marit)).toBeUndefined()
    expect(place(call)).toBe('waiting')
    expect(desk.call(call).recall).toMatchObject({ to: ines, from: marit, cause: 'outOfService' })
    expect(desk.state.devices.has(marit)).toBe(false)
  })

  it('that is gone while it talks talks to the end, and is gone then', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    remove(marit)
    expect(place(call)).toBe('talking')
    expect(desk.ask({ service: 'makeCall', device: ines, number: '2105' })).toMatchObject({ code: 'unallocatedNumber' })
    desk.must({ service: 'holdCall', device: marit, call })
    desk.must({ service: 'retrieveCall', device: marit, call })
    desk.hangUp(call)
    expect(desk.state.calls.size).toBe(0)
    expect(desk.state.devices.has(marit)).toBe(false)
  })

  it('that is gone leaves no timer behind', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    desk.must({ service: 'setDoNotDisturb', device: marit, on: true, until: desk.now + 60_000 })
    remove(marit)
    expect(nextDeadline(desk.state)).toBe(desk.now + 60_000)
    desk.hangUp(call)
    expect([...desk.state.indexes.timers.values()].filter(({ name }) => name !== 'opening')).toEqual([])
  })

  it('that is gone with a caller on hold: the caller comes to the operators', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    desk.must({ service: 'holdCall', device: marit, call })
    remove(marit)
    for (let i = 0; i < 4; i++) desk.wait(60_000)
    expect(at(call, 'operators')).toBe('queued')
  })

  it('that is new can be called at once, and one that comes back is a new one', () => {
    const before = desk.state.company.telephones[marit]!
    remove(marit)
    desk.configure({ part: 'telephones', id: marit, value: before })
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: ines, number: before.number }))
    expect(at(call, marit)).toBe('alerting')
  })
})

describe('a park slot that is gone', () => {
  it('gives its caller back to who parked them, whoever they were kept for', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'parkCall', device: ines, call, slot: 'slot:3', for: marit })
    desk.configure({ part: 'slots', id: 'slot:3', value: null })
    expect(at(call, 'operators')).toBe('queued')
    expect(desk.call(call).recall).toMatchObject({ to: ines, cause: 'unfetched' })
    expect(reservedFor(desk.state, marit)).toEqual([])
  })
})

describe('a telephone that is given to somebody else', () => {
  const giveTo = (person: string | null) => {
    const telephone = desk.state.company.telephones[marit]!
    return desk.configure({ part: 'telephones', id: marit, value: { ...telephone, person } })
  }
  const owner = () => desk.state.company.telephones[marit]!.person!
  beforeEach(() => {
    desk.must({ service: 'setGreeting', device: marit, when: 'usual', text: 'This is Marit.' })
    desk.must({ service: 'setMailboxKey', device: marit, digit: '1', to: 't2106' })
    desk.must({ service: 'setForwarding', device: marit, when: 'always', to: 't2106' })
    desk.must({ service: 'setDoNotDisturb', device: marit, on: true, until: null })
    desk.must({ service: 'setStatus', device: marit, reason: 'lunch', until: null })
  })

  it('begins anew: nobody hears the one before, or is sent where they were', () => {
    giveTo(desk.state.company.telephones.t2107!.person)
    expect(desk.state.devices.get(marit)).toMatchObject({
      mailbox: { greetings: {}, keys: {} }, doNotDisturb: false, status: { reason: null, until: null },
    })
    expect(desk.state.devices.get(marit)!.forwarding).toBeUndefined()
    expect(nextDeadline(desk.state)).toBeNull()
  })

  it('keeps what is set when anything else of it changes', () => {
    const before = desk.state.devices.get(marit)
    desk.configure({ part: 'telephones', id: marit, value: { ...desk.state.company.telephones[marit]!, number: '2399', person: owner() } })
    expect(desk.state.devices.get(marit)).toEqual(before)
  })

  it('goes on with the call that it has, and with since when it is free', () => {
    desk.must({ service: 'setDoNotDisturb', device: marit, on: false, until: null })
    const call = desk.inHand(ines)
    const { freeSince } = desk.state.devices.get(marit)!
    desk.must({ service: 'makeCall', device: marit, number: '2106' })
    giveTo(null)
    expect([...desk.state.calls.values()].some(({ calling }) => calling === marit)).toBe(true)
    expect(desk.state.devices.get(marit)!.freeSince).toBe(freeSince)
    expect(at(call, ines)).toBe('connected')
  })
})

describe('a line', () => {
  it('that is new takes calls at once; one that is gone takes none, and who called on it is looked after', () => {
    const call = desk.offer('+441632960010')
    desk.configure(
      { part: 'lines', id: 'freight', value: null },
      {
        part: 'lines',
        id: 'news',
        value: {
          ...desk.state.company.lines.general!,
          id: 'news',
          name: 'News line',
          number: '+441632960070',
          night: 'mailbox:news',
          overflow: { after: 60_000, to: 'mailbox:news' },
        },
      },
    )
    expect(place(call)).toBe('waiting')
    expect(desk.ask({ service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960010' })).toMatchObject({
      code: 'unallocatedNumber',
    })
    expect(desk.call(desk.offer('+441632960070')).line).toBe('news')
    for (let i = 0; i < 10 && desk.state.calls.has(call); i++) desk.wait(60_000)
    expect(desk.state.calls.has(call), 'a mailbox took the message in the end').toBe(false)
  })
})

describe('a trunk', () => {
  it('with fewer channels cuts nobody off and takes no more', () => {
    const calls = [1, 2, 3].map(() => desk.offer())
    desk.change('trunks', 'east', { channels: 2, kept: 0 })
    expect(calls.every(call => desk.state.calls.has(call))).toBe(true)
    expect(desk.ask({ service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' })).toMatchObject({
      code: 'trunksBusy',
    })
  })
})
