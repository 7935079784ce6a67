import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { decide } from '~~/core/calls/decide'
import { numbered } from '~~/core/calls/evolve'
import type { Request } from '~~/core/calls/model'
import { sentenceOf, Tryout } from '~~/core/calls/tryout'
import { feedBeat } from '~~/shared/beat'
import type { ToBrowser } from '~~/shared/feed'
import type { Role } from '~~/shared/roles'
import { Replica } from '../exchange-link/replica'
import { Hub, type Listener } from './hub'

const staffPhone = 't2105'
let replica: Replica
let hub: Hub

beforeEach(() => {
  replica = new Replica()
  hub = new Hub(replica, undefined, 0)
  replica.begin(new Tryout().state)
  hub.restart()
})

afterEach(() => hub.close())

/** Somebody at a browser, and what they were told. */
function browser(role: Role, device: string | null, signIn = 'x'): Listener & { told: ToBrowser[] } {
  const told: ToBrowser[] = []
  return { role, device, signIn, session: signIn, company: 0, heard: 0, told, end: () => {}, send: text => void told.push(JSON.parse(text) as ToBrowser) }
}

/** Something happens at the exchange, and everybody has been told. */
async function happen(request: Request): Promise<void> {
  ask(request)
  await new Promise(resolve => setImmediate(resolve))
}

function ask(request: Request): void {
  const state = replica.state!
  const decision = decide(state, request, state.time)
  if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
  const events = numbered(state, decision.events, state.time)
  for (const event of events) replica.apply(event)
  hub.events(events)
}

const offer = (number: string) => happen({ service: 'offerCall', trunk: 'east', party: { number: '+447700900987', name: 'Secret Caller' }, number })

