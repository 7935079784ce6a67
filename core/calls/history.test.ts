import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import fc from 'fast-check'
import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { greetingAt } from '../greetings/greeting'
import { spell } from '../durations/durations'
import { evolve, numbered } from './evolve'
import { decide } from './decide'
import { type Parking, parkingOf } from './parking/parkings'
import { recordOf } from './record'
import { deviceName, mailboxOf } from './names'
import type { Request } from './model'
import { tellStory } from './story'
import { plainText, wellFormed } from './text'
import { sentenceOf, Tryout } from './tryout'

/** What is left of a call when it is over: its record, its story, its stays in park slots. */

const ines = 't2100'
const marit = 't2105'
let desk: Tryout

beforeEach(() => {
  desk = new Tryout(merrowby(12))
})

/** Carries out a request and collects what it does to the history of parkings. */
function watched(request: Request): Parking[] {
  const decision = decide(desk.state, request, desk.now)
  if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
  return numbered(desk.state, decision.events, desk.now).flatMap((event) => {
    const before = 'call' in event ? desk.state.calls.get(event.call) : undefined
    desk.state = evolve(desk.state, event)
    const parking = parkingOf(event, before, 'call' in event ? desk.state.calls.get(event.call) : undefined)
    return parking ? [parking] : []
  })
}

const name = (device: string) => spoken(english, deviceName(desk.state.company, device) ?? 'The caller')

describe('the record of a call', () => {
  it('says who answered, who had it last, and what became of it', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.must({ service: 'answerCall', device: marit, call })
    const record = recordOf(desk.state, desk.call(call), { at: desk.now, type: 'callCleared', device: marit, cause: 'normalClearing' })
    expect(record).toMatchObject({ outcome: 'answered', answeredBy: ines, endedWith: marit, line: 'general' })
    expect(record.names).toMatchObject({ [ines]: 'Ines Quillfeather' })
  })

  it('a call that only a mailbox took is not answered', () => {
    const call = desk.offer()
    desk.must({ service: 'deflectCall', device: ines, call, to: mailboxOf('general') })
    const record = recordOf(desk.state, desk.call(call), { at: desk.now, type: 'callCleared', device: 'x', cause: 'normalClearing' })
    expect(record).toMatchObject({ outcome: 'voicemail', answeredBy: null })
    expect(Object.values(record.names).map(one => spoken(english, one))).toContain('the voicemail of General line')
  })

  it('whoever gave up on hold, parked or ringing on was missed; whoever hung up while talking was served', () => {
    const ends = (then: (call: string) => void) => {
      const call = desk.inHand(ines)
      then(call)
      const was = desk.call(call)
      const decision = decide(desk.state, { service: 'clearConnection', device: was.calling, call }, desk.now)
      if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
      const [leaves, over] = numbered(desk.state, decision.events, desk.now)
      desk.state = evolve(desk.state, leaves!)
      const record = recordOf(desk.state, desk.call(call), { at: desk.now, type: 'callCleared', device: was.calling, cause: 'normalClearing' })
      desk.state = evolve(desk.state, over!)
      return record.outcome
    }
    expect(ends(() => {})).toBe('answered')
    expect(ends(call => desk.must({ service: 'holdCall', device: ines, call }))).toBe('gaveUp')
    expect(ends(call => desk.must({ service: 'parkCall', device: ines, call, slot: null, for: null }))).toBe('gaveUp')
    expect(ends(call => desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit }))).toBe('gaveUp')
  })

  it('says numbers, whichever way somebody was named, as they were then', () => {
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: ines, number: marit }))
    const record = () => recordOf(desk.state, desk.call(call), null)
    expect(record()).toMatchObject({ dialled: '2105', number: '2100', name: 'Ines Quillfeather', numbers: ['2100', '2105'] })
    desk.change('telephones', marit, { number: '3105' })
    expect(record().numbers).toEqual(['2100', '3105'])
    expect(desk.call(desk.begins(() => desk.must({ service: 'makeCall', device: ines, number: 'group:reservations' }))).dialled).toMatch(/^5\d\d$/)
  })

  it('keeps the account code of a call', () => {
    const call = desk.begins(() => desk.must({ service: 'makeCall', device: ines, number: '020 7946 0123', account: ' K-7 ' }))
    expect(recordOf(desk.state, desk.call(call), null)).toMatchObject({ account: 'K-7', outcome: 'live', direction: 'outbound' })
  })
})

