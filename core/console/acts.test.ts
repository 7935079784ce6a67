import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { decide } from '../calls/decide'
import { evolve, numbered } from '../calls/evolve'
import type { ExchangeState, Request } from '../calls/model'
import { deviceName } from '../calls/names'
import { services } from '../calls/services'
import { Tryout } from '../calls/tryout'
import { begin, carryOut, operators, requestOf, start, waitOf, wish } from '../calls/wishes'
import { actWords } from './acts'
import { boardNews } from './board-news'
import type { Asked } from './console'
import { type Scene, tidingsOf } from './tidings'

function scene(state: ExchangeState, device: string): Scene {
  return {
    state, device, lineName: call => call.line ?? 'own', greeting: () => 'Good morning', departmentOf: () => null,
    t: english,
    nameOf: (of, party) => party?.name ?? party?.number ?? spoken(english, deviceName(state.company, of) ?? 'Outside caller'),
    timeOf: at => new Date(at).toISOString().slice(11, 16),
  }
}

/** Everything that is said of an accepted request to whoever has asked for it; null when it was refused, or has changed nothing. */
function heard(state: ExchangeState, request: Request & { device: string }, now: number): string[] | null {
  const decision = decide(state, request, now)
  if ('refusal' in decision || decision.events.length === 0) return null
  let current = state
  const said: string[] = []
  for (const event of numbered(state, decision.events, now)) {
    const before = 'call' in event ? current.calls.get(event.call) : undefined
    current = evolve(current, event)
    const at = scene(current, request.device)
    const board = boardNews(english, current, event, request.device, at.nameOf)
    said.push(...tidingsOf(at, event, before).map(({ text }) => text), ...board ? [board.text] : [])
  }
  const words = actWords(request as unknown as Asked, scene(current, request.device))
  if (words && said.includes(words)) throw new Error(`said twice: ${JSON.stringify(request)}: ${words}`)
  return words ? [...said, words] : said
}

describe('what an operator does', () => {
  const ines = 't2100'
  const on = () => new Tryout(merrowby(12))
  const says = (day: Tryout, request: Asked) => {
    const said = heard(day.state, { device: ines, ...request } as never, day.now)
    day.must({ device: ines, ...request } as never)
    return said
  }

  it('is said by its result', () => {
    const day = on()
    const until = day.now + 3_600_000
    const of = 't2105'
    const name = day.state.company.telephones[of]!.name
    const time = new Date(until).toISOString().slice(11, 16)
    expect(says(day, { service: 'setDoNotDisturb', on: true, of, until })).toEqual([`Do not disturb on for ${name}, until ${time}`])
    expect(says(day, { service: 'setDoNotDisturb', on: false, of, until: null })).toEqual([`Do not disturb off for ${name}`])
    expect(says(day, { service: 'setStatus', reason: 'lunch', until })).toEqual([`Your status: Away, lunch, until ${time}`])
    expect(says(day, { service: 'setStatus', reason: null, until: null })).toEqual(['Your status: Available'])
    expect(says(day, { service: 'setLineServed', line: 'general', on: false, until })).toEqual([`You do not serve the General line, until ${time}`])
    expect(says(day, { service: 'setLineServed', line: 'general', on: true, until: null })).toEqual(['You serve the General line again'])
    expect(says(day, { service: 'blockNumber', number: '07700 900321', reason: 'a nuisance' })).toEqual(['07700 900321 is blocked'])
    expect(says(day, { service: 'unblockNumber', number: '+447700900321' })).toEqual(['07700 900321 is not blocked any more'])
    expect(says(day, { service: 'setForwarding', when: 'always', to: 't2106', of })).toEqual([
      `Calls for ${name} go to ${day.state.company.telephones.t2106!.name}`,
    ])
    expect(says(day, { service: 'makeCall', number: '07700 900321' })).toEqual(['Calling +447700900321'])
  })

  it('is said when somebody is asked, invited, muted or called', () => {
    const day = on()
    const call = day.inHand(ines)
    const name = (device: string) => day.state.company.telephones[device]!.name
    expect(says(day, { service: 'consultationCall', call, number: 't2105' })?.at(-1)).toBe(`Asking ${name('t2105')} for +447700900001`)
    const asking = [...day.state.calls.keys()].at(-1)!
    expect(says(day, { service: 'reconnectCall', call: asking })).toEqual([expect.stringContaining('ended'), '+447700900001 again'])
    expect(says(day, { service: 'singleStepConferenceCall', call, to: 't2106' })).toEqual([`Asking ${name('t2106')} to join`])
    expect(says(day, { service: 'setMicrophoneMute', call, party: ines, on: true })).toEqual(['You are muted'])
    expect(says(day, { service: 'setMicrophoneMute', call, party: ines, on: false })).toEqual(['You are heard again'])
    expect(says(day, { service: 'generateDigits', call, digits: '12,3#' })).toEqual(['4 digits sent'])
  })

  it('is never done in silence, and is said once: whatever random operators ask for', () => {
    /** Told by the open microphone, or no act at a console. */
    const elsewhere = ['openPage', 'speakOnPage', 'closePage', 'sendUserInformation', 'setAgentState', 'setHandset']
    const done = new Map<string, number>()
    fc.assert(fc.property(fc.array(wish, { minLength: 40, maxLength: 120, size: 'max' }), (wishes) => {
      let state = begin('acts')
      let now = start
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        if (!request) continue
        const service = request.service
        if ('device' in request && operators.includes(request.device) && services[service as keyof typeof services]?.askedBy.includes('console')) {
          const said = elsewhere.includes(service) ? null : heard(state, request, now)
          if (said) {
            done.set(service, (done.get(service) ?? 0) + 1)
            if (said.length === 0) throw new Error(`done in silence: ${JSON.stringify(request)}`)
          }
        }
        state = carryOut(state, request, now).state
      }
    }), { numRuns: Number(process.env.ACT_RUNS ?? 300), seed: process.env.ACT_SEED ? Number(process.env.ACT_SEED) : undefined })
    for (const service of ['answerCall', 'makeCall', 'parkCall', 'deflectCall', 'setLineServed', 'directedPickupCall', 'assignCallBack', 'setTrunkService'])
      expect(done.get(service), service).toBeGreaterThan(3)
  }, 120_000)
})
