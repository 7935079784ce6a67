import { describe, expect, it } from 'vitest'
import { merrowby } from '../../../demo/company/merrowby'
import { hearersOf, ownPage, pagesHeardAt } from './pages'
import type { PageRank } from '../../company/company'
import { pagesRevealedTo, redactEvent, redactState } from '../redaction'
import { connectionOf } from '../questions'
import { decide } from '../decide'
import { sentenceOf, Tryout } from '../tryout'

const exchange = (people = 12) => new Tryout(merrowby(people))
const [ines, tomas] = ['t2100', 't2101']

function speaks(day: Tryout, to: string, device = ines, rank: PageRank = 'ordinary') {
  day.must({ service: 'openPage', device, to, rank })
  return ownPage(day.state, device)!
}
/** Somebody is called by a colleague and answers. */
function talks(day: Tryout, device: string, colleague: string): string {
  day.must({ service: 'makeCall', device: colleague, number: device })
  const call = [...day.state.calls.keys()].at(-1)!
  day.must({ service: 'answerCall', device, call })
  return call
}
function after(day: Tryout, seconds: number): void {
  day.now += seconds * 1_000
  day.must({ service: 'tick' })
}

describe('speaking to one telephone', () => {
  it('is heard at once, free or busy; the other party does not hear it, and the speaker\'s caller waits on hold', () => {
    const day = exchange()
    const mine = day.inHand(ines)
    const theirs = talks(day, 't2105', 't2107')
    const page = speaks(day, 't2105')
    expect(connectionOf(day.call(mine), ines)?.state).toBe('held')
    expect(hearersOf(day.state, page)).toEqual(['t2105'])
    expect(connectionOf(day.call(theirs), 't2105')?.state).toBe('connected')
    expect(day.call(theirs).connections).toHaveLength(2)
  })

  it('goes on while that telephone begins to ring, and answers nothing', () => {
    const day = exchange()
    const page = speaks(day, 't2105')
    const call = day.offer('+441632960105')
    expect(connectionOf(day.call(call), 't2105')?.state).toBe('alerting')
    day.must({ service: 'answerCall', device: 't2105', call })
    expect(hearersOf(day.state, day.state.pages.get(page.id)!)).toEqual(['t2105'])
  })

  it('respects do not disturb, but for a page that matters more', () => {
    const day = exchange()
    day.must({ service: 'setDoNotDisturb', device: 't2105', on: true })
    expect(sentenceOf(day.ask({ service: 'openPage', device: ines, to: 't2105', rank: 'ordinary' }))).toContain('has do not disturb on')
    expect(speaks(day, 't2105', ines, 'urgent').reached).toEqual(['t2105'])
  })

  it('is for operators at their console, and never for oneself or a telephone that is not there', () => {
    const day = exchange()
    expect(day.ask({ service: 'openPage', device: 't2110', to: 't2105', rank: 'ordinary' })?.code).toBe('notAllowed')
    expect(day.ask({ service: 'intercomCall', device: 't2110', number: 't2105' })?.code).toBe('notAllowed')
    expect(day.ask({ service: 'openPage', device: ines, to: ines, rank: 'ordinary' })?.code).toBe('toSelf')
    expect(day.ask({ service: 'openPage', device: ines, to: 'nowhere', rank: 'ordinary' })?.code).toBe('unallocatedNumber')
    day.change('telephones', 't2105', { inService: false })
    expect(day.ask({ service: 'openPage', device: ines, to: 't2105', rank: 'safety' })?.code).toBe('outOfService')
  })

  it('what is said there is told to nobody else who sees no callers', () => {
    const day = exchange()
    const page = speaks(day, 't2105')
    day.must({ service: 'speakOnPage', device: ines, page: page.id, text: 'Your wife is at the desk.' })
    expect(redactState(day.state).pages.get(page.id)?.text).toBe('')
    const said = { type: 'pageSpoken' as const, device: ines, page: page.id, text: 'All aboard.', seq: 1, at: 1 }
    expect(redactEvent(said)).toMatchObject({ text: '' })
    expect(pagesRevealedTo('t2105', day.state)).toMatchObject([{ text: 'Your wife is at the desk.' }])
    expect(pagesRevealedTo('t2106', day.state)).toEqual([])
  })
})

