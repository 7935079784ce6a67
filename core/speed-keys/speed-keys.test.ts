import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { speedKeyPages } from '../../demo/company/speed-keys'
import type { Request } from '../calls/model'
import { isOpen } from '../queues/openings'
import { Tryout } from '../calls/tryout'
import { trackOf } from '../console/track'
import { fromCsv, toCsv } from './csv'
import { keyStrokes, mostKeys, mostPages, moved, pageStrokes, type SpeedKey } from './key'
import { faultOf, meaningOf } from './meaning'

const company = merrowby(60)
const key = (kind: SpeedKey['kind'], of: string): SpeedKey => ({ kind, of, label: null })

function consoleOf(exchange: Tryout, device = 't2100') {
  const { state, now } = exchange
  const nameOf = (id: string) => state.company.telephones[id]?.name ?? state.company.groups[id]?.name ?? id
  return { state, device, track: trackOf(state, device, { next: null, carried: null }, now), note: '', account: '', wall: now, nameOf, t: english }
}
function talking() {
  const exchange = new Tryout(company)
  const call = exchange.inHand('t2100')
  return { exchange, call }
}
const read = (csv: string) => fromCsv(company, csv)

describe('a speed key', () => {
  it('calls when nothing is in hand, and passes on what is; with Shift it asks first', () => {
    const quiet = consoleOf(new Tryout(company))
    expect(meaningOf(quiet, key('person', 'p2110'), false)).toMatchObject({ deed: { request: { service: 'makeCall', number: 't2110' } } })
    const { exchange, call } = talking()
    const console = consoleOf(exchange)
    expect(meaningOf(console, key('person', 'p2110'), false)).toMatchObject({ deed: { request: { service: 'singleStepTransferCall', call, to: 't2110' } } })
    expect(meaningOf(console, key('person', 'p2110'), true)).toMatchObject({ deed: { request: { service: 'consultationCall', call, number: 't2110' } } })
    expect(meaningOf(console, key('number', '01632 960711'), true)).toMatchObject({ deed: { request: { service: 'consultationCall' } } })
  })

  it('never passes on blind when Shift was held', () => {
    const { exchange } = talking()
    const console = consoleOf(exchange)
    for (const page of speedKeyPages(company)) {
      for (const one of page.keys) {
        const meaning = meaningOf(console, one, true)
        if (['status', 'line', 'slot', 'zone', 'opening', 'night', 'forward'].includes(one.kind) || !('deed' in meaning) || meaning.deed.do !== 'ask') continue
        expect(meaning.deed.request).toSatisfy((request: { service: string, distribution?: string }) =>
          request.service === 'consultationCall' || request.distribution === 'all')
      }
    }
  })

  it('closes and opens a line or a queue, and all lines for the night', () => {
    const on = new Tryout(company)
    const press = (one: ReturnType<typeof key>) => {
      const meaning = meaningOf(consoleOf(on), one, false)
      if (!('deed' in meaning)) throw new Error(meaning.why)
      const { deed } = meaning
      const requests = deed.do === 'askAll' ? deed.requests : deed.do === 'ask' ? [deed.request] : []
      for (const request of requests) on.must({ ...request, device: 't2100' } as Request)
      return meaning.words
    }
    expect(press(key('opening', 'queue:freight'))).toBe('closes the Freight queue')
    expect(isOpen(on.state, 'queue:freight')).toBe(false)
    expect(press(key('opening', 'queue:freight'))).toBe('opens the Freight queue')
    press(key('opening', 'freight'))
    expect(press(key('night', 'lines'))).toBe('closes every line for the night')
    const open = () => Object.keys(company.lines).filter(line => isOpen(on.state, line))
    expect(open()).toEqual([])
    expect(press(key('night', 'lines'))).toBe('opens every line')
    expect(open()).toHaveLength(Object.keys(company.lines).length)
    expect(spoken(english, faultOf(company, key('opening', 'operators'))!)).toContain('There is no line and no queue')
    expect(meaningOf(consoleOf(on), key('opening', 'gone'), false)).toMatchObject({ why: expect.stringContaining('no longer here') })
  })

  it('takes from a slot, and parks there with Shift: one gesture never does the other', () => {
    const { exchange, call } = talking()
    expect(meaningOf(consoleOf(exchange), key('slot', 'slot:1'), false)).toHaveProperty('why')
    expect(meaningOf(consoleOf(exchange), key('slot', 'slot:1'), true)).toMatchObject({ deed: { request: { service: 'parkCall', call, slot: 'slot:1' } } })
    exchange.must({ service: 'parkCall', device: 't2100', call, slot: 'slot:1', for: null })
    expect(meaningOf(consoleOf(exchange), key('slot', 'slot:1'), true)).toHaveProperty('why')
    expect(meaningOf(consoleOf(exchange), key('slot', 'slot:1'), false)).toMatchObject({ deed: { request: { service: 'directedPickupCall', call } } })
  })

  it('of somebody who has left says so; of somebody renumbered reaches them', () => {
    const exchange = new Tryout(company)
    const { t2110, ...telephones } = company.telephones
    exchange.state = {
      ...exchange.state,
      company: { ...company, telephones: { ...telephones, t9000: { ...t2110!, id: 't9000', number: '2999' } } },
    }
    expect(meaningOf(consoleOf(exchange), key('person', 'p2110'), false)).toMatchObject({ deed: { request: { number: 't9000' } } })
    expect(meaningOf(consoleOf(exchange), key('person', 'nobody'), false)).toMatchObject({ why: expect.stringContaining('no longer here') as string })
    expect(spoken(english, faultOf(company, key('person', 'constructor'))!)).toContain('There is no person')
  })

  it('is reached by two strokes more than the one that leads to the keys, each its own', () => {
    expect(new Set(pageStrokes).size).toBeGreaterThanOrEqual(2 * mostPages)
    expect(new Set(keyStrokes).size).toBe(mostKeys)
  })

  it('keeps every key when one is moved', () => {
    const keys = Array.from({ length: 6 }, (_, index) => key('number', `+44163296${index}000`))
    fc.assert(fc.property(fc.integer({ min: -3, max: 9 }), fc.integer({ min: -3, max: 9 }), (from, to) => {
      const after = moved(keys, from, to)
      expect(new Set(after)).toEqual(new Set(keys))
      if (keys[from] && keys[to]) expect(after[to]).toBe(keys[from])
    }))
  })
})

