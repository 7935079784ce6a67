import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { decide } from './decide'
import type { Call, DeviceId, ExchangeState, Request } from './model'
import { connectionOf, isOperator, isOutside } from './questions'
import { Tryout } from './tryout'
import { services } from './services'
import { begin, carryOut, devices, requestOf, requestWith, runsOf, start, waitOf, wish } from './wishes'

/** What one may do to a call follows from one's role and one's part in it. */

type WithCall = Extract<Request, { call: string }>

/** Every service on a call, as somebody would ask it who wants to do as much as they can. */
function everything(call: Call, device: DeviceId, other: Call): WithCall[] {
  const party = call.connections.find(connection => connection.device !== device)?.device ?? device
  const values: Record<string, unknown> = {
    device,
    call: call.id,
    party,
    consultation: other.id,
    other: other.id,
    to: '07700 900222',
    number: '07700 900222',
    slot: null,
    for: null,
    digits: '1',
    on: true,
    text: 'hello',
  }
  const ofCalls = (Object.keys(services) as (keyof typeof services)[]).filter(service => service !== 'configure' && 'call' in services[service].fields().fields)
  expect(ofCalls.length).toBeGreaterThan(17)
  return ofCalls.flatMap((service) => {
    const asked = requestWith(service, (name, { optional }) => name in values || optional ? values[name] : 'a word') as WithCall
    if (service === 'listenIn') return [{ ...asked, to: party } as WithCall]
    return service === 'deflectCall' ? [asked, { ...asked, from: party } as WithCall] : [asked]
  })
}

/** What somebody of ours who has no connection in a call may do to it: nothing but this. */
function mayWithoutConnection(state: ExchangeState, call: Call, { service, device, ...more }: WithCall): boolean {
  const operator = isOperator(state, device)
  const queue = call.connections.find(({ state: its, device: id }) => its === 'queued' && state.company.groups[id]?.members.includes(device))
  const brought = [call.passing?.by, call.watched?.by, call.parked?.by].includes(device)
  const near = call.connections.some(
    ({ state: its, device: id }) => its === 'alerting' && state.company.telephones[id]?.pickupGroup === state.company.telephones[device]?.pickupGroup,
  )
  switch (service) {
    case 'answerCall':
    case 'parkCall':
    case 'clearConnection': return queue !== undefined
    case 'directedPickupCall': return operator || call.parked !== null || queue !== undefined || brought || near
    case 'deflectCall': return operator || ('from' in more ? false : queue !== undefined || (call.parked !== null && brought))
    case 'putInQueue': return operator
    case 'listenIn': return operator && state.company.telephones[device]!.mayListen
    case 'whisper':
    case 'intrudeCall': return state.listenings.get(device)?.call === call.id
    case 'clearCall': return isOutside(call) && (operator || brought)
    default: return false
  }
}

describe('rights', () => {
  it('hold for every service, role and part, in whatever state the calls are', () => {
    let asked = 0
    fc.assert(fc.property(fc.array(wish, { minLength: 10, maxLength: 70 }), fc.nat({ max: 11 }), (wishes, index) => {
      let state = begin('rights')
      let now = start
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        if (request) state = carryOut(state, request, now).state
      }
      const device = devices[index]!
      const calls = [...state.calls.values()]
      for (const call of calls) {
        if (connectionOf(call, device)) continue
        for (const request of everything(call, device, calls[0]!)) {
          asked++
          if (!('refusal' in decide(state, request, now))) expect(mayWithoutConnection(state, call, request), `${request.service} by ${device}`).toBe(true)
        }
        const outside = call.connections.find(({ party }) => party)
        if (outside) {
          for (const request of everything(call, outside.device, calls[0]!)) {
            if (!('refusal' in decide(state, request, now)))
              expect(['answerCall', 'clearConnection', 'generateDigits', 'reportFailed', 'sendUserInformation']).toContain(request.service)
          }
        }
      }
    }), { numRuns: runsOf(400) })
    expect(asked).toBeGreaterThan(runsOf(5_000))
  }, 60_000)

  it('a staff member for whom a caller is kept takes the call, and sends it nowhere', () => {
    const desk = new Tryout(merrowby(40))
    const call = desk.inHand('t2100')
    desk.must({ service: 'parkCall', device: 't2100', call, slot: null, for: 't2105' })
    for (const to of ['t2106', '07700 900222']) expect(desk.ask({ service: 'deflectCall', device: 't2105', call, to })).toMatchObject({ code: 'notAllowed' })
    desk.must({ service: 'directedPickupCall', device: 't2105', call })
  })
})
