import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { decide } from '~~/core/calls/decide'
import { numbered } from '~~/core/calls/evolve'
import type { Request } from '~~/core/calls/model'
import { Tryout } from '~~/core/calls/tryout'
import type { ToBrowser } from '~~/shared/feed'
import type { Role } from '~~/shared/roles'
import { Replica } from '../exchange-link/replica'
import { Hub, type Listener } from './hub'

const staffPhone = 't2105'
let replica: Replica
let hub: Hub

beforeEach(() => {
  replica = new Replica()
  hub = new Hub(replica)
  replica.begin(new Tryout().state)
  hub.restart()
})

afterEach(() => hub.close())

/** Somebody at a browser, and what they were told. */
function browser(role: Role, device: string | null, signIn = 'x'): Listener & { told: ToBrowser[] } {
  const told: ToBrowser[] = []
  return { role, device, signIn, session: signIn, company: 0, heard: 0, told, end: () => {}, send: text => void told.push(JSON.parse(text) as ToBrowser) }
}

/** Something happens at the exchange. */
async function happen(request: Request): Promise<void> {
  const state = replica.state!
  const decision = decide(state, request, state.time)
  if ('refusal' in decision) throw new Error(decision.refusal.sentence)
  const events = numbered(state, decision.events, state.time)
  for (const event of events) replica.apply(event)
  hub.events(events)
  await new Promise(resolve => setImmediate(resolve))
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
    await offer('+441632960010')
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
})
