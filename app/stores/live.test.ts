import { createPinia, disposePinia, type Pinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { evolveAll, numbered } from '~~/core/calls/evolve'
import { decide } from '~~/core/calls/decide'
import type { NumberedEvent, Request } from '~~/core/calls/model'
import { snapshotOf } from '~~/core/calls/snapshot'
import { sentenceOf, Tryout } from '~~/core/calls/tryout'
import { feedBeat, feedVersion } from '~~/shared/beat'
import type { FromBrowser, ToBrowser } from '~~/shared/feed'
import { newsTopics } from '~~/shared/news'
import { companyIn, pictureOf } from '~~/shared/picture'
import { useLive } from './live'

/** The live picture on a connection that the test holds the other end of: resumed where it broke, never with a gap, and said to be lost when it is. */

/** The other end of each connection that was opened, the latest last. */
const sockets: Socket[] = []

class Socket {
  readonly said: FromBrowser[] = []
  onopen: () => void = () => {}
  onclose: (event: object) => void = () => {}
  onmessage: (event: { data: string }) => void = () => {}

  constructor(readonly url: string) {
    sockets.push(this)
  }

  send(text: string): void {
    this.said.push(JSON.parse(text) as FromBrowser)
  }

  close(): void {}

  tell(message: ToBrowser): void {
    this.onmessage({ data: JSON.stringify(message) })
  }
}

// What opens connections does so in a browser or a worker alone; this is one.
vi.hoisted(() => Object.assign(globalThis, {
  WorkerGlobalScope: { [Symbol.hasInstance]: () => true },
  location: { protocol: 'http:', host: 'house.example' },
}))

let exchange: Tryout
let pinia: Pinia
afterEach(() => {
  disposePinia(pinia)
  vi.useRealTimers()
})
beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('WebSocket', Socket)
  sockets.length = 0
  setActivePinia(pinia = createPinia())
  exchange = new Tryout()
})

const latest = () => sockets.at(-1)!

function snapshot(): ToBrowser {
  return { type: 'snapshot', now: exchange.now, exchange: true, ...pictureOf(snapshotOf(exchange.state)), company: companyIn(exchange.state.company) }
}

const told = (events: NumberedEvent[], epoch = exchange.state.epoch): ToBrowser => ({ type: 'events', now: exchange.now, exchange: true, epoch, events })
const beat = (seq: number, epoch = exchange.state.epoch): ToBrowser => ({ type: 'beat', now: exchange.now, exchange: true, epoch, seq })

/** The exchange does something; the browser is not told yet. */
function does(request: Request): NumberedEvent[] {
  const decision = decide(exchange.state, request, exchange.now)
  if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
  const events = numbered(exchange.state, decision.events, exchange.now)
  exchange.state = evolveAll(exchange.state, events)
  return events
}

const calls = () => does({ service: 'offerCall', trunk: 'east', party: { number: '+447700900001', name: 'Ada Fenn' }, number: '+441632960000' })
const away = (device: string) => does({ service: 'setStatus', device, reason: 'lunch', until: null })

/** A picture that is whole. */
function connected() {
  const live = useLive()
  live.open()
  latest().onopen()
  latest().tell(snapshot())
  return live
}

