import { beforeEach, describe, expect, it } from 'vitest'
import { heardBy, heardByRecording, noticeOf } from '../../sound/heard'
import type { CallId } from '../model'
import { sentenceOf, Tryout } from '../tryout'
import { callOfRecording, recordingOf } from './recordings'

/** Three operators, who may record; Dagny may not. Callers of the line "lost" are always recorded, those of "directors" never. */
const [ines, tomas, dagny, ingrid] = ['t2100', 't2101', 't2106', 't2107']

describe('recording a call', () => {
  let on: Tryout
  let call: CallId
  beforeEach(() => {
    on = new Tryout()
    call = on.inHand(tomas)
  })
  const record = (device = tomas, which = call) => on.ask({ service: 'startRecording', device, call: which })
  const stop = (device = tomas) => on.ask({ service: 'stopRecording', device, call })
  const steps = () => on.call(call).story.map(({ type }) => type).filter(type => type.startsWith('recording'))

  it('begins and ends at the word of whoever talks there and may; asked twice it goes on', () => {
    expect(recordingOf(on.call(call))).toBeNull()
    expect(record()).toBeUndefined()
    const { recording } = on.call(call)
    expect(recording).toEqual({ by: tomas, since: on.now })
    on.now += 5_000
    expect([record(), on.call(call).recording]).toEqual([undefined, recording])
    expect(recordingOf(on.call(call))).toBe(`recording:${call}:${recording!.since}`)
    expect(callOfRecording(recordingOf(on.call(call))!)).toBe(call)
    expect([stop(), on.call(call).recording, stop()]).toEqual([undefined, undefined, undefined])
    expect(steps()).toEqual(['recordingStarted', 'recordingStopped'])
  })

  it('is for whoever is in the call and has the right', () => {
    expect(record(ines)?.code).toBe('notYourCall')
    on.change('telephones', tomas, { mayRecord: false })
    expect(sentenceOf(record())).toMatch(/^You may not record calls/)
    expect(stop()?.code).toBe('notAllowed')
  })

  it('holds what people say to each other, and nothing while one is on hold', () => {
    const { calling } = on.call(call)
    record()
    expect(heardByRecording(on.call(call)).sort()).toEqual([calling, tomas].sort())
    on.must({ service: 'setMicrophoneMute', device: tomas, call, party: tomas, on: true })
    expect(heardByRecording(on.call(call))).toEqual([calling])
    on.must({ service: 'holdCall', device: tomas, call })
    expect([heardByRecording(on.call(call)), on.call(call).recording?.by]).toEqual([[], tomas])
    expect(record()).toBeUndefined()
    stop()
    expect(record()?.code).toBe('notPossibleNow')
  })

  it('is told to everybody in the call by a tone, and to nobody once it is over', () => {
    const { calling } = on.call(call)
    const told = () => [tomas, calling].map(ear => heardBy(on.state, ear).announcement)
    expect(told()).toEqual([null, null])
    record()
    expect(told()).toEqual(['notice', 'notice'])
    expect(noticeOf(on.state, on.call(call))).toEqual({ of: 'recording', at: on.now })
    on.now += 1_000
    on.must({ service: 'listenIn', device: ines, call, to: tomas })
    expect(noticeOf(on.state, on.call(call))).toEqual({ of: 'listening', at: on.now })
    stop()
    on.must({ service: 'stopListening', device: ines })
    expect([told(), noticeOf(on.state, on.call(call))]).toEqual([[null, null], null])
  })

  it('ends when whoever asked for it leaves the call', () => {
    record()
    on.must({ service: 'singleStepTransferCall', device: tomas, call, to: ingrid })
    on.must({ service: 'answerCall', device: ingrid, call })
    expect([on.call(call).recording, steps()]).toEqual([undefined, ['recordingStarted', 'recordingStopped']])
  })

  it('never is on a line that says so, and one that is ends when the line says so', () => {
    const never = on.offer('+441632960030')
    const [rung] = on.call(never).connections.filter(({ state }) => state === 'alerting')
    on.must({ service: 'answerCall', device: rung!.device, call: never })
    on.change('telephones', rung!.device, { mayRecord: true })
    expect(sentenceOf(record(rung!.device, never))).toBe('Calls on this line are never recorded.')
    record()
    on.change('lines', 'general', { recording: 'never' })
    expect(on.call(call).recording).toBeUndefined()
  })

  describe('on a line that is always recorded', () => {
    beforeEach(() => on.change('lines', 'general', { recording: 'always' }))

    it('begins by itself, also in the middle of a call, begins anew with whoever takes it over, and can\'t be ended by hand', () => {
      const since = on.now
      expect(on.call(call).recording).toEqual({ by: null, since })
      expect(sentenceOf(stop())).toMatch(/always recorded/)
      on.now += 1_000
      on.must({ service: 'singleStepTransferCall', device: tomas, call, to: ingrid })
      on.must({ service: 'answerCall', device: ingrid, call })
      expect([on.call(call).recording, steps()]).toEqual([{ by: null, since: on.now }, ['recordingStarted', 'recordingStopped', 'recordingStarted']])
      const other = on.offer()
      expect(on.call(other).recording).toBeUndefined()
      on.must({ service: 'answerCall', device: ines, call: other })
      expect(on.call(other).recording?.by).toBeNull()
    })

    it('ends when two parties outside talk with each other, and when the line says otherwise', () => {
      on.change('lines', 'general', { recording: 'onRequest' })
      expect(on.call(call).recording).toBeUndefined()
      on.change('lines', 'general', { recording: 'always' })
      on.must({ service: 'singleStepTransferCall', device: tomas, call, to: '07700 900123' })
      const outside = on.call(call).connections.find(({ state }) => state === 'alerting')!
      on.must({ service: 'answerCall', device: outside.device, call })
      expect(on.call(call).recording).toBeUndefined()
    })

    it('is not begun for a mailbox', () => {
      const other = on.offer()
      on.must({ service: 'deflectCall', device: ines, call: other, to: 'mailbox:t2106' })
      on.wait(1_000)
      expect(on.call(other)?.recording).toBeUndefined()
    })
  })

  it('is asked for by nobody from a telephone that may not', () => {
    const inside = on.begins(() => on.must({ service: 'makeCall', device: dagny, number: '2107' }))
    on.must({ service: 'answerCall', device: ingrid, call: inside })
    expect(record(dagny, inside)?.code).toBe('notAllowed')
  })
})
