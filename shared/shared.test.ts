import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Schema } from 'yup'
import { evolve, evolveAll, numbered } from '../core/calls/evolve'
import { decide } from '../core/calls/decide'
import { sentenceOf, Tryout } from '../core/calls/tryout'
import { changesBetween, parts } from '../core/company/changes'
import { nobody } from '../core/company/company'
import { merrowby } from '../demo/company/merrowby'
import { feedVersion } from './beat'
import { LineReader } from './lines'
import { readFileSync } from 'node:fs'
import { refusalOf } from '../words/in-english'
import { linkVersion, readToExchange } from './link'
import { newMessage } from './messages'
import { redactEvent, redactState } from '../core/calls/redaction'
import { seesCallers } from './roles'
import { services } from '../core/calls/services'
import { handsetServices, personServices, readRequest, requestFor } from './requests'

it('scripts speak the versions of link and feed that exchange and server do', () => {
  expect(readFileSync('scripts/link.mjs', 'utf8')).toContain(`type: 'hello', version: ${linkVersion},`)
  expect(readFileSync('scripts/bench-chain.mjs', 'utf8')).toContain(`type: 'hello', version: ${feedVersion} `)
})

describe('what staff members may not see', () => {
  it('is in no state and no event they are told, and changes nothing else', () => {
    const desk = new Tryout()
    const secrets = ['+447700900987', 'Secret Caller', 'my secret words', 'a secret note', '123456', 'a secret reason']
    let redacted = redactState(desk.state)
    const tell = (request: Parameters<typeof decide>[1]) => {
      const decision = decide(desk.state, request, desk.now)
      if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
      const events = numbered(desk.state, decision.events, desk.now)
      desk.state = evolveAll(desk.state, events)
      redacted = events.map(redactEvent).reduce(evolve, redacted)
      const told = JSON.stringify([events.map(redactEvent), redactState(desk.state), redacted])
      for (const secret of secrets) expect(told).not.toContain(secret)
    }
    tell({ service: 'offerCall', trunk: 'east', party: { number: '+447700900987', name: 'Secret Caller' }, number: '+441632960000' })
    const [call] = [...desk.state.calls.keys()] as [string]
    tell({ service: 'answerCall', device: 't2100', call })
    tell({ service: 'sendUserInformation', device: desk.call(call).calling, call, text: 'my secret words' })
    tell({ service: 'generateDigits', device: 't2100', call, digits: '123456' })
    tell({ service: 'blockNumber', device: 't2100', number: '+447700900987', reason: 'a secret reason' })
    tell({ service: 'singleStepTransferCall', device: 't2100', call, to: 't2105', note: 'a secret note' })
    expect([...redacted.calls.values()][0]!.connections.map(({ device, state }) => [device, state])).toEqual(
      [...desk.state.calls.values()][0]!.connections.map(({ device, state }) => [device, state]),
    )
  })

  it('only staff are kept from it', () => {
    expect((['operator', 'supervisor', 'administrator', 'staff'] as const).map(seesCallers)).toEqual([true, true, true, false])
  })
})

describe('a change of the company from outside', () => {
  const line = (changes: unknown[]) => JSON.stringify({ type: 'configure', id: 'c', from: 0, version: 1, changes })

  it('is read as it was sent, for every part of a company', () => {
    const changes = changesBetween(nobody, { ...merrowby(12), settings: { ...nobody.settings, absence: 45_000 } })
    expect(new Set(changes.map(({ part }) => part)).size).toBe(parts.length + 1)
    expect(readToExchange(line(changes))).toMatchObject({ type: 'configure', changes })
    expect(readToExchange(line([{ part: 'slots', id: 'slot:1', value: null }]))).toMatchObject({ changes: [{ part: 'slots', id: 'slot:1', value: null }] })
  })

  it.each([
    [[{ part: 'nonsense', id: 'x', value: null }]],
    [[{ part: '__proto__', id: 'x', value: null }]],
    [[{ part: 'slots', id: 'slot:1' }]],
    [[{ part: 'slots', value: null }]],
    [[null]],
    ['x'],
    [[{ part: 'telephones', id: 't1', value: { id: 't1' } }]],
    [[{ part: 'settings', value: null }]],
    [[{ part: 'lines', id: 'l', value: 'x' }]],
  ])('is refused with a sentence when it is none: %j', changes => {
    expect(refusalOf(() => readToExchange(line(changes as unknown[])))).toMatch(/\w \w/)
  })
})