describe('what browsers are told', () => {
  it('a newcomer gets the replica, then every event once and in order', async () => {
    const ines = browser('operator', 't2100')
    hub.join(ines, undefined)
    await offer('+441632960000')
    expect(ines.told.map(message => message.type)).toEqual(['snapshot', 'events'])
    const [, events] = ines.told as [ToBrowser, ToBrowser & { type: 'events' }]
    expect(events.events.map(event => event.seq)).toEqual([1, 2])
  })

  it('whoever was away gets just what they missed, or the replica when that is no longer known', async () => {
    await offer('+441632960000')
    await offer('+441632960000')
    const back = browser('operator', 't2100')
    hub.join(back, { epoch: replica.state!.epoch, seq: 2 })
    expect(back.told[0]).toMatchObject({ type: 'events', events: [{ seq: 3 }, { seq: 4 }] })
    const stranger = browser('operator', 't2100')
    hub.join(stranger, { epoch: 'another', seq: 2 })
    expect(stranger.told[0]!.type).toBe('snapshot')
    const dreamer = browser('operator', 't2100')
    hub.join(dreamer, { epoch: replica.state!.epoch, seq: 99 })
    expect(dreamer.told[0]!.type).toBe('snapshot')
  })

  it('staff see nobody who calls others, and everybody who calls them', async () => {
    const staff = browser('staff', staffPhone)
    hub.join(staff, undefined)
    await offer('+441632960000')
    expect(JSON.stringify(staff.told)).not.toContain('Secret')
    await offer(`+441632960${staffPhone.slice(2)}`)
    expect(staff.told.at(-1)).toMatchObject({ type: 'reveal', seq: replica.state!.seq, calls: [{ party: { name: 'Secret Caller' } }] })
    const again = browser('staff', staffPhone)
    hub.join(again, undefined)
    expect(again.told.map(message => message.type)).toEqual(['snapshot', 'reveal'])
  })

  it('staff who were away see nobody who called others meanwhile either', async () => {
    await offer('+441632960000')
    await offer(`+441632960${staffPhone.slice(2)}`)
    const back = browser('staff', staffPhone)
    hub.join(back, { epoch: replica.state!.epoch, seq: 0 })
    expect(back.told.map(message => message.type)).toEqual(['events', 'reveal'])
    expect(JSON.stringify(back.told[0])).not.toContain('Secret')
    expect(JSON.stringify(back.told[0])).not.toContain('7700900987')
    expect(back.told[1]).toMatchObject({ calls: [{ party: { name: 'Secret Caller' } }] })
    const staffElsewhere = browser('staff', 't2106')
    hub.join(staffElsewhere, { epoch: replica.state!.epoch, seq: 0 })
    expect(JSON.stringify(staffElsewhere.told)).not.toContain('Secret')
    const ines = browser('operator', 't2100')
    hub.join(ines, { epoch: replica.state!.epoch, seq: 0 })
    expect(JSON.stringify(ines.told)).toContain('Secret')
  })

  it('when everybody starts again staff see no more than before', async () => {
    const [staff, ines] = [browser('staff', staffPhone), browser('operator', 't2100')]
    for (const listener of [staff, ines]) hub.join(listener, undefined)
    await offer('+441632960000')
    hub.restart()
    expect(JSON.stringify(staff.told)).not.toContain('Secret')
    expect(ines.told.at(-1)).toMatchObject({ type: 'snapshot', state: { calls: { 'day-1': { party: { name: 'Secret Caller' } } } } })
  })

  it('of an ended session is told that it is over, and closed; others go on', () => {
    const ended: string[] = []
    const [one, other] = ['a', 'b'].map(session => ({ ...browser('operator', 't2100'), session, end: () => void ended.push(session) }))
    for (const listener of [one!, other!]) {
      hub.join(listener, undefined)
      hub.watch(listener, () => {})
      listener.told.length = 0
    }
    hub.end(['a', 'c'])
    hub.beat()
    expect(ended).toEqual(['a'])
    expect(one!.told.map(({ type }) => type)).toEqual(['over'])
    expect(other!.told.map(({ type }) => type)).toEqual(['beat'])
  })

  it('who leaves hears no more', async () => {
    const ines = browser('operator', 't2100')
    hub.join(ines, undefined)
    hub.leave(ines)
    await offer('+441632960000')
    expect(ines.told).toHaveLength(1)
    expect(hub.listening).toBe(0)
  })

  it('news goes to whom it concerns, and says of what: nobody asks for what has not changed', () => {
    const [reader, writer, other] = [browser('staff', staffPhone, 'reader'), browser('operator', 't2100', 'writer'), browser('staff', 't2106', 'other')]
    for (const listener of [reader, writer, other]) hub.join(listener, undefined)
    const heard = () => [reader, writer, other].map(({ told }) => told.splice(0).flatMap(message => message.type === 'news' ? [message.about] : []))
    heard()
    hub.newsOfMessages([staffPhone, 'writer'])
    expect(heard()).toEqual([['messages'], ['waiting', 'messages'], []])
    hub.newsForAnswering('contacts')
    expect(heard()).toEqual([[], ['contacts'], []])
    hub.newsForAll('whereabouts')
    expect(heard()).toEqual([['whereabouts'], ['whereabouts'], ['whereabouts']])
  })

  it('after listening began again everybody looks at everything anew, staff too', () => {
    const [ines, staff] = [browser('operator', 't2100'), browser('staff', staffPhone)]
    for (const listener of [ines, staff]) hub.join(listener, undefined)
    for (const listener of [ines, staff]) listener.told.length = 0
    hub.newsForAll()
    for (const { told } of [ines, staff]) expect(told).toEqual([{ type: 'news' }])
  })

  it('the company goes to whoever does not have it in this version, and again only when it has changed', async () => {
    const known = (listener: ReturnType<typeof browser>) => listener.told.map(message => message.type === 'snapshot' ? message.company !== undefined : null)
    const [none, older, same] = [browser('operator', 't2100'), browser('operator', 't2101'), browser('staff', staffPhone)]
    hub.join(none, undefined)
    hub.join(older, undefined, 0)
    hub.join(same, undefined, 1)
    expect([none, older, same].map(known)).toEqual([[true], [true], [false]])
    const timeless = ({ told }: typeof none) => JSON.stringify(told).replaceAll(/"now":\d+/g, '')
    expect(timeless(none)).toBe(timeless(older))
    hub.restart()
    expect([none, same].map(listener => known(listener).at(-1))).toEqual([false, false])

    const { company } = replica.state!
    await happen({
      service: 'configure', from: 1, version: 2, changes: [{ part: 'sites', id: 'quay', value: { ...company.sites.quay!, name: 'The quay' } }],
    })
    hub.restart()
    expect(none.told.at(-1)).toMatchObject({ type: 'snapshot', version: 2 })
    expect(known(none).at(-1), 'it was told as an event').toBe(false)
    const late = browser('operator', 't2102')
    hub.join(late, undefined, 1)
    expect(late.told[0]).toMatchObject({ company: { sites: { quay: { name: 'The quay' } } } })
  })

  it('who was away is known to have the company of the moment', async () => {
    const back = browser('operator', 't2100')
    hub.join(back, { epoch: replica.state!.epoch, seq: 0 })
    hub.restart()
    expect(back.told.at(-1)).toMatchObject({ type: 'snapshot' })
    expect(back.told.at(-1)).not.toHaveProperty('company')
  })

  it('of an exchange that is not known, or knows no company, there is a beat and nothing else', async () => {
    const measured: number[] = []
    const early = new Hub(new Replica(), delay => measured.push(delay))
    const ines = browser('operator', 't2100')
    early.join(ines, undefined)
    early.restart()
    early.events([{ type: 'callBackLate', callBack: 'x', seq: 1, at: 1 } as never])
    await new Promise(resolve => setImmediate(resolve))
    expect(ines.told).toEqual([])
    early.setExchange(true)
    expect(ines.told).toEqual([{ type: 'beat', now: expect.any(Number), exchange: false, epoch: '', seq: 0 }])
    early.close()

    const empty = new Replica()
    empty.begin({ ...new Tryout().state, company: { ...new Tryout().state.company, version: 0 } })
    const bare = new Hub(empty)
    bare.join(ines, undefined)
    bare.restart()
    expect(ines.told).toHaveLength(1)
    expect(measured).toEqual([])
    bare.close()
  })

  it('a beat says where everything stands, and whether the exchange is there', async () => {
    const [ines, staff] = [browser('operator', 't2100'), browser('staff', staffPhone)]
    for (const listener of [ines, staff]) hub.join(listener, undefined)
    expect(ines.told[0]).toMatchObject({ type: 'snapshot', exchange: false })
    await offer('+441632960000')
    for (const up of [true, false]) {
      hub.setExchange(up)
      for (const { told } of [ines, staff])
        expect(told.at(-1)).toEqual({ type: 'beat', now: expect.any(Number), exchange: up, epoch: replica.state!.epoch, seq: replica.state!.seq })
    }
    hub.setExchange(true)
    const late = browser('operator', 't2101')
    hub.join(late, undefined)
    expect(late.told[0]).toMatchObject({ exchange: true })
    await offer('+441632960000')
    expect(late.told.at(-1)).toMatchObject({ type: 'events', exchange: true, epoch: replica.state!.epoch })
  })

  it('another run of the exchange begins anew for everybody', async () => {
    const [ines, staff] = [browser('operator', 't2100'), browser('staff', staffPhone)]
    for (const listener of [ines, staff]) hub.join(listener, undefined)
    replica.begin(new Tryout(undefined, { epoch: 'another' }).state)
    await offer('+441632960000')
    expect(ines.told.map(({ type }) => type)).toEqual(['snapshot', 'snapshot'])
    expect(ines.told[1]).toMatchObject({ state: { epoch: 'another' } })
    expect(JSON.stringify(staff.told)).not.toContain('Secret')
    await offer(`+441632960${staffPhone.slice(2)}`)
    expect(staff.told.at(-1)).toMatchObject({ type: 'reveal', epoch: 'another' })
    hub.restart()
    expect(staff.told.slice(-2).map(({ type }) => type), 'their own caller again').toEqual(['snapshot', 'reveal'])
    expect(ines.told.slice(-1).map(({ type }) => type)).toEqual(['snapshot'])
  })

  it('how late something goes out is measured while somebody listens', async () => {
    const measured: number[] = []
    hub.close()
    hub = new Hub(replica, delay => measured.push(delay), 0)
    replica.setTime(replica.state!.time + 25)
    hub.restart()
    await offer('+441632960000')
    expect(measured).toEqual([])
    hub.join(browser('operator', 't2100'), undefined)
    await offer('+441632960000')
    expect(measured).toHaveLength(1)
    expect(measured[0]).toBeGreaterThanOrEqual(25)
    expect(measured[0]).toBeLessThan(60_000)
  })

  it('messages for a line concern who answers for the company, and no staff', () => {
    const [ines, staff, without] = [browser('operator', 't2100', 'ines'), browser('staff', staffPhone, 'staff'), browser('supervisor', null, 'tomas')]
    for (const listener of [ines, staff, without]) hub.join(listener, undefined)
    const heard = (concerned: string[]) => {
      hub.newsOfMessages(concerned)
      return [ines, staff, without].map(({ told }) => told.splice(0).flatMap(message => message.type === 'news' ? [message.about] : []))
    }
    expect(heard(['general'])).toEqual([['waiting', 'messages'], [], ['waiting', 'messages']])
    expect(heard(['constructor'])).toEqual([['waiting'], [], ['waiting']])
    expect(heard(['t2106'])).toEqual([['waiting'], [], ['waiting']])
    const group = Object.values(replica.state!.company.groups).find(({ members }) => members.includes(staffPhone) && !members.includes('t2100'))!
    expect(heard([group.id])).toEqual([['waiting'], ['messages'], ['waiting']])
  })

  it('of what is said to a telephone alone, and of who waited there, its owner hears, and no other staff', async () => {
    const [staff, other] = [browser('staff', staffPhone), browser('staff', 't2106')]
    for (const listener of [staff, other]) hub.join(listener, undefined)
    for (const { told } of [staff, other]) told.length = 0
    await happen({ service: 'openPage', device: 't2100', to: staffPhone, rank: 'ordinary' } as Request)
    const page = [...replica.state!.pages.keys()][0]!
    await happen({ service: 'speakOnPage', device: 't2100', page, text: 'Lamp oil for Wren' } as Request)
    expect(staff.told.at(-1)).toMatchObject({ type: 'reveal', calls: [], outlived: [], pages: [{ text: 'Lamp oil for Wren' }] })
    expect(JSON.stringify(other.told)).not.toContain('Lamp oil')
    await happen({ service: 'closePage', device: 't2100', page } as Request)

    await offer('+441632960000')
    const call = [...replica.state!.calls.keys()][0]!
    await happen({ service: 'answerCall', device: 't2100', call })
    await happen({ service: 'parkCall', device: 't2100', call, slot: null, for: staffPhone })
    await happen({ service: 'clearConnection', device: replica.state!.calls.get(call)!.calling, call })
    expect(staff.told.at(-1)).toMatchObject({ type: 'reveal', outlived: [{ for: staffPhone, party: { name: 'Secret Caller' } }] })
    expect(JSON.stringify(other.told)).not.toContain('Secret')
    const late = browser('staff', 't2106')
    hub.join(late, undefined)
    expect(late.told.map(({ type }) => type)).toEqual(['snapshot'])
  })

  it('the first of several events goes out at once, the others together, before the next beat', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setImmediate', 'performance'] })
    try {
      hub.close()
      hub = new Hub(replica)
      hub.restart()
      const ines = browser('operator', 't2100')
      hub.join(ines, undefined)
      const together = () => ines.told.flatMap(message => message.type === 'events' ? [message.events.length] : [])
      ask({ service: 'setStatus', device: 't2104', reason: 'lunch', until: null })
      vi.advanceTimersByTime(0)
      expect(together()).toEqual([1])
      for (const device of ['t2105', 't2106', 't2107']) ask({ service: 'setStatus', device, reason: 'lunch', until: null })
      vi.advanceTimersByTime(15)
      expect(together()).toEqual([1])
      vi.advanceTimersByTime(1)
      expect(together()).toEqual([1, 3])
      ask({ service: 'setStatus', device: 't2108', reason: 'lunch', until: null })
      hub.beat()
      expect(ines.told.slice(-2).map(({ type }) => type)).toEqual(['events', 'beat'])
      ask({ service: 'setStatus', device: 't2109', reason: 'lunch', until: null })
      hub.close()
      vi.advanceTimersByTime(100)
      expect(together()).toEqual([1, 3, 1])
    }
    finally {
      vi.useRealTimers()
    }
  })

  it('who has gone silent is told of to whoever watches, with how long', () => {
    vi.useFakeTimers()
    try {
      const own = new Hub(replica)
      const silent = { ...browser('operator', 't2100'), heard: performance.now() }
      const told: number[] = []
      own.watch(silent, silentFor => told.push(silentFor))
      vi.advanceTimersByTime(feedBeat * 2)
      expect(told).toEqual([feedBeat, feedBeat * 2])
      own.close()
      vi.advanceTimersByTime(feedBeat)
      expect(told).toHaveLength(2)
    }
    finally {
      vi.useRealTimers()
    }
  })
})