describe('the story of a call', () => {
  it('is told in plain words, with how long each step took', () => {
    const call = desk.offer()
    desk.now += 4_000
    desk.must({ service: 'answerCall', device: ines, call })
    desk.now += 10_000
    desk.must({ service: 'parkCall', device: ines, call, slot: null, for: null })
    desk.must({ service: 'directedPickupCall', device: marit, call })
    expect(tellStory(english, desk.call(call).story, name).map(({ text, lasted }) => `${text} ${lasted ?? ''}`.trim())).toEqual([
      'The caller called 0', 'waited for Operators 4000', 'Ines Quillfeather answered 10000',
      'Ines Quillfeather put the caller into park slot 1 0', `${name(marit)} took it from park slot 1`,
    ])
  })
})

describe('the history of parkings', () => {
  it.each<[string, string, () => Request]>([
    ['taken', 'somebody takes the caller', () => ({ service: 'directedPickupCall', device: marit, call: [...desk.state.calls.keys()][0]! })],
    [
      'gaveUp',
      'the caller hangs up',
      () => ({ service: 'clearConnection', device: [...desk.state.calls.values()][0]!.calling, call: [...desk.state.calls.keys()][0]! }),
    ],
    ['sentOn', 'somebody sends the call on', () => ({ service: 'deflectCall', device: ines, call: [...desk.state.calls.keys()][0]!, to: marit })],
    [
      'cameBack',
      'nobody comes',
      () => {
        desk.now += 90_000
        return { service: 'tick' }
      },
    ],
  ])('ends as %s when %s', (end, _, ends) => {
    const call = desk.inHand(ines)
    const began = watched({ service: 'parkCall', device: ines, call, slot: null, for: marit })
    expect(began).toMatchObject([{ end: 'waiting', by: ines, for: marit, endedAt: null }])
    desk.now += 1_000
    expect(watched(ends())).toMatchObject([{ end, at: began[0]!.at, endedAt: desk.now }])
  })
})

describe('words', () => {
  it('spans, greetings and text from outside', () => {
    expect([0, 7_000, 754_000, 3_723_000, -5].map(spell)).toEqual(['0:00', '0:07', '12:34', '1:02:03', '0:00'])
    expect([0, 11, 12, 17, 18, 23].map(hour => greetingAt(english, { greeting: 'x', greetings: [] }, hour * 60).split(',')[0])).toEqual([
      'Good morning',
      'Good morning',
      'Good afternoon',
      'Good afternoon',
      'Good evening',
      'Good evening',
    ])
    expect(plainText('a\u202Eb\u0000\n c\uD800 <i>', 20)).toBe('a b c <i>')
    expect(plainText('x'.repeat(100), 10)).toHaveLength(10)
    // What looks like nothing is nothing: no name is empty to the eye.
    for (const filler of ['\u3164', '\u2800', '\u115F\u1160', '\uFFA0', '\u{E0041}\u{E007F}', '\u2062']) expect(plainText(` ${filler} `, 20)).toBe('')
    expect(plainText('A\u0301da \u2764\uFE0F', 20)).toBe('A\u0301da \u2764\uFE0F')
  })

  it('texts are cut between characters, never within one, and what is left can be kept anywhere', () => {
    expect(plainText(`${'x'.repeat(79)}\u{1F600}`, 80)).toBe('x'.repeat(79))
    expect(plainText(`${'x'.repeat(9)}e\u0301`, 10)).toBe('x'.repeat(9))
    expect(plainText('\u{1F44D}\u{1F3FD}'.repeat(5), 6)).toBe('\u{1F44D}\u{1F3FD}')
    const anything = fc.oneof(
      fc.string({ unit: 'binary' }),
      fc.string({ unit: 'grapheme' }),
      fc.array(fc.integer({ min: 0, max: 0xffff })).map(units => String.fromCharCode(...units)),
    )
    fc.assert(fc.property(anything, fc.integer({ min: 0, max: 40 }), (text, longest) => {
      const plain = plainText(text, longest)
      expect(plain.length).toBeLessThanOrEqual(longest)
      expect(wellFormed(plain)).toBe(plain)
      expect(plainText(plain, longest)).toBe(plain)
    }))
  })

  it('a value from outside is well-formed to its last text, keys too', () => {
    expect(wellFormed({ 'a\uD800': ['x\u0000', 1, null, { b: true, c: '\uDC00' }] })).toEqual({ 'a\uFFFD': ['x\uFFFD', 1, null, { b: true, c: '\uFFFD' }] })
  })
})
