import { describe, expect, it } from 'vitest'
import { presenceOf } from '../../presence/presence'
import { freeMembers } from '../indexes'
import type { ForwardKind } from '../model'
import { sentenceOf, Tryout } from '../tryout'

const [one, two, three] = ['t2105', 't2106', 't2107'] as const
const forward = (on: Tryout, device: string, when: ForwardKind, to: string | null, more: { of?: string, until?: number, rings?: number } = {}) =>
  on.ask({ service: 'setForwarding', device, when, to, ...more })
const rings = (on: Tryout, call: string) => on.call(call).connections.filter(({ state }) => state === 'alerting').map(({ device }) => device)

function passedTo(on: Tryout, to: string): string {
  const call = on.inHand('t2100')
  on.must({ service: 'singleStepTransferCall', device: 't2100', call, to })
  return call
}

describe('calls that are sent on', () => {
  it('always: ring at whoever is named, told in the story; and at the telephone again when that is over', () => {
    const on = new Tryout()
    expect(forward(on, one, 'always', two)).toBeUndefined()
    const call = passedTo(on, one)
    expect(rings(on, call)).toEqual([two])
    expect(on.call(call).story.map(({ type }) => type)).toContain('forwarded')
    expect(presenceOf(on.state, one)).toMatchObject({ kind: 'forwarded', lit: false, to: two })
    forward(on, one, 'always', null)
    expect(rings(on, passedTo(on, one))).toEqual([one])
    expect(presenceOf(on.state, three)).toMatchObject({ kind: 'free', lit: true })
  })

  it('go on to a number outside, a group, or a voicemail', () => {
    const on = new Tryout()
    forward(on, one, 'always', '07700 900123')
    expect(on.call(passedTo(on, one)).connections.some(({ party }) => party?.number === '+447700900123')).toBe(true)
    forward(on, one, 'always', 'mailbox:t2105')
    expect(on.call(passedTo(on, one)).connections.some(({ device, state }) => device === 'mailbox:t2105' && state === 'connected')).toBe(true)
  })

  it('while busy or not to be disturbed: else the telephone rings itself', () => {
    const on = new Tryout()
    forward(on, one, 'busy', two)
    expect(rings(on, passedTo(on, one))).toEqual([one])
    expect(rings(on, passedTo(on, one))).toEqual([two])
    on.must({ service: 'setDoNotDisturb', device: three, on: true })
    forward(on, three, 'busy', 't2108')
    expect(rings(on, passedTo(on, three))).toEqual(['t2108'])
  })

  it('after so many rings when nobody answers; the caller comes back to whoever passed them on when nobody does there either', () => {
    const on = new Tryout()
    forward(on, one, 'noAnswer', two, { rings: 2 })
    const call = passedTo(on, one)
    on.wait(10_000)
    expect(rings(on, call)).toEqual([two])
    on.wait(20_000)
    expect(on.call(call).recall).toMatchObject({ from: two, cause: 'noAnswer' })
  })

  it('of a call from outside to a direct number too', () => {
    const on = new Tryout()
    on.change('telephones', one, { direct: '+441632960105' })
    forward(on, one, 'always', '07700 900123')
    const call = on.offer('+441632960105')
    expect(on.call(call).connections.map(({ party }) => party?.number)).toContain('+447700900123')
    expect(new Set(on.call(call).connections.map(({ device }) => device)).size).toBe(2)
  })

  it('ring where they were meant for when whoever they are sent on to can\'t be rung', () => {
    const on = new Tryout()
    forward(on, one, 'always', two)
    on.must({ service: 'setDoNotDisturb', device: two, on: true })
    expect(rings(on, passedTo(on, one))).toEqual([one])
  })
})

describe('rules that lead in a circle', () => {
  it('are refused', () => {
    const on = new Tryout()
    forward(on, one, 'always', two)
    forward(on, two, 'always', three)
    expect(sentenceOf(forward(on, three, 'always', one))).toMatch(/^That would turn in a circle: .+ forwards to .+ forwards to .+ already\.$/)
    expect(forward(on, three, 'always', three)?.code).toBe('toSelf')
  })

  it('end, where no single rule shows them: each telephone sends a call on once', () => {
    const on = new Tryout()
    forward(on, one, 'noAnswer', two, { rings: 1 })
    forward(on, two, 'noAnswer', one, { rings: 1 })
    const call = passedTo(on, one)
    for (let second = 0; second < 60; second++) on.wait(1_000)
    expect(on.call(call).recall).not.toBeNull()
    expect(on.call(call).story.filter(({ type }) => type === 'forwarded')).toHaveLength(1)
  })
})

describe('who forwards', () => {
  it('is the owner, or an operator on their behalf, for a while; the telephone knows by whom', () => {
    const on = new Tryout()
    expect(forward(on, two, 'always', three, { of: one })?.code).toBe('notAllowed')
    expect(forward(on, 't2100', 'always', three, { of: one, until: on.now + 60_000 })).toBeUndefined()
    expect(on.state.devices.get(one)?.forwarding?.always).toMatchObject({ to: three, by: 't2100' })
    expect(freeMembers(on.state, { ...on.state.company.groups['queue:freight']!, id: 'queue:freight' }).includes(one)).toBe(false)
    on.wait(60_000)
    expect(on.state.devices.get(one)?.forwarding).toEqual({})
  })

  it('is told what is wrong', () => {
    const on = new Tryout()
    expect(forward(on, one, 'always', 'nonsense')?.code).toBe('invalidNumber')
    expect(sentenceOf(forward(on, one, 'always', '701'))).toContain('A park slot takes nobody by itself')
    expect(sentenceOf(forward(on, one, 'always', two, { until: on.now - 1 }))).toContain('That time is over')
    expect(sentenceOf(forward(on, 't2100', 'always', two))).toContain('say that you are away')
  })
})
