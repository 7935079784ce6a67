import { sentenceOf } from '../calls/tryout'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { decide } from '../calls/decide'
import { evolve, numbered } from '../calls/evolve'
import type { ExchangeState, Request } from '../calls/model'
import { quietState } from '../calls/snapshot'
import { boardsOf, isDeserted, usedOf } from './board'

const begin = Date.UTC(2031, 4, 12, 9)

function desk() {
  let state = quietState(merrowby(), { epoch: 'board', now: begin, attended: ['t2100'] })
  let now = begin
  return {
    get state() { return state },
    get now() { return now },
    wait(ms: number) { now += ms },
    ask(request: Request): string {
      const decision = decide(state, request, now)
      if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
      for (const event of numbered(state, decision.events, now)) state = evolve(state, event)
      return [...state.calls.keys()].at(-1)!
    },
    boards: (device: string | null = 't2100') => boardsOf(state, device),
  }
}

/** A caller answered by Ines and left to wait in the freight queue. */
function intoFreight(at: ReturnType<typeof desk>, name: string): string {
  const call = at.ask({ service: 'offerCall', trunk: 'east', party: { name, number: null }, number: '+441632960000' })
  at.ask({ service: 'answerCall', device: 't2100', call })
  at.ask({ service: 'singleStepTransferCall', device: 't2100', call, to: 'queue:freight' })
  return call
}

describe('the boards of the queues', () => {
  it('show every queue but the operators\' own, with each of its members in one state', () => {
    const at = desk()
    const freight = at.boards().find(({ id }) => id === 'queue:freight')!
    const { members } = at.state.company.groups['queue:freight']!
    expect(at.boards().map(({ id }) => id)).toEqual(['queue:reservations', 'queue:freight', 'queue:lostProperty', 'queue:sailingNews'])
    expect(freight.serving.free + freight.serving.busy + freight.serving.paused + freight.serving.away).toBe(members.length)
    at.ask({ service: 'setStatus', device: members[0]!, reason: 'lunch', until: null })
    at.ask({ service: 'makeCall', device: members[1]!, number: '2105' })
    expect(at.boards().find(({ id }) => id === 'queue:freight')!.serving)
      .toEqual({ free: freight.serving.free - 2, busy: freight.serving.busy + 1, paused: 0, away: freight.serving.away + 1 })
    at.ask({ service: 'setQueueServed', device: members[2]!, queue: 'queue:freight', state: 'paused', reason: 'Training' })
    expect(at.boards().find(({ id }) => id === 'queue:freight')!.serving).toMatchObject({ free: freight.serving.free - 3, paused: 1 })
  })

  it('show who waits there, the longest first, and how late', () => {
    const at = desk()
    const first = intoFreight(at, 'First')
    at.wait(20_000)
    const second = intoFreight(at, 'Second')
    at.wait(10_000)
    const freight = at.boards().find(({ id }) => id === 'queue:freight')!
    expect(freight.waiting.map(({ call }) => call.id)).toEqual([first, second])
    expect(usedOf(freight, at.now)).toBeCloseTo(30_000 / freight.promise)
    at.ask({ service: 'directedPickupCall', device: 't2100', call: second })
    expect(at.boards().find(({ id }) => id === 'queue:freight')!.waiting).toHaveLength(1)
    expect(usedOf({ since: null, promise: 45_000 }, at.now)).toBe(0)
  })

  it('say when nobody is there who could ever answer, and put one\'s own queues first', () => {
    const at = desk()
    intoFreight(at, 'Waits')
    const [own] = at.state.company.groups['queue:freight']!.members
    const [first] = at.boards(own)
    expect(first).toMatchObject({ id: 'queue:freight', own: true })
    expect(isDeserted(first!)).toBe(false)
    expect(isDeserted({ serving: { free: 0, busy: 0, paused: 0, away: 14 } })).toBe(true)
  })
})

describe('an operator and a caller in a queue of others', () => {
  const waits = (state: ExchangeState, call: string) =>
    state.calls.get(call)!.connections.some(({ device, state: its }) => device === 'queue:freight' && its === 'queued')

  it('takes the caller, or sends them on, and answers for them until somebody has them', () => {
    const at = desk()
    const call = intoFreight(at, 'Moved')
    at.ask({ service: 'deflectCall', device: 't2100', call, from: 'queue:freight', to: 't2150' })
    expect(waits(at.state, call)).toBe(false)
    expect(at.state.calls.get(call)).toMatchObject({ passing: { by: 't2100', to: 't2150' } })
  })

  it('a colleague may not, and whoever has gone there meanwhile is not moved', () => {
    const at = desk()
    const call = intoFreight(at, 'Left Alone')
    expect(() => at.ask({ service: 'deflectCall', device: 't2160', call, from: 'queue:freight', to: 't2150' })).toThrow('Only operators')
    const [member] = at.state.company.groups['queue:freight']!.members
    at.ask({ service: 'answerCall', device: member!, call })
    expect(() => at.ask({ service: 'deflectCall', device: 't2100', call, from: 'queue:freight', to: 't2150' })).toThrow('no longer has that call')
  })
})
