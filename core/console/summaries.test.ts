import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { deviceName } from '../calls/names'
import { Tryout } from '../calls/tryout'
import { thisCall, whereabouts, whoWaits } from './summaries'
import { trackOf } from './track'

const own = { device: 't2100' } as const

class Glance {
  readonly desk = new Tryout(merrowby(60))

  get situation() {
    const { state, now } = this.desk
    return {
      state, ...own, now, track: trackOf(state, own.device, { next: null, carried: null }, now), lineName: () => 'General line', t: english,
      nameOf: (device: string, party?: { name: string | null } | null) => party?.name ?? spoken(english, deviceName(state.company, device) ?? 'Outside caller'),
    }
  }

  ring(name: string): string {
    const known = new Set(this.desk.state.calls.keys())
    this.desk.must({ service: 'offerCall', trunk: 'east', party: { number: '+442079460123', name }, number: '+441632960000' })
    return [...this.desk.state.calls.keys()].find(id => !known.has(id))!
  }
}

describe('what is told on request', () => {
  it('says that there is nobody, of an empty desk', () => {
    const { situation } = new Glance()
    expect([whoWaits(situation), whereabouts(situation), thisCall(situation)]).toEqual([
      'Nobody is waiting.', 'Nobody on hold, parked or under way.', 'No call in hand.',
    ])
  })

  it('names everybody once: who waits, who is on hold, asked for, parked and passed on', () => {
    const glance = new Glance()
    const take = (name: string) => {
      const call = glance.ring(name)
      glance.desk.must({ service: 'answerCall', ...own, call })
      return call
    }
    const colleague = (device: string) => spoken(english, deviceName(glance.desk.state.company, device)!)
    glance.desk.must({ service: 'parkCall', ...own, call: take('Parked Caller'), slot: 'slot:2', for: null })
    glance.desk.must({ service: 'singleStepTransferCall', ...own, call: take('Passed Caller'), to: 't2110' })
    glance.desk.must({ service: 'holdCall', ...own, call: take('Held Caller') })
    const asked = take('Asked Caller')
    glance.desk.must({ service: 'consultationCall', ...own, call: asked, number: 't2112' })
    glance.desk.now += 65_000
    glance.ring('First Waiting')
    glance.desk.now += 5_000
    glance.ring('Second Waiting')
    expect(whereabouts(glance.situation)).toBe(
      `Asked Caller waits while you ask ${colleague('t2112')}. On hold: Held Caller, 1:10. park slot 2: Parked Caller, 1:10. `
      + `Passed Caller rings at ${colleague('t2110')}, 1:10.`,
    )
    expect(whoWaits(glance.situation)).toBe('2 waiting. Next: First Waiting, General line, 0:05. Second Waiting, General line, 0:00.')
  })

  it('tells of the call in hand, or of the next one: who, number, line, how long, what was said last', () => {
    const glance = new Glance()
    const call = glance.ring('Olive Quill')
    expect(thisCall(glance.situation)).toBe('Next: Olive Quill. 020 7946 0123. General line. 0:00. waited for Operators.')
    glance.desk.must({ service: 'answerCall', ...own, call })
    glance.desk.must({ service: 'sendUserInformation', device: glance.desk.call(call).calling, call, text: 'Two lorries for Thursday' })
    glance.desk.must({ service: 'setMicrophoneMute', ...own, call, party: own.device, on: true })
    glance.desk.now += 42_000
    expect(thisCall(glance.situation)).toBe('In hand: Olive Quill. 020 7946 0123. General line. 0:42. You are muted. Says: Two lorries for Thursday.')
  })

  it('tells that whoever calls was promised a call-back', () => {
    const glance = new Glance()
    glance.desk.must({ service: 'promiseCallBack', device: 't2101', number: '020 7946 0123', queue: 'queue:freight' })
    glance.ring('Olive Quill')
    expect(thisCall(glance.situation)).toContain(`0:00. Promised a call-back by ${spoken(english, deviceName(glance.desk.state.company, 'queue:freight')!)}.`)
  })
})