describe('a microphone', () => {
  it('closes by itself when nobody is heard, and stays open as long as somebody speaks', () => {
    const day = exchange()
    const page = speaks(day, 'zone:hall')
    for (let i = 0; i < 8; i++) {
      after(day, 14)
      day.must({ service: 'speakOnPage', device: ines, page: page.id, ...(i === 4 && { text: 'The Curlew is late.' }) })
    }
    after(day, 14)
    expect(day.state.pages.size).toBe(1)
    after(day, 2)
    expect(day.state.pages.size).toBe(0)
  })

  it('closes when it is kept open and nothing is ever said', () => {
    const day = exchange()
    const page = speaks(day, 'zone:hall')
    for (let i = 0; i < 11; i++) {
      after(day, 10)
      day.must({ service: 'speakOnPage', device: ines, page: page.id })
    }
    after(day, 9)
    expect(day.state.pages.size).toBe(1)
    after(day, 1)
    expect(day.state.pages.size).toBe(0)
  })

  it('closes when its speaker\'s browser dies, answers, or goes to another page', () => {
    const day = exchange()
    const call = day.offer()
    speaks(day, 'zone:hall')
    day.must({ service: 'answerCall', device: ines, call })
    expect(day.state.pages.size).toBe(0)
    speaks(day, 'zone:hall')
    speaks(day, 'zone:pier')
    expect([...day.state.pages.values()].map(({ to }) => to)).toEqual(['zone:pier'])
    day.must({ service: 'setAgentState', device: ines, attended: false })
    expect(day.state.pages.size).toBe(0)
  })

  it('is closed by its speaker alone', () => {
    const day = exchange()
    const page = speaks(day, 'zone:hall')
    for (const request of [{ service: 'closePage' as const }, { service: 'speakOnPage' as const, text: 'boo' }])
      expect(day.ask({ ...request, device: tomas, page: page.id })?.code).toBe('notPossibleNow')
    day.must({ service: 'closePage', device: ines, page: page.id })
    expect(sentenceOf(day.ask({ service: 'speakOnPage', device: ines, page: page.id, text: 'still there?' }))).toContain('was not heard')
  })
})

describe('a zone', () => {
  it('on which somebody speaks: the second waits and begins by itself, or is heard over them when it matters more', () => {
    const day = exchange()
    const first = speaks(day, 'zone:hall')
    const second = speaks(day, 'zone:stennick', tomas)
    expect(second).toMatchObject({ waits: true, reached: [] })
    expect(sentenceOf(day.ask({ service: 'speakOnPage', device: tomas, page: second.id, text: 'x' }))).toContain('Somebody else speaks there')
    day.must({ service: 'closePage', device: ines, page: first.id })
    expect(ownPage(day.state, tomas)).toMatchObject({ id: second.id, waits: false })
    expect(ownPage(day.state, tomas)?.reached).toContain('Hall')
    speaks(day, 'zone:hall', ines, 'safety')
    expect(ownPage(day.state, tomas)).toBeUndefined()
    expect(ownPage(day.state, ines)?.waits).toBe(false)
  })

  it('waited for in vain is given up', () => {
    const day = exchange()
    const first = speaks(day, 'zone:hall')
    speaks(day, 'zone:hall', tomas)
    for (let i = 0; i < 6; i++) {
      after(day, 12)
      if (day.state.pages.has(first.id)) day.must({ service: 'speakOnPage', device: ines, page: first.id })
    }
    expect([...day.state.pages.values()].map(({ by }) => by)).toEqual([ines])
  })

  it('that is no more ends what is spoken there', () => {
    const day = exchange()
    speaks(day, 'zone:pier')
    day.configure({ part: 'zones', id: 'zone:pier', value: null })
    expect(day.state.pages.size).toBe(0)
  })
})

describe('a group', () => {
  it('of four hundred telephones is reached at once, but for who talks, is not to be disturbed, or has no telephone', () => {
    const day = exchange(800)
    const members = Object.keys(day.state.company.telephones).slice(3, 403)
    day.change('groups', 'group:freight', { members })
    const [busy, quiet, dead, later] = members as [string, string, string, string]
    talks(day, busy, members[10]!)
    day.must({ service: 'setDoNotDisturb', device: quiet, on: true })
    day.change('telephones', dead, { inService: false })
    const page = speaks(day, 'group:freight')
    const dark = members.filter(id => !day.state.company.telephones[id]!.inService).length
    expect(page.reached).toHaveLength(400 - 3 - dark)
    expect(page.missed).toEqual(expect.arrayContaining([
      { device: busy, cause: 'busy' }, { device: quiet, cause: 'doNotDisturb' }, { device: dead, cause: 'outOfService' },
    ]))
    // Whoever begins to talk is left in peace, and hears it again afterwards.
    const call = talks(day, later, members[20]!)
    expect(pagesHeardAt(day.state, later)).toEqual([])
    day.must({ service: 'clearConnection', device: later, call })
    expect(pagesHeardAt(day.state, later)).toHaveLength(1)
  })
})

