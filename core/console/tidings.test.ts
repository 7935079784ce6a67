import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { evolve, numbered } from '../calls/evolve'
import { decide } from '../calls/decide'
import type { CallId, Request } from '../calls/model'
import { deviceName } from '../calls/names'
import { sentenceOf, Tryout } from '../calls/tryout'
import { trackOf } from './track'
import { lateness, type Scene, type Tiding, tidingsOf } from './tidings'

/** The operator t2100, who hears everything that is told. */
class Listener {
  readonly desk = new Tryout(merrowby(60))

  scene(): Scene {
    const { state } = this.desk
    return {
      state, device: 't2100', lineName: call => call.line ?? 'own', greeting: () => 'Good morning', departmentOf: () => null,
      timeOf: String,
      t: english,
      nameOf: (device, party) => party?.name ?? spoken(english, deviceName(state.company, device) ?? 'Outside caller'),
    }
  }

  /** Asks, and gives back what was heard of it. */
  hears(request: Request): Tiding[] {
    const decision = decide(this.desk.state, request, this.desk.now)
    if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
    return numbered(this.desk.state, decision.events, this.desk.now).flatMap((event) => {
      const before = 'call' in event ? this.desk.state.calls.get(event.call) : undefined
      this.desk.state = evolve(this.desk.state, event)
      return tidingsOf(this.scene(), event, before)
    })
  }

  words(request: Request): string[] {
    return this.hears(request).map(({ text }) => text)
  }

  offer(name: string): { call: CallId, words: string[] } {
    const known = new Set(this.desk.state.calls.keys())
    const words = this.words({ service: 'offerCall', trunk: 'east', party: { number: null, name }, number: '+441632960000' })
    return { call: [...this.desk.state.calls.keys()].find(id => !known.has(id))!, words }
  }

  goes(call: CallId): Tiding[] {
    return this.hears({ service: 'clearConnection', device: this.desk.call(call).calling, call })
  }
}

const own = { device: 't2100' } as const

describe('what a caller says', () => {
  it('is said by itself where that is wanted, once they are in hand', () => {
    const listener = new Listener()
    const { call } = listener.offer('Olive Quill')
    listener.words({ service: 'answerCall', ...own, call })
    const says = () => listener.words({ service: 'sendUserInformation', device: listener.desk.call(call).calling, call, text: 'Two lorries.' })
    expect(says()).toEqual([])
    const scene = listener.scene.bind(listener)
    listener.scene = () => ({ ...scene(), saysWords: true })
    expect(says()).toEqual(['Two lorries.'])
  })
})

describe('two callers of one name', () => {
  it('are told apart, by the end of their number or by their line', () => {
    const listener = new Listener()
    const offered = (number: string | null) => listener.hears({
      service: 'offerCall', trunk: 'east', party: { number, name: 'Olive Quill' }, number: '+441632960000',
    })
    const scene = listener.scene.bind(listener)
    listener.scene = () => ({ ...scene(), hasTwin: name => name === 'Olive Quill' })
    expect(offered('+447700900321').map(({ text }) => text)).toEqual(['general: Olive Quill, number ending 3 2 1'])
    expect(offered(null).map(({ text }) => text)).toEqual(['general: Olive Quill, general'])
  })
})

