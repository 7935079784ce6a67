import { describe, expect, it } from 'vitest'
import { merrowby } from '../../../demo/company/merrowby'
import { phrase } from '../../../words/phrase'
import { faultsOf } from '../../company/check'
import { isEmergency } from '../questions'
import { sentenceOf, Tryout } from '../tryout'

const [ines, tomas, marit, other] = ['t2100', 't2101', 't2105', 't2106'] as const

function calling(answered: boolean) {
  const on = new Tryout(merrowby(12))
  const call = on.begins(() => on.must({ service: 'makeCall', device: marit, number: '999' }))
  const leg = on.call(call).connections.find(({ party }) => party)!.device
  if (answered) on.must({ service: 'answerCall', device: leg, call })
  return { on, call, leg }
}

describe('somebody\'s emergency call', () => {
  it.each([true, false])('is nobody else\'s: not picked up, moved, taken back, joined or ended (answered: %s)', (answered) => {
    const { on, call } = calling(answered)
    const before = on.call(call)
    for (const device of [ines, tomas, other]) {
      for (const request of [
        { service: 'directedPickupCall' }, { service: 'clearConnection' }, { service: 'clearCall' }, { service: 'deflectCall', to: tomas },
        { service: 'singleStepTransferCall', to: other }, { service: 'putInQueue', at: 0 }, { service: 'answerCall' },
        { service: 'parkCall', slot: null, for: null }, { service: 'singleStepConferenceCall', to: other }, { service: 'dropParty', party: marit },
      ]) expect(on.ask({ ...request, device, call } as never), request.service).toBeDefined()
    }
    expect(on.ask({ service: 'singleStepConferenceCall', device: marit, call, to: other } as never)).toBeDefined()
    expect(on.call(call)).toEqual(before)
  })

  it('stays whoever has connected a caller with it: nobody takes that caller back', () => {
    const on = new Tryout(merrowby(12))
    const call = on.inHand(ines)
    const asked = on.consult(ines, call, '999')
    const leg = on.call(asked).connections.find(({ party }) => party)!.device
    on.must({ service: 'answerCall', device: leg, call: asked })
    on.must({ service: 'transferCall', device: ines, call, consultation: asked })
    const joined = [...on.state.calls.values()].find(one => isEmergency(on.state, one))!
    expect(joined.connections.every(({ party }) => party)).toBe(true)
    for (const device of [ines, tomas]) expect(sentenceOf(on.ask({ service: 'directedPickupCall', device, call: joined.id }))).toContain('emergency')
  })

  it('is what was dialled from here: a caller who says that their number is 999 is a caller like others', () => {
    const on = new Tryout(merrowby(12))
    const call = on.offer('+441632960000', { number: '999', name: 'Really' })
    expect(on.call(call).party).toEqual({ number: null, name: 'Really' })
    expect(isEmergency(on.state, on.call(call))).toBe(false)
    for (let more = 0; more < 30; more++) on.ask({ service: 'offerCall', trunk: 'east', party: { number: '999', name: null }, number: '+441632960000' })
    expect(on.ask({ service: 'makeCall', device: marit, number: '999' })).toBeUndefined()
  })
})

describe('where every channel is in use', () => {
  it('an emergency call gets that of whoever can best be spared: the youngest of those that can be spared alike, and of no other emergency', () => {
    const on = new Tryout(merrowby(12))
    on.change('trunks', 'east', { channels: 8, kept: 0 })
    on.change('trunks', 'west', { channels: 1, kept: 0 })
    const names = new Map<string, string>()
    const named = (name: string, call: string) => {
      names.set(call, name)
      on.wait(1_000)
      return call
    }
    const outbound = (device: string, number: string) => on.begins(() => on.must({ service: 'makeCall', device, number }))
    const answer = (call: string) =>
      on.must({ service: 'answerCall', device: on.call(call).connections.find(({ party, state }) => party && state === 'alerting')!.device, call })
    const inHand = named('in the hand of whoever calls', on.inHand(ines))
    on.must({ service: 'holdCall', device: ines, call: inHand })
    const leaves = named('leaves a message', on.inHand(tomas))
    on.must({ service: 'singleStepTransferCall', device: tomas, call: leaves, to: `mailbox:${marit}` })
    named('waits longer', on.offer('+441632960000', { number: '+447700900002', name: null }))
    named('waits', on.offer('+441632960000', { number: '+447700900003', name: null }))
    answer(named('talks outside', outbound('t2107', '07700 900005')))
    named('rings outside', outbound('t2108', '07700 900006'))
    const through = named('two outside', on.inHand(tomas))
    on.must({ service: 'singleStepTransferCall', device: tomas, call: through, to: '07700 900007' })
    answer(through)
    expect(on.ask({ service: 'makeCall', device: 't2109', number: '07700 900008' }), 'a channel is left').toBeUndefined()
    named('rings last', [...on.state.calls.keys()].at(-1)!)
    expect(on.ask({ service: 'makeCall', device: 't2110', number: '07700 900009' })?.code).toBe('trunksBusy')

    const ended: string[] = []
    for (const device of ['t2105', 't2106', 't2110', 't2111', 't2101', 't2102']) {
      const before = [...on.state.calls.keys()]
      on.must({ service: 'makeCall', device, number: '999' })
      ended.push(...before.filter(id => !on.state.calls.has(id)).map(id => names.get(id) ?? 'an emergency'))
    }
    expect(ended).toEqual(['leaves a message', 'rings last', 'rings outside', 'two outside', 'talks outside'])
    on.must({ service: 'makeCall', device: ines, number: '999' })
    expect([...on.state.calls.keys()].flatMap(id => names.get(id) ?? [])).toEqual(['in the hand of whoever calls', 'waits longer'])
    expect([...on.state.calls.values()].filter(call => isEmergency(on.state, call))).toHaveLength(7)
  })
})