describe('a text that matters more', () => {
  it('raises the rank of the page on which it is said, and reaches whom it did not reach before', () => {
    const day = exchange()
    day.change('groups', 'group:freight', { members: ['t2105', 't2106'] })
    day.must({ service: 'setDoNotDisturb', device: 't2105', on: true })
    const page = speaks(day, 'group:freight')
    expect(page.reached).toEqual(['t2106'])
    day.must({ service: 'speakOnPage', device: ines, page: page.id, text: 'Leave the building.', rank: 'safety' })
    expect(ownPage(day.state, ines)).toMatchObject({ id: page.id, rank: 'safety', text: 'Leave the building.', reached: ['t2105', 't2106'] })
    day.must({ service: 'speakOnPage', device: ines, page: page.id, text: 'A drill.', rank: 'ordinary' })
    expect(ownPage(day.state, ines)?.rank).toBe('safety')
  })
})

describe('what matters more', () => {
  it('is heard at a telephone above a page of lower rank, which is heard there again afterwards', () => {
    const day = exchange()
    day.change('groups', 'group:freight', { members: ['t2105', 't2106'] })
    const low = speaks(day, 'group:freight', tomas)
    const high = speaks(day, 't2105', ines, 'safety')
    expect(high.reached).toEqual(['t2105'])
    expect(hearersOf(day.state, day.state.pages.get(low.id)!)).toEqual(['t2106'])
    expect(pagesHeardAt(day.state, 't2105').map(({ id }) => id)).toEqual([high.id])
    day.must({ service: 'closePage', device: ines, page: high.id })
    expect(pagesHeardAt(day.state, 't2105').map(({ id }) => id)).toEqual([low.id])
    // Of equals the second is refused.
    expect(day.ask({ service: 'openPage', device: ines, to: 't2105', rank: 'ordinary' })?.code).toBe('busy')
  })

  it('ends what is spoken to one of its telephones alone: nobody speaks on unheard', () => {
    const day = exchange()
    day.change('groups', 'group:freight', { members: ['t2105', 't2106'] })
    const alone = speaks(day, 't2105', tomas)
    speaks(day, 'group:freight', ines, 'urgent')
    expect(day.state.pages.has(alone.id)).toBe(false)
    const group = ownPage(day.state, ines)!
    expect(hearersOf(day.state, group)).toEqual(['t2105', 't2106'])
  })

  it('said on a page ends it too, once it matters so much', () => {
    const day = exchange()
    day.change('groups', 'group:freight', { members: ['t2105', 't2106'] })
    speaks(day, 't2105', tomas)
    const group = speaks(day, 'group:freight')
    expect(group.reached).toEqual(['t2106'])
    day.must({ service: 'speakOnPage', device: ines, page: group.id, text: 'Leave the building.', rank: 'safety' })
    expect(ownPage(day.state, tomas)).toBeUndefined()
    expect(ownPage(day.state, ines)?.reached).toEqual(['t2105', 't2106'])
  })

  it('ends an intercom where nobody has lifted; an ordinary page does not', () => {
    const day = exchange()
    day.must({ service: 'intercomCall', device: tomas, number: 't2105' })
    expect(day.ask({ service: 'openPage', device: ines, to: 't2105', rank: 'ordinary' })?.code).toBe('busy')
    expect(speaks(day, 't2105', ines, 'safety').reached).toEqual(['t2105'])
    expect(day.state.calls.size).toBe(0)
  })

  it('ends one\'s own intercom, which is not put on hold then', () => {
    const day = exchange()
    day.must({ service: 'intercomCall', device: ines, number: 't2105' })
    const decision = decide(day.state, { service: 'openPage', device: ines, to: 't2105', rank: 'safety' }, day.now)
    expect('events' in decision && decision.events.map(({ type }) => type)).toEqual(['callCleared', 'pageOpened'])
  })
})