describe('what an operator hears', () => {
  it('that whoever arrives was promised a call-back', () => {
    const listener = new Listener()
    listener.words({ service: 'promiseCallBack', device: 't2101', number: '07700 900123' })
    expect(listener.words({ service: 'offerCall', trunk: 'east', party: { number: '+447700900123', name: 'Olive Quill' }, number: '+441632960000' }))
      .toEqual(['general: Olive Quill, promised a call-back'])
  })

  it('who arrives, who was answered and how to greet, who is on hold and back again', () => {
    const listener = new Listener()
    const { call, words } = listener.offer('Olive Quill')
    expect(words).toEqual(['general: Olive Quill'])
    expect(listener.words({ service: 'answerCall', ...own, call })).toEqual(['You have Olive Quill. Good morning'])
    expect(listener.words({ service: 'holdCall', ...own, call })).toEqual(['Olive Quill on hold'])
    expect(listener.words({ service: 'retrieveCall', ...own, call })).toEqual(['Olive Quill again'])
    expect(listener.words({ service: 'parkCall', ...own, call, slot: 'slot:4', for: 't2110' })).toEqual([
      `Olive Quill parked in park slot 4, kept for ${spoken(english, deviceName(listener.desk.state.company, 't2110')!)}`,
    ])
  })

  it('each caller who gives up, once and by name, wherever they waited', () => {
    const listener = new Listener()
    const waiting = listener.offer('Arriving Caller').call
    listener.desk.now += 42_000
    expect(listener.goes(waiting)).toMatchObject([{ text: 'Arriving Caller gave up after 0:42', leaves: 'arriving' }])

    const held = listener.offer('Held Caller').call
    listener.words({ service: 'answerCall', ...own, call: held })
    listener.words({ service: 'holdCall', ...own, call: held })
    expect(listener.goes(held)).toMatchObject([{ text: 'Held Caller hung up while on hold', rank: 'urgent', leaves: 'inHand' }])

    const talking = listener.offer('Talking Caller').call
    listener.words({ service: 'answerCall', ...own, call: talking })
    expect(listener.goes(talking)).toMatchObject([{ text: 'Talking Caller hung up', rank: 'urgent' }])

    const parked = listener.offer('Parked Caller').call
    listener.words({ service: 'answerCall', ...own, call: parked })
    listener.words({ service: 'parkCall', ...own, call: parked, slot: 'slot:1', for: null })
    expect(listener.goes(parked)).toMatchObject([{ text: 'Parked Caller gave up in park slot 1' }])

    const passed = listener.offer('Passed Caller').call
    listener.words({ service: 'answerCall', ...own, call: passed })
    listener.words({ service: 'singleStepTransferCall', ...own, call: passed, to: 't2110' })
    expect(listener.goes(passed)).toMatchObject([{ text: 'Passed Caller gave up while it rang', leaves: 'passedOn' }])
  })

  it('nobody who is rung elsewhere in the group has given up because one of it declined', () => {
    const listener = new Listener()
    const { state } = listener.desk
    const group = Object.values(state.company.groups).find(({ distribution, members }) => distribution === 'longestFree' && members.length > 2)!
    const { call } = listener.offer('Group Caller')
    listener.words({ service: 'answerCall', ...own, call })
    expect(listener.words({ service: 'singleStepTransferCall', ...own, call, to: group.id })).toEqual([`Group Caller passed on to ${group.name}`])
    const rung = () => listener.desk.call(call).connections.find(connection => connection.state === 'alerting')!.device
    const first = rung()
    expect(listener.words({ service: 'clearConnection', device: first, call })).toEqual([])
    expect(rung()).not.toBe(first)
    expect(listener.goes(call)).toMatchObject([{ text: 'Group Caller gave up while it rang', leaves: 'passedOn' }])
  })

  it('who of the others took a caller, and what became of somebody who was asked', () => {
    const listener = new Listener()
    const name = (device: string) => spoken(english, deviceName(listener.desk.state.company, device)!)
    const { call } = listener.offer('Shared Caller')
    expect(listener.words({ service: 'answerCall', device: 't2101', call })).toEqual([`${name('t2101')} has Shared Caller`])

    const mine = listener.offer('Own Caller').call
    listener.words({ service: 'answerCall', ...own, call: mine })
    listener.words({ service: 'consultationCall', ...own, call: mine, number: 't2110' })
    const asked = [...listener.desk.state.calls.values()].find(({ consultation }) => consultation === mine)!.id
    expect(listener.words({ service: 'clearConnection', device: 't2110', call: asked })).toContain(`${name('t2110')} declined. Your caller is on hold.`)
  })

  it('a caller on hold or waiting past the promise, again and again, never at every look', () => {
    const listener = new Listener()
    const { call } = listener.offer('Patient Caller')
    listener.words({ service: 'answerCall', ...own, call })
    listener.words({ service: 'holdCall', ...own, call })
    const said: string[] = []
    for (let seconds = 0; seconds < 400; seconds++) {
      const from = listener.desk.now
      listener.desk.now += 1_000
      const [held] = trackOf(listener.desk.state, 't2100', { next: null, carried: null }, listener.desk.now).held
      const words = lateness(listener.scene(), held!, from, listener.desk.now)
      if (words) said.push(words.text)
    }
    expect(said).toEqual(['1:00', '1:30', '2:00', '3:00', '5:00'].map(time => `Patient Caller on hold for ${time}`))
  })

  it('a caller who waits to be answered at few steps: there are many of them, and the caller in hand wants to be heard', () => {
    const listener = new Listener()
    listener.offer('Patient Caller')
    const said: string[] = []
    for (let seconds = 0; seconds < 300; seconds++) {
      const from = listener.desk.now
      listener.desk.now += 1_000
      const [waiting] = trackOf(listener.desk.state, 't2100', { next: null, carried: null }, listener.desk.now).arriving
      const words = lateness(listener.scene(), waiting!, from, listener.desk.now)
      if (words) said.push(words.text)
    }
    expect(said).toEqual(['0:20', '1:00', '2:40'].map(time => `Patient Caller, general, waiting for ${time}`))
  })
})
