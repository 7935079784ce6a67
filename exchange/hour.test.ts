import { describe, expect, it } from 'vitest'
import type { NumberedEvent, Request } from '../core/calls/model'
import { quietState } from '../core/calls/snapshot'
import { connectionOf, isConversation, placesOf, talkingCallOf } from '../core/calls/questions'
import { stretchOf } from '../core/calls/stretches'
import { Rehearsal } from '../demo/rehearsal/rehearsal'
import { chanceFrom } from '../demo/company/chance'
import { merrowby } from '../demo/company/merrowby'
import { InventedClock } from './clock'
import { Switch } from './switch'

const start = Date.UTC(2031, 4, 12, 9)
const ines = 't2100'

/** An hour of the demo with somebody at the console who does a little of everything. */
function anHour(seed: number): { exchange: Switch, events: NumberedEvent[], seen: Set<string> } {
  const company = merrowby()
  const clock = new InventedClock(start)
  const rehearsal = new Rehearsal(company, { seed, callerEvery: 12_000, livelyColleagues: true }, start)
  const exchange = new Switch(quietState(company, { epoch: 'hour', now: start, attended: [ines] }), clock, rehearsal)
  const events: NumberedEvent[] = []
  const seen = new Set<string>()
  exchange.onEvent(event => events.push(event))
  const chance = chanceFrom(seed + 1)
  let serial = 0
  const ask = (request: Request) => {
    const reply = exchange.request(`robot-${++serial}`, request)
    if (!reply.refusal) seen.add(request.service)
  }
  const colleague = () => chance.pick(Object.keys(company.telephones))

  const act = () => {
    const { state } = exchange
    const calls = [...state.calls.values()]
    const asking = calls.find(call => call.consultation && call.calling === ines)
    const talking = talkingCallOf(state, ines)
    const held = calls.find(call => connectionOf(call, ines)?.state === 'held')
    const next = calls.filter(call => stretchOf(state, call, ines) === 'arriving').sort((a, b) => a.created - b.created)[0]
    if (asking && isConversation(asking))
      ask(
        chance.happens(0.7)
          ? { service: 'transferCall', device: ines, call: asking.consultation!, consultation: asking.id }
          : { service: 'reconnectCall', device: ines, call: asking.id },
      )
    else if (talking && isConversation(talking)) {
      const to = colleague()
      const choice = chance.next()
      if (choice < 0.5) ask({ service: 'singleStepTransferCall', device: ines, call: talking.id, to })
      else if (choice < 0.75) ask({ service: 'consultationCall', device: ines, call: talking.id, number: to })
      else if (choice < 0.85) ask({ service: 'parkCall', device: ines, call: talking.id, slot: null, for: to })
      else if (choice < 0.92) ask({ service: 'singleStepTransferCall', device: ines, call: talking.id, to: chance.pick(['601', '602', '603', '604']) })
      else ask({ service: 'singleStepTransferCall', device: ines, call: talking.id, to: `mailbox:${to}` })
    }
    else if (!talking && next) ask({ service: 'answerCall', device: ines, call: next.id })
    else if (!talking && held) ask({ service: 'retrieveCall', device: ines, call: held.id })
  }
  for (let second = 0; second < 3_600; second++) {
    clock.advance(1_000)
    if (second % 4 === 0) act()
    for (const call of exchange.state.calls.values())
      if (placesOf(call).length !== 1) throw new Error(`${call.id} is in ${placesOf(call).join(' and ') || 'no place'}`)
  }
  return { exchange, events, seen }
}

describe('an hour of the demo', () => {
  it('passes with every caller in one place, everybody served or gone by themselves, and nobody forgotten', () => {
    const { exchange, events, seen } = anHour(7)
    const inbound = events.filter(event => event.type === 'originated' && event.direction === 'inbound')
    expect(inbound.length).toBeGreaterThan(200)
    for (const service of ['answerCall', 'singleStepTransferCall', 'consultationCall', 'transferCall', 'parkCall']) expect(seen).toContain(service)
    // People come for who is parked for them, serve their queues, and callers leave messages.
    expect(events.some(event => event.type === 'established' && event.from?.startsWith('slot:'))).toBe(true)
    expect(events.some(event => event.type === 'established' && event.device.startsWith('mailbox:'))).toBe(true)
    const waits = [...exchange.state.calls.values()].map(call => exchange.state.time - call.created)
    expect(Math.max(0, ...waits), 'nobody has been there for ten minutes').toBeLessThan(600_000)
  }, 60_000)

  it('is the same hour for the same seed', () => {
    const told = (events: NumberedEvent[]) => events.map(({ type, seq, at }) => `${seq} ${type} ${at}`)
    expect(told(anHour(3).events)).toEqual(told(anHour(3).events))
  }, 60_000)
})