describe('a rule', () => {
  it('never rings the caller\'s own number', () => {
    const on = new Tryout(merrowby(12))
    on.must({ service: 'setForwarding', device: marit, of: marit, when: 'always', to: '07700 900001', until: null } as never)
    const call = on.inHand(ines)
    expect(on.call(call).party?.number).toBe('+447700900001')
    on.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    expect(on.call(call).connections.map(({ device }) => device)).toContain(marit)
    expect(on.call(call).connections.filter(({ party }) => party)).toHaveLength(1)
  })

  it('is gone along as far as it leads: of a chain of full queues the last takes whom it has room for', () => {
    const on = new Tryout(merrowby(12))
    const freight = on.state.company.groups['queue:freight']!
    const chain = Array.from({ length: 16 }, (_, at) => `chain:${at}`)
    on.configure(...chain.map((id, at) => ({ part: 'groups' as const, id, value: {
      ...freight, id, name: `Chain ${at}`, number: String(700 + at), members: [marit, other], voluntary: [], ringing: 'none' as const, mostWaiting: 1,
      overflow: { after: 240_000, to: chain[at + 1] ?? 'operators' },
    } })))
    const sent = chain.concat('more').map((_, at) => {
      const call = on.offer('+441632960000', { number: `+4477009001${10 + at}`, name: null })
      on.must({ service: 'answerCall', device: ines, call })
      on.ask({ service: 'singleStepTransferCall', device: ines, call, to: chain[0]! })
      return call
    })
    const waiting = (id: string) => [...on.state.calls.values()].filter(call => call.connections.some(({ device }) => device === id)).length
    for (const id of chain) expect(waiting(id)).toBeLessThanOrEqual(1)
    expect(sent.every(call => on.call(call).connections.length > 1), 'and nobody is lost').toBe(true)
  })

  it('never leads to an emergency number', () => {
    const on = new Tryout(merrowby(12))
    for (const to of ['999', '9 9 9', '112']) {
      expect(sentenceOf(on.ask({ service: 'setForwarding', device: marit, of: marit, when: 'always', to, until: null } as never))).toContain('No rule leads')
      expect(sentenceOf(on.ask({ service: 'setOpening', device: ines, of: 'freight', open: false, until: null, to }))).toContain('No rule leads')
    }
    const { company } = on.state
    const group = company.groups['queue:freight']!
    const line = company.lines.freight!
    expect(faultsOf({ ...company, groups: { ...company.groups, [group.id]: { ...group, overflow: { after: 60_000, to: '999' } } } }))
      .toEqual([phrase('faults.leadsToEmergency', { calls: phrase('faults.callsThatWait', { name: group.name }), to: '999' })])
    expect(faultsOf({ ...company, lines: { ...company.lines, freight: { ...line, night: '112' } } })).toHaveLength(1)
  })

  it('of before that leads there is passed over: the caller goes to the operators, and no channel is taken', () => {
    const on = new Tryout(merrowby(12))
    const forwarding = { always: { to: '999', by: null, until: null, rings: null } }
    on.state.devices = on.state.devices.update(marit, device => ({ ...device!, forwarding } as never))
    const call = on.inHand(ines)
    on.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    expect(on.call(call).connections.map(({ device }) => device)).toContain(marit)
    expect([...on.state.calls.values()].some(one => isEmergency(on.state, one))).toBe(false)
  })
})
