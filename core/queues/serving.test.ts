import { describe, expect, it } from 'vitest'
import { freeIn } from '../calls/indexes'
import { Tryout } from '../calls/tryout'
import { boardsOf } from './board'
import { memberPlace, type MemberPlace } from './serving'

const queue = 'queue:freight'
const [one, other] = ['t2105', 't2106'] as const
const second = 1_000

function day(ringing: 'none' | 'longestFree') {
  const on = new Tryout()
  on.change('groups', queue, { members: [one, other], voluntary: [one, other], wrapUp: 30 * second, ringing, ringTime: 15 * second, pauseAfter: 0 })
  return on
}

/** What the rule says of the first member, and what each of those who ask it makes of that. */
function seen(on: Tryout) {
  const place = memberPlace(on.state, queue, one)
  const board = boardsOf(on.state, 't2100').find(({ id }) => id === queue)!
  const rungFirst = [...freeIn(on.state, queue)].includes(one)
  return { place, rungFirst, board: board.serving }
}

/** A caller sent to the queue: where they are then. */
function sent(on: Tryout): 'waits' | 'refused' {
  const call = on.offer('+441632960000', { number: '+447700900001', name: 'Ada Fenn' })
  on.must({ service: 'answerCall', device: 't2100', call })
  return on.ask({ service: 'singleStepTransferCall', device: 't2100', call, to: queue }) ? 'refused' : 'waits'
}

const away: [string, 'none' | 'longestFree', (on: Tryout, device: string) => void, MemberPlace][] = [
  ['do not disturb', 'longestFree', (on, device) => on.must({ service: 'setDoNotDisturb', device, on: true }), 'away'],
  ['a status', 'longestFree', (on, device) => on.must({ service: 'setStatus', device, reason: 'meeting', until: null }), 'away'],
  ['all calls forwarded, where the queue rings', 'longestFree',
    (on, device) => on.must({ service: 'setForwarding', device, of: device, when: 'always', to: 't2107', until: null }), 'away'],
  ['all calls forwarded, where members take them from a list', 'none',
    (on, device) => on.must({ service: 'setForwarding', device, of: device, when: 'always', to: 't2107', until: null }), 'free'],
  ['a pause', 'longestFree', (on, device) => on.must({ service: 'setQueueServed', device, of: device, queue, state: 'paused', reason: 'Break' }), 'paused'],
  ['having left', 'longestFree', (on, device) => on.must({ service: 'setQueueServed', device, of: device, queue, state: 'left' }), 'paused'],
  ['a telephone out of service', 'longestFree', (on, device) => on.change('telephones', device, { inService: false }), 'away'],
]

describe('who serves a queue', () => {
  it.each(away)('with %s is the same for ringing, sending there, and what is seen (%s)', (_why, ringing, act, place) => {
    const on = day(ringing)
    expect(seen(on).place).toBe('free')
    act(on, one)
    act(on, other)
    const isFree = place === 'free'
    expect(seen(on)).toMatchObject({ place, rungFirst: isFree, board: { free: isFree ? 2 : 0, paused: place === 'paused' ? 2 : 0 } })
    expect(sent(on)).toBe(isFree ? 'waits' : 'refused')
  })

  it('goes on when the last who is rung forwards all calls: nobody waits where nobody rings', () => {
    const on = day('longestFree')
    on.must({ service: 'setDoNotDisturb', device: other, on: true })
    expect(sent(on)).toBe('waits')
    const [call] = [...on.state.calls.values()]
    on.must({ service: 'setForwarding', device: one, of: one, when: 'always', to: 't2107', until: null })
    expect(on.call(call!.id).connections.map(({ device }) => device)).toContain('operators')
  })

  it('counts who works after a call as there in a moment, for what callers hear too', () => {
    const on = day('longestFree')
    on.must({ service: 'setDoNotDisturb', device: other, on: true })
    sent(on)
    const [first] = [...on.state.calls.values()]
    on.must({ service: 'answerCall', device: one, call: first!.id })
    on.must({ service: 'clearConnection', device: one, call: first!.id })
    expect(seen(on)).toMatchObject({ place: 'busy', rungFirst: false, board: { free: 0, busy: 1, away: 1 } })
    expect(sent(on), 'they are back in a moment').toBe('waits')
    on.wait(30 * second)
    expect(seen(on).place).toBe('busy')
  })
})