describe('requests from outside', () => {
  it('are read strictly, keep nothing unknown and name the field', () => {
    expect(readRequest({ service: 'parkCall', device: 't2100', call: 'c', slot: null, for: null, evil: 1 })).toEqual({
      service: 'parkCall',
      device: 't2100',
      call: 'c',
      slot: null,
      for: null,
    })
    expect(refusalOf(() => readRequest({ service: 'parkCall', device: 't2100', call: 'c', for: null }))).toContain('slot is missing')
    expect(refusalOf(() => readRequest({ service: 'sing' }))).toContain('service must be one of')
    expect(refusalOf(() => (requestFor(personServices) as Schema).validateSync({ service: 'offerCall' }))).toContain('service must be one of')
    expect(refusalOf(() => readRequest({ service: 'singleStepTransferCall', device: 't2100', call: 'c', to: 'x', distribution: 'random' })))
      .toContain('distribution must be one of')
  })

  it('come from consoles and handsets for these services, and no others', () => {
    const network = [
      'adjustClock', 'configure', 'reportFailed', 'reportTelephone', 'reportTrunk', 'restoreBlock', 'restoreCallBack', 'restoreMailbox', 'setAgentState',
    ]
    expect(
      Object.keys(services)
        .filter(name => !personServices.includes(name as never))
        .sort(),
    ).toEqual([...network, 'offerCall', 'sendUserInformation', 'setHandset'].sort())
    expect(Object.keys(services).filter(name => !handsetServices.includes(name as never)).sort()).toEqual([
      ...network, 'blockNumber', 'clearCall', 'deflectCall', 'dropParty', 'setLineServed', 'singleStepConferenceCall', 'unblockNumber',
      'openPage', 'speakOnPage', 'closePage', 'intercomCall', 'setOpening', 'putInQueue', 'setTrunkService',
      'promiseCallBack', 'makeCallBack', 'assignCallBack', 'endCallBack', 'offerLine', 'answerLineOffer',
      'listenIn', 'stopListening', 'whisper', 'intrudeCall', 'startRecording', 'stopRecording',
    ].sort())
  })

  it('whatever is sent is read or refused with a sentence', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.keys(services)),
        fc.dictionary(fc.constantFrom('device', 'call', 'to', 'number', 'on', 'until', 'slot', 'for', 'party', 'digits'), fc.anything()),
        (service, fields) => {
          try {
            expect(readRequest({ ...fields, service })).toHaveProperty('service')
          }
          catch {
            expect(refusalOf(() => readRequest({ ...fields, service }))).toMatch(/\w \w/)
          }
        },
      ),
    )
  })

  it('a message needs somebody and some words', () => {
    const message = { to: 't2105', caller: null, number: null, text: 'The lamps are here.', urgent: false, callBack: true }
    expect(newMessage.validateSync(message)).toEqual(message)
    expect(refusalOf(() => newMessage.validateSync({ ...message, text: '' }))).toContain('text is missing')
    expect(refusalOf(() => newMessage.validateSync({ ...message, urgent: 'yes' }))).toContain('urgent')
  })
})

describe('the exchange link', () => {
  it('cuts any stream into its lines, wherever it breaks', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ maxLength: 20, unit: 'grapheme' }).map(text => text.replace(/\s/g, '_'))),
        fc.array(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
        (lines, cuts) => {
          const bytes = Buffer.from(lines.map(line => `${line}\n`).join(''))
          const got: string[] = []
          const reader = new LineReader(
            1_000,
            line => got.push(line),
            () => got.push('too long'),
          )
          for (let at = 0, i = 0; at < bytes.length; i++) {
            const size = cuts[i % cuts.length]!
            reader.take(bytes.subarray(at, at + size))
            at += size
          }
          expect(got).toEqual(lines.filter(Boolean))
        },
      ),
    )
  })

  it('skips a line that is too long, says so once, and goes on', () => {
    const got: string[] = []
    const reader = new LineReader(5, line => got.push(line), () => got.push('too long'))
    reader.take(Buffer.from('abc\nabcdefghij'))
    reader.take(Buffer.from('klm\nok\n'))
    expect(got).toEqual(['abc', 'too long', 'ok'])
  })

  it.each(['', '[]', 'null', '{"type":"dance"}', '{"type":"request","id":"a","request":{"service":"x"}}', '{"type":"advance","by":-1}', '{'])(
    'answers "%s" with what is wrong',
    line => {
      expect(refusalOf(() => readToExchange(line))).toMatch(/\w \w/)
    },
  )
})