describe('an intercom', () => {
  const unlifted = (day: Tryout, to = 't2105') => day.begins(() => day.must({ service: 'intercomCall', device: ines, number: to }))
  const ends = (day: Tryout, call: string) => expect(day.state.calls.has(call)).toBe(false)

  it('connects nobody with a telephone where nobody has lifted: not a caller, not a conference, nobody else', () => {
    const day = exchange()
    const caller = day.inHand(ines)
    const call = unlifted(day)
    const refused = [
      { service: 'transferCall', device: ines, call: caller, consultation: call }, { service: 'conferenceCall', device: ines, call: caller, other: call },
      { service: 'singleStepConferenceCall', device: ines, call, to: 't2106' }, { service: 'singleStepTransferCall', device: ines, call, to: 't2106' },
      { service: 'parkCall', device: ines, call, slot: null, for: null }, { service: 'holdCall', device: ines, call },
      { service: 'consultationCall', device: ines, call, number: 't2106' }, { service: 'holdCall', device: 't2105', call },
      { service: 'deflectCall', device: tomas, call, from: 't2105', to: 't2106' },
    ] as const
    for (const request of refused) expect(day.ask(request), request.service).toMatchObject({ code: 'notPossibleNow' })
    expect(sentenceOf(day.ask(refused[0]))).toContain('has lifted at')
    expect(day.call(call).connections).toHaveLength(2)
    // Once they are there they can have the caller.
    day.must({ service: 'setMicrophoneMute', device: 't2105', call, party: 't2105', on: false })
    day.must(refused[0])
    expect(connectionOf(day.call(caller), 't2105')?.state).toBe('connected')
  })

  it('is over when its speaker answers somebody else, goes, or says nothing to which anybody lifts', () => {
    const day = exchange()
    const first = unlifted(day)
    day.must({ service: 'answerCall', device: ines, call: day.offer() })
    ends(day, first)
    const second = unlifted(day)
    day.must({ service: 'setAgentState', device: ines, attended: false })
    ends(day, second)
    day.must({ service: 'setAgentState', device: ines, attended: true })
    const third = unlifted(day)
    day.wait(119_000)
    expect(day.state.calls.has(third)).toBe(true)
    day.wait(1_000)
    ends(day, third)
    const fourth = unlifted(day)
    day.must({ service: 'setMicrophoneMute', device: 't2105', call: fourth, party: 't2105', on: false })
    day.wait(600_000)
    expect(day.state.calls.has(fourth)).toBe(true)
  })

  it('is over when whoever did not lift calls somebody', () => {
    const day = exchange()
    const call = unlifted(day)
    day.must({ service: 'makeCall', device: 't2105', number: 't2106' })
    ends(day, call)
  })

  it('rings where calls go to another telephone, where somebody speaks, and without the mobile that would ring along', () => {
    const day = exchange()
    day.must({ service: 'setForwarding', device: 't2105', when: 'always', to: 't2106' })
    expect(day.call(unlifted(day)).connections.map(({ device, state }) => [device, state])).toEqual([[ines, 'connected'], ['t2106', 'alerting']])
    speaks(day, 't2107', tomas, 'safety')
    expect(connectionOf(day.call(unlifted(day, 't2107')), 't2107')?.state).toBe('alerting')
    expect(pagesHeardAt(day.state, 't2107')).toHaveLength(1)
    day.change('people', day.state.company.telephones.t2108!.person!, { mobile: '+447700900777' })
    day.must({ service: 'setRingAlong', device: 't2108', on: true })
    expect(day.call(unlifted(day, 't2108')).connections.map(({ device, byItself }) => [device, byItself])).toEqual([[ines, undefined], ['t2108', true]])
    expect(day.state.indexes.channels.filter(used => used > 0).isEmpty()).toBe(true)
  })

  it('is answered by the telephone itself, its microphone off until its owner turns it on; on a call it rings', () => {
    const day = exchange()
    day.must({ service: 'intercomCall', device: ines, number: 't2105' })
    const [call] = [...day.state.calls.values()]
    expect(connectionOf(call!, 't2105')).toMatchObject({ state: 'connected', muted: true })
    day.must({ service: 'setMicrophoneMute', device: 't2105', call: call!.id, party: 't2105', on: false })
    expect(connectionOf(day.call(call!.id), 't2105')?.muted).toBeUndefined()
    day.change('telephones', 't2106', { capacity: 2 })
    talks(day, 't2106', 't2107')
    day.must({ service: 'intercomCall', device: tomas, number: 't2106' })
    const rings = [...day.state.calls.values()].find(({ calling }) => calling === tomas)!
    expect(connectionOf(rings, 't2106')?.state).toBe('alerting')
  })

  it('is for those operators alone who have the right to it, up to its rank', () => {
    const on = exchange()
    const page = (rank: 'ordinary' | 'urgent') => on.ask({ service: 'openPage', device: 't2100', to: 'zone:hall', rank })
    on.change('telephones', 't2100', { mayPage: 'no' })
    expect(sentenceOf(page('ordinary'))).toBe('You have no right to page at this rank. Nothing was spoken.')
    on.change('telephones', 't2100', { mayPage: 'ordinary' })
    expect(page('urgent')?.code).toBe('notAllowed')
    expect(page('ordinary')).toBeUndefined()
    const [open] = on.state.pages.keys()
    expect(on.ask({ service: 'speakOnPage', device: 't2100', page: open!, rank: 'safety', text: 'Leave the hall.' })?.code).toBe('notAllowed')
    expect(on.state.pages.get(open!)).toMatchObject({ rank: 'ordinary', text: '' })
  })
})
