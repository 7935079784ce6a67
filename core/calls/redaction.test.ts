import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evolve } from './evolve'
import { snapshotOf } from './snapshot'
import { begin, carryOut, devices, requestOf, runsOf, start, waitOf, wish } from './wishes'
import { redactEvent, redactState, revealedTo } from './redaction'

/** Whatever service there is, whoever has a right to it asks for it now and then. */
const anyWish = wish.map(wanted => ({ ...wanted, kind: 'any' as const }))
const secrets = ['447700900555', '<b>x</b>', 'K-7', 'wants a cabin', 'a nuisance']

describe('what may not be seen', () => {
  it('is left out alike of events and of states: redact(evolve(s, e)) = evolve(redact(s), redact(e))', () => {
    fc.assert(fc.property(fc.array(fc.oneof(wish, wish, anyWish), { minLength: 20, maxLength: 90 }), (wishes) => {
      let state = begin('redact')
      let redacted = redactState(state)
      let now = start
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        if (!request) continue
        for (const event of carryOut(
          state,
          'account' in request || request.service === 'makeCall' ? ({ ...request, account: 'K-7' } as typeof request) : request,
          now,
        ).events) {
          state = evolve(state, event)
          const told = redactEvent(event)
          // What a mailbox says is for everybody's ears.
          if (told.type !== 'greetingChanged') for (const secret of secrets) expect(JSON.stringify(told)).not.toContain(secret)
          redacted = evolve(redacted, told)
          expect(snapshotOf(redacted)).toEqual(snapshotOf(redactState(state)))
        }
      }
      const told = JSON.stringify(redacted, (key, value: unknown) => key === 'greetings' ? undefined : value)
      for (const secret of secrets) expect(told).not.toContain(secret)
      for (const call of state.calls.values()) {
        for (const device of devices) {
          const own = call.connections.some(connection => connection.device === device)
          const revealed = revealedTo(device, call)
          expect(revealed !== null, 'one\'s own calls, and callers who are kept for one').toBe(own || call.parked?.for === device)
          expect(revealed?.account ?? null).toBeNull()
        }
      }
    }), { numRuns: runsOf(600) })
  }, 60_000)
})
