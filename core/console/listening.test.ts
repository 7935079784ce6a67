import { beforeEach, describe, expect, it } from 'vitest'
import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { evolve, numbered } from '../calls/evolve'
import { decide } from '../calls/decide'
import type { CallId, DeviceId, Request } from '../calls/model'
import { deviceName } from '../calls/names'
import { sentenceOf, Tryout } from '../calls/tryout'
import type { Console } from './console'
import { deedOfKey } from './keys'
import { trackOf } from './track'
import { tidingsOf } from './tidings'
import { listening, waysTo } from './ways'

/** What an operator who may listen to others (t2100) sees of it, and the colleague (t2101) with a caller. */
const [ines, tomas, dagny] = ['t2100', 't2101', 't2106']

describe('listening in at the console', () => {
  let on: Tryout
  let call: CallId
  beforeEach(() => {
    on = new Tryout()
    call = on.inHand(tomas)
  })
  const nameOf = (device: DeviceId) => spoken(english, deviceName(on.state.company, device) ?? 'the caller')
  const console = (device = ines): Console => ({
    state: on.state, device, track: trackOf(on.state, device, { next: null, carried: null }, on.now), note: '', account: '', wall: on.now, nameOf, t: english,
  })
  const request = (key: string) => {
    const deed = deedOfKey(console(), key)
    return deed?.do === 'ask' ? deed.request : null
  }
  /** What somebody's screen says of what a request brings. */
  function said(asked: Request, device = ines): string[] {
    const decision = decide(on.state, asked, on.now)
    if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
    return numbered(on.state, decision.events, on.now).flatMap((event) => {
      const before = 'call' in event ? on.state.calls.get(event.call) : undefined
      on.state = evolve(on.state, event)
      const scene = { state: on.state, device, nameOf, lineName: () => 'General', greeting: () => null, departmentOf: () => null, timeOf: String, t: english }
      return tidingsOf(scene, event, before).map(({ text }) => text)
    })
  }

  it('is one of the ways to a colleague who talks, for whoever may', () => {
    expect(waysTo(console(), tomas).find(({ id }) => id === 'listen')).toMatchObject({
      key: 'Ctrl+F2', words: 'listens to the call of Tomas Arkwell, unheard', deed: { request: { service: 'listenIn', call, to: tomas } },
    })
    expect([listening(console(), dagny), listening(console('t2102'), tomas), listening(console(tomas), tomas)]).toEqual([[], [], []])
    on.must({ service: 'holdCall', device: tomas, call })
    expect(listening(console(), tomas)).toEqual([])
  })

  it('says that the call in hand waits meanwhile, and is no way any more while one listens', () => {
    on.inHand(ines)
    expect(listening(console(), tomas)[0]?.words).toMatch(/unheard; .+ waits on hold$/)
    on.must({ service: 'listenIn', device: ines, call, to: tomas })
    expect(listening(console(), tomas)).toEqual([])
  })

  it('is done further by the keys of the call in hand, which mean nothing else then', () => {
    expect([request('F2'), request('F8'), request('Delete')]).toEqual([null, null, null])
    on.must({ service: 'listenIn', device: ines, call, to: tomas })
    expect([request('F2'), request('F8'), request('Delete')])
      .toEqual([{ service: 'whisper', call, on: true }, { service: 'intrudeCall', call }, { service: 'stopListening' }])
    on.must({ service: 'whisper', device: ines, call, on: true })
    expect(request('F2')).toEqual({ service: 'whisper', call, on: false })
  })

  it('is told to whoever listens, step by step, also when it ends by itself', () => {
    expect(said({ service: 'listenIn', device: ines, call, to: tomas })).toEqual(['You listen to Tomas Arkwell. Nobody hears you.'])
    expect(said({ service: 'whisper', device: ines, call, on: true })).toEqual(['Tomas Arkwell hears you, and nobody else'])
    expect(said({ service: 'whisper', device: ines, call, on: false })).toEqual(['Nobody hears you any more'])
    expect(said({ service: 'clearConnection', device: on.call(call).calling, call })).toEqual(['You listen no more'])
  })

  it('is told to the colleague where they are spoken to, and when somebody joins', () => {
    expect(said({ service: 'listenIn', device: ines, call, to: tomas }, tomas)).toEqual([])
    expect(said({ service: 'whisper', device: ines, call, on: true }, tomas)).toEqual(['Ines Quillfeather whispers to you: only you hear it'])
    expect(said({ service: 'intrudeCall', device: ines, call }, tomas)).toEqual(['Ines Quillfeather joined'])
  })

  it('is told to whoever joins with whom they are', () => {
    on.must({ service: 'listenIn', device: ines, call, to: tomas })
    expect(said({ service: 'intrudeCall', device: ines, call }).at(-1)).toBe('You are in the call with the caller, Tomas Arkwell')
  })
})
