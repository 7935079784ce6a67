import { english } from '../../words/english'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import type { NumberedEvent, Request } from '../calls/model'
import { decide } from '../calls/decide'
import { evolve, numbered } from '../calls/evolve'
import { sentenceOf, Tryout } from '../calls/tryout'
import { boardNews } from './board-news'

const queue = 'queue:freight'

/** What an operator hears of what comes of a request. */
function hears(on: Tryout, request: Request, own = 't2101'): string[] {
  const decision = decide(on.state, request, on.now)
  if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
  return numbered(on.state, decision.events, on.now).flatMap((event: NumberedEvent) => {
    on.state = evolve(on.state, event)
    const news = boardNews(english, on.state, event, own, device => on.state.company.telephones[device]?.name ?? on.state.company.groups[device]?.name
      ?? device)
    return news ? [`${news.rank}: ${news.text}`] : []
  })
}

describe('an operator hears', () => {
  it('that a line or a queue is closed, and open again', () => {
    const on = new Tryout(merrowby(12))
    expect(hears(on, { service: 'setOpening', device: 't2100', of: 'general', open: false, until: null })).toEqual(['calls: The General line is closed'])
    expect(hears(on, { service: 'setOpening', device: 't2101', of: queue, open: false, until: null })).toEqual(['own: The Freight queue is closed'])
    expect(hears(on, { service: 'setOpening', device: 't2101', of: queue, open: null, until: null })).toEqual(['calls: The Freight queue is open'])
  })

  it('that somebody has let calls ring and is paused, and not that somebody takes a break', () => {
    const on = new Tryout(merrowby(12))
    on.change('groups', queue, { members: ['t2105'], ringing: 'order', pauseAfter: 1 })
    const call = on.inHand('t2100')
    on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: queue })
    on.now += 15_000
    expect(hears(on, { service: 'tick' })).toEqual([`urgent: ${on.state.company.telephones.t2105!.name} let calls ring and no longer serves the Freight queue`])
    on.must({ service: 'setQueueServed', device: 't2105', queue, state: 'serving' })
    expect(hears(on, { service: 'setQueueServed', device: 't2105', queue, state: 'paused', reason: 'Break' })).toEqual([])
  })

  it('that a trunk is out of service or out of order, and that nobody can call out', () => {
    const on = new Tryout(merrowby(12))
    for (const id of ['east', 'west']) on.change('trunks', id, { channels: 2, kept: 1 })
    expect(hears(on, { service: 'setTrunkService', device: 't2100', trunk: 'west', on: false })).toEqual(['calls: Trunk west is out of service'])
    const last = 'Every line to the outside is in use'
    expect(hears(on, { service: 'makeCall', device: 't2105', number: '07700 900123' })).toEqual([`urgent: ${last}`])
    expect(hears(on, { service: 'reportTrunk', trunk: 'east', faulty: 1 })).toEqual([`calls: Trunk east has 1 channel out of order. ${last}`])
    expect(hears(on, { service: 'setTrunkService', device: 't2100', trunk: 'west', on: true })).toEqual(['calls: Trunk west is in order again'])
  })
})
