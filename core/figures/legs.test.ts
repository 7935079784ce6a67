import fc from 'fast-check'
import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { decide } from '../calls/decide'
import { evolve, numbered } from '../calls/evolve'
import type { ExchangeState, Request } from '../calls/model'
import { sentenceOf, Tryout } from '../calls/tryout'
import { begin, carryOut, requestOf, start, waitOf, wish } from '../calls/wishes'
import { LegBook } from './leg-book'
import { directLine, type Leg, legChanges, legsOfLiving } from './legs'

const ines = 't2100'
const marit = 't2105'
let desk: Tryout
let book: LegBook

beforeEach(() => {
  desk = new Tryout(merrowby(12))
  book = new LegBook()
})

function ask(request: Request): void {
  const decision = decide(desk.state, request, desk.now)
  if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
  for (const event of numbered(desk.state, decision.events, desk.now)) {
    const before = desk.state
    desk.state = evolve(before, event)
    book.add(legChanges(event, before, desk.state), event.seq)
  }
}

function wait(ms: number): void {
  desk.now += ms
  ask({ service: 'tick' })
}

const offer = (number = '+441632960000') =>
  desk.begins(() => ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900001', name: null }, number }))
const shown = ({ of, place, end, by, waited, talked, held, next, passedBy, back }: Leg) =>
  [
    of, place, end, by, waited, talked, ...held ? [`held ${held}`] : [], ...next ? [`to ${next}`] : [],
    ...passedBy ? [`from ${passedBy}`] : [], ...back ? ['back'] : [],
  ]

describe('the legs of a call', () => {
  it('are one for each place: answered, put on hold, passed on, back, abandoned', () => {
    const call = offer()
    wait(7_000)
    ask({ service: 'answerCall', device: ines, call })
    wait(10_000)
    ask({ service: 'holdCall', device: ines, call })
    wait(4_000)
    ask({ service: 'retrieveCall', device: ines, call })
    wait(1_000)
    ask({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    wait(5_000)
    wait(desk.state.company.settings.transferRecall)
    wait(3_000)
    ask({ service: 'clearConnection', device: desk.call(call).calling, call })
    expect(book.legs.map(shown)).toEqual([
      ['line', 'general', 'answered', ines, 7_000, 43_000],
      ['group', 'operators', 'answered', ines, 7_000, 15_000, 'held 4000', `to ${marit}`],
      ['telephone', marit, 'movedOn', null, 25_000, null, 'to operators', `from ${ines}`],
      ['group', 'operators', 'abandoned', null, 3_000, null, 'back'],
    ])
  })

  it('of who leaves to be called back end so, whoever is rung to call back has made no call until they are there, and the caller is reached or not', () => {
    desk.change('groups', 'queue:reservations', { members: [marit], voluntary: [], ringing: 'longestFree', callBackDigit: '1', wrapUp: 0 })
    const left = offer('+441632960040')
    wait(4_000)
    ask({ service: 'generateDigits', device: desk.call(left).calling, call: left, digits: '1' })
    expect(book.legs.map(shown)).toEqual([
      ['line', 'reservations', 'promised', null, 4_000, null], ['group', 'queue:reservations', 'promised', null, 4_000, null],
    ])
    const prompt = () => [...desk.state.calls.keys()][0]!
    wait(3_000)
    ask({ service: 'clearConnection', device: marit, call: prompt() })
    expect(book.legs, 'nobody has called anybody').toHaveLength(2)
    wait(2_000)
    ask({ service: 'answerCall', device: marit, call: prompt() })
    wait(6_000)
    ask({ service: 'answerCall', device: desk.call(prompt()).connections[1]!.device, call: prompt() })
    wait(9_000)
    ask({ service: 'clearConnection', device: marit, call: prompt() })
    expect(book.legs.slice(2).map(shown)).toEqual([['made', marit, 'answered', marit, 6_000, 9_000]])
  })

  it('a caller in two queues is in each once', () => {
    const call = offer()
    ask({ service: 'answerCall', device: ines, call })
    wait(2_000)
    ask({ service: 'singleStepTransferCall', device: ines, call, to: 'queue:freight' })
    wait(9_000)
    ask({ service: 'deflectCall', device: ines, call, from: 'queue:freight', to: 'queue:reservations' })
    wait(6_000)
    const member = desk.state.company.groups['queue:reservations']!.members[0]!
    ask({ service: 'answerCall', device: member, call })
    wait(30_000)
    ask({ service: 'clearConnection', device: member, call })
    expect(book.legs.filter(({ of }) => of === 'group').map(shown)).toEqual([
      ['group', 'operators', 'answered', ines, 0, 2_000, 'to queue:freight'],
      ['group', 'queue:freight', 'movedOn', null, 9_000, null, 'to queue:reservations', `from ${ines}`],
      ['group', 'queue:reservations', 'answered', member, 6_000, 30_000, `from ${ines}`],
    ])
  })

  it('who was asked beforehand has a leg that did not wait, and the call that asked is over', () => {
    const call = offer()
    ask({ service: 'answerCall', device: ines, call })
    const asking = desk.begins(() => ask({ service: 'consultationCall', device: ines, call, number: marit }))
    wait(4_000)
    ask({ service: 'answerCall', device: marit, call: asking })
    wait(6_000)
    ask({ service: 'transferCall', device: ines, call, consultation: asking })
    wait(60_000)
    ask({ service: 'clearConnection', device: marit, call })
    expect(book.legs.map(shown)).toEqual([
      ['line', 'general', 'answered', ines, 0, 70_000],
      ['group', 'operators', 'answered', ines, 0, 10_000, 'held 10000', `to ${marit}`],
      ['made', ines, 'answered', ines, 4_000, 6_000],
      ['telephone', marit, 'answered', marit, 4_000, 6_000],
      ['joined', marit, 'answered', marit, 0, 60_000, `from ${ines}`],
    ])
  })

  it('a park slot is a place, and a mailbox is no answer', () => {
    const call = offer()
    ask({ service: 'answerCall', device: ines, call })
    ask({ service: 'parkCall', device: ines, call, slot: 'slot:3', for: null })
    wait(12_000)
    ask({ service: 'directedPickupCall', device: marit, call })
    wait(1_000)
    ask({ service: 'singleStepTransferCall', device: marit, call, to: 'mailbox:general' })
    wait(5_000)
    ask({ service: 'clearConnection', device: desk.call(call).calling, call })
    expect(book.legs.map(shown)).toEqual([
      ['line', 'general', 'answered', ines, 0, 18_000],
      ['group', 'operators', 'answered', ines, 0, 0, 'to slot:3'],
      ['slot', 'slot:3', 'answered', marit, 12_000, 1_000, 'to mailbox:general', `from ${ines}`],
    ])
  })

  it('a call outward is a leg of whoever makes it', () => {
    const call = desk.begins(() => ask({ service: 'makeCall', device: marit, number: '07700 900123' }))
    wait(8_000)
    const outside = desk.call(call).connections.find(({ party }) => party)!.device
    ask({ service: 'answerCall', device: outside, call })
    wait(20_000)
    ask({ service: 'clearConnection', device: marit, call })
    expect(book.legs.map(shown)).toEqual([['made', marit, 'answered', marit, 8_000, 20_000]])
  })

  it('whoever makes a call and turns to another while it rings has nobody on hold', () => {
    const call = desk.begins(() => ask({ service: 'makeCall', device: ines, number: '2105' }))
    wait(2_000)
    const other = offer()
    ask({ service: 'answerCall', device: ines, call: other })
    wait(3_000)
    ask({ service: 'answerCall', device: marit, call })
    wait(4_000)
    ask({ service: 'clearConnection', device: marit, call })
    const [made] = book.legs.filter(({ of }) => of === 'made')
    expect(made).toMatchObject({ waited: 5_000, talked: 4_000, held: 4_000 })
  })

  it('of calls that are under way when the journal begins are those that go on', () => {
    const call = offer()
    ask({ service: 'answerCall', device: ines, call })
    wait(1_000)
    offer()
    const later = new LegBook()
    later.add(legsOfLiving(desk.state), desk.state.seq)
    expect(later.legs.map(shown)).toEqual([
      ['line', 'general', 'answered', ines, 0, null],
      ['joined', ines, 'answered', ines, 0, null],
      ['line', 'general', 'waiting', null, null, null],
      ['group', 'operators', 'waiting', null, null, null],
    ])
  })

  it('hold for whatever happens: each call from outside has one at its line, waits at one place at a time, and nothing stays open', () => {
    fc.assert(fc.property(fc.array(wish, { minLength: 20, maxLength: 120 }), (wishes) => {
      let state = begin('legs')
      let now = start
      const book = new LegBook()
      const calls = new Map<string, string | null>()
      const carry = (request: Request): void => {
        const result = carryOut(state, request, now)
        for (const event of result.events) {
          if (event.type === 'originated' && event.direction === 'inbound') calls.set(event.call, event.line)
          const before: ExchangeState = state
          state = evolve(before, event)
          book.add(legChanges(event, before, state), event.seq)
        }
        for (const call of state.calls.values()) {
          const open = book.legs.filter(leg => leg.call === call.id && leg.end === 'waiting' && leg.of !== 'line' && leg.of !== 'made')
          expect(open.length, `${call.id} waits at one place`).toBeLessThan(2)
        }
      }
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        if (request) carry(request)
      }
      now += 5_000
      for (const id of [...state.calls.keys()]) {
        const call = state.calls.get(id)
        if (call) carry({ service: 'clearCall', device: call.calling, call: id })
      }
      for (const [call, line] of calls) {
        const own = book.legs.filter(leg => leg.call === call && leg.of === 'line')
        expect(own.map(({ place }) => place), `legs of ${call} at its line`).toEqual([line ?? directLine])
      }
      for (const leg of book.legs) {
        if (state.calls.has(leg.call)) continue
        expect(leg.end).not.toBe('waiting')
        expect(leg.waited!).toBeGreaterThanOrEqual(0)
        expect(leg.end === 'answered' ? leg.talked! >= leg.held && leg.held >= 0 : leg.talked === null, JSON.stringify(leg)).toBe(true)
        if (leg.of === 'joined') expect(leg.by).toBe(leg.place)
      }
    }), { numRuns: 150 })
  })
})