describe('a page of keys as CSV', () => {
  it('comes back as it went out, whatever stands on its keys', () => {
    const keys = speedKeyPages(company).flatMap(page => page.keys).slice(0, mostKeys)
    const text = fc.string({ maxLength: 40, unit: 'grapheme' }).map(any => any.trim()).filter(any => any !== '' && !/^'[=+\-@＝＋－＠]/.test(any))
    const label = fc.option(text, { nil: null })
    fc.assert(fc.property(fc.array(label, { minLength: keys.length, maxLength: keys.length }), (labels) => {
      const labelled = keys.map((one, index) => ({ ...one, label: labels[index]! }))
      const back = read(toCsv(company, labelled))
      expect(back).toEqual({ keys: labelled.filter(one => one.label === null || one.label.length <= 40) })
    }))
  })

  it('takes an extension for a person, and names the row and the remedy for what it can\'t read', () => {
    expect(read('kind,of\r\nperson,2110\r\n')).toEqual({ keys: [key('person', 'p2110')] })
    expect(read('\uFEFFKind,Of,Label\nnumber,01632 960711,Taxis')).toEqual({ keys: [{ kind: 'number', of: '01632 960711', label: 'Taxis' }] })
    for (const [csv, fault] of [
      ['kind,of\nperson,p9999', 'Line 2: There is no person "p9999".'],
      ['kind,of\nperson,2110\nrocket,1', 'Line 3: kind must be one of'],
      ['what', 'The first row must name the columns kind and of'],
      ['', 'The file is empty'],
      ['name\nx', 'The first row must name the columns kind and of'],
      ['kind,of\nnumber,12', 'Line 2: "12" is no number that can be dialled outside'],
      ['kind,of\n"person', 'can\'t be read as CSV'],
      [`kind,of\n${'person,2110\n'.repeat(41)}`, 'The file has 41 keys'],
    ] as const) {
      const found = read(csv)
      expect('fault' in found && spoken(english, found.fault)).toContain(fault)
    }
  })
})