describe('the picture', () => {
  it('is asked for with what is known, which at first is nothing, and is that of the exchange', () => {
    const live = connected()
    expect(latest().url).toBe('ws://house.example/api/feed')
    expect(latest().said).toEqual([{ type: 'hello', version: feedVersion, company: 0 }])
    expect(snapshotOf(live.state!)).toEqual(snapshotOf(exchange.state))
    expect([live.connected, live.working, live.lost]).toEqual([true, true, false])
    expect(live.presences.size).toBe(Object.keys(exchange.state.company.telephones).length)
  })

  it('follows what happens, told twice or once, and tells it to whoever listens with how it stood before', () => {
    const live = connected()
    const heard: (string | undefined)[][] = []
    live.onHappening(happenings => void heard.push(happenings.map(({ event, before }) => `${event.type} ${before?.connections.length ?? 0}`)))
    const events = calls()
    latest().tell(told(events))
    latest().tell(told(events))
    expect(snapshotOf(live.state!)).toEqual(snapshotOf(exchange.state))
    expect(heard).toEqual([['originated 0', 'queued 1']])
  })

  it('never has a gap: what does not follow on what is known is not taken, and asked for', () => {
    const live = connected()
    const before = live.state
    const first = calls()
    const second = away('t2105')
    latest().tell(told(second))
    expect(live.state).toBe(before)
    expect(latest().said.at(-1)).toEqual({ type: 'hello', version: feedVersion, company: 1, since: { epoch: 'day', seq: 0 } })
    latest().tell(told([...first, ...second]))
    expect(snapshotOf(live.state!)).toEqual(snapshotOf(exchange.state))
  })

  it('is asked for anew when another exchange speaks, and the company is not sent twice', () => {
    const live = connected()
    latest().tell(told([], 'another'))
    expect(latest().said).toHaveLength(2)
    exchange = new Tryout(undefined, { epoch: 'another' })
    latest().tell({ type: 'snapshot', now: exchange.now, exchange: true, ...pictureOf(snapshotOf(exchange.state)) })
    expect([live.state!.epoch, live.company!.settings.name]).toEqual(['another', 'A small house'])
  })

  it('of a page of another version than its server there is none, until it speaks as the server does', () => {
    const live = connected()
    expect(live.outdated).toBe(false)
    latest().tell({ type: 'outdated' })
    expect(live.outdated).toBe(true)
    latest().tell(snapshot())
    expect(live.outdated).toBe(false)
  })

  it('shows of everybody what has changed for them, and for those who have several telephones', () => {
    const live = connected()
    const other = live.presences.get('t2106')
    latest().tell(told(away('t2105')))
    expect(live.presences.get('t2105')).toMatchObject({ kind: 'away', lit: false })
    expect(live.presences.get('t2106')).toBe(other)
  })

  it('is told the time by the exchange, and reads it as people do', () => {
    const live = connected()
    expect(live.now()).toBe(exchange.now)
    vi.advanceTimersByTime(700)
    expect(live.now()).toBe(exchange.now + 700)
    latest().tell(told(does({ service: 'adjustClock', offset: 120_000 })))
    expect(live.wall(1_000)).toBe(121_000)
  })
})

describe('the connection', () => {
  it('answers every beat, and asks when it has missed something', () => {
    connected()
    latest().tell(beat(0))
    expect(latest().said.slice(1)).toEqual([{ type: 'here' }])
    latest().tell(beat(3))
    expect(latest().said.slice(2)).toEqual([{ type: 'here' }, { type: 'hello', version: feedVersion, company: 1, since: { epoch: 'day', seq: 0 } }])
    latest().tell(beat(0, 'another'))
    expect(latest().said.at(-1)).toMatchObject({ type: 'hello' })
  })

  it('that breaks is lost since then, is tried again, later and later, and goes on where it broke', async () => {
    const live = connected()
    latest().tell(told(calls()))
    latest().onclose({})
    expect([live.connected, live.lost, live.since]).toEqual([false, true, exchange.now])
    for (const pause of [250, 500, 1_000, 2_000, 4_000, 4_000]) {
      const before = sockets.length
      await vi.advanceTimersByTimeAsync(pause - 1)
      expect(sockets.length, `after ${pause}`).toBe(before)
      await vi.advanceTimersByTimeAsync(1)
      expect(sockets.length, `after ${pause}`).toBe(before + 1)
      latest().onclose({})
    }
    expect(live.since, 'since it broke, not since it was last tried').toBe(exchange.now)
    await vi.advanceTimersByTimeAsync(4_000)
    latest().onopen()
    expect(latest().said).toEqual([{ type: 'hello', version: feedVersion, company: 1, since: { epoch: 'day', seq: 2 } }])
    const missed = away('t2105')
    latest().tell(told(missed))
    expect([live.connected, live.lost, live.presences.get('t2105')!.kind]).toEqual([true, false, 'away'])
  })

  it('counts as lost when nothing is heard for three beats, though nobody has closed it', async () => {
    const live = connected()
    await vi.advanceTimersByTimeAsync(feedBeat * 3 - 1)
    expect(live.connected).toBe(true)
    await vi.advanceTimersByTimeAsync(1)
    expect([live.connected, live.lost, sockets.length]).toEqual([false, true, 2])
  })

  it('is kept by what is heard', async () => {
    const live = connected()
    for (let heard = 0; heard < 4; heard++) {
      await vi.advanceTimersByTimeAsync(feedBeat * 2)
      latest().tell(beat(0))
    }
    expect([live.connected, sockets.length]).toEqual([true, 1])
  })

  it('that is refused before anything was heard may be that of nobody any more; one that breaks later is not', () => {
    const live = useLive()
    live.open()
    latest().onclose({})
    expect(live.over).toBe(1)
    const other = connected()
    latest().onclose({})
    expect(other.over).toBe(1)
  })

  it('works only while the exchange speaks to the server', () => {
    const live = connected()
    latest().tell({ type: 'beat', now: exchange.now, exchange: false, epoch: 'day', seq: 0 })
    expect([live.connected, live.working]).toEqual([true, false])
  })

  it('that is closed leaves nothing to be seen by whoever comes next, and is not tried again', async () => {
    const live = connected()
    live.close()
    expect([live.state, live.presences.size, live.over]).toEqual([null, 0, 0])
    await vi.advanceTimersByTimeAsync(60_000)
    expect(sockets).toHaveLength(1)
  })
})

describe('what the server says beside events', () => {
  it('news counts up what they are about, and everything when they do not say', () => {
    const live = connected()
    const before = { ...live.news }
    latest().tell({ type: 'news', about: 'shift' })
    expect(live.news).toEqual({ ...before, shift: before.shift + 1 })
    latest().tell({ type: 'news' })
    for (const topic of newsTopics) expect(live.news[topic]).toBe(before[topic] + (topic === 'shift' ? 2 : 1))
  })

  it('reveals calls as they are now, and never as they were', () => {
    const live = connected()
    const hidden = calls()
    latest().tell(told(hidden.map(event => event.type === 'originated' ? { ...event, party: { number: null, name: null } } : event)))
    const [call] = exchange.state.calls.values()
    const reveal = { type: 'reveal' as const, epoch: 'day', calls: [call!], outlived: [], pages: [] }
    latest().tell({ ...reveal, seq: 1 })
    expect(live.state!.calls.get(call!.id)!.party?.name).toBeNull()
    latest().tell({ ...reveal, seq: 2, epoch: 'another' })
    expect(live.state!.calls.get(call!.id)!.party?.name).toBeNull()
    latest().tell({ ...reveal, seq: 2 })
    expect(live.state!.calls.get(call!.id)!.party?.name).toBe('Ada Fenn')
  })

  it('the session is over', () => {
    const live = connected()
    latest().tell({ type: 'over' })
    expect(live.over).toBe(1)
  })

  it('waits for an event until it has come, or the exchange is another, or for two seconds', async () => {
    const live = connected()
    const done: string[] = []
    const wait = (seq: number, name: string) => void live.reached(seq).then(() => done.push(name))
    wait(0, 'known')
    wait(2, 'comes')
    wait(9, 'never')
    await vi.advanceTimersByTimeAsync(0)
    expect(done).toEqual(['known'])
    latest().tell(told(calls()))
    await vi.advanceTimersByTimeAsync(0)
    expect(done).toEqual(['known', 'comes'])
    await vi.advanceTimersByTimeAsync(1_999)
    expect(done).toHaveLength(2)
    await vi.advanceTimersByTimeAsync(1)
    expect(done.at(-1)).toBe('never')
  })
})
