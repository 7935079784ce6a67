import { beforeEach, describe, expect, it, vi } from 'vitest'
import { merrowby } from '~~/demo/company/merrowby'
import { useCallers } from './callers'
import { useDesk } from './desk'
import { useDirectory } from './directory'
import { useFloor } from './floor'
import { useLive } from './live'
import { usePaging } from './paging'
import { usePreferences } from './preferences'
import { useQueues } from './queues'
import { beginAtADesk, enters, inHand, others, says, server, settled, tried } from '~~/tests/desk'

/** What an operator looks at beside the calls: queues, the floor, pages, and the callers whom somebody plays. */
beginAtADesk(() => merrowby(40))
// There is no page in which the keyboard could be anywhere.
vi.stubGlobal('document', { getElementById: () => null, activeElement: { isConnected: true }, body: {} })

/** What was given to be said last: it is heard when what came before has been. */
const lastSaid = () => vi.mocked(useDesk().say).mock.lastCall?.[0]

/** The picture is looked at again. */
function look(): void {
  useLive().state = tried.exchange.state
}

/** Everybody as they are seen on the floor. */
function lit(...free: string[]): void {
  for (const id of Object.keys(tried.exchange.state.company.telephones)) {
    const isFree = free.includes(id)
    useLive().presences.set(id, {
      kind: isFree ? 'free' : 'talking', lit: isFree, since: null, until: null, reason: null, peer: null, way: null, on: null, to: null, place: '',
    })
  }
}

describe('queues', () => {
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    return () => void vi.useRealTimers()
  })

  it('are told in words: who waits, for how long, who serves, and how it went today', async () => {
    says.set('/api/figures/today', () => ({ places: { 'queue:freight': { level: 0.9 } } }))
    const { exchange } = tried
    const queues = useQueues()
    await vi.advanceTimersByTimeAsync(1_000)
    const words = () => queues.wordsOf(queues.boards.find(({ id }) => id === 'queue:freight')!)
    expect(words()).toMatch(/^Freight queue: nobody waits; \d free, 0 talking, 0 away; today 90\s% within the promise$/)
    const members = exchange.state.company.groups['queue:freight']!.members
    others({ service: 'setQueueServed', device: members[0]!, queue: 'queue:freight', state: 'paused', reason: 'Break' })
    expect(words()).toContain('1 paused, 0 away')
    others({ service: 'singleStepTransferCall', device: 't2100', call: inHand().id, to: 'queue:freight' })
    expect(words()).toMatch(/^Freight queue: 1 waiting, the longest 0:00; /)
    others({ service: 'setOpening', device: 't2100', of: 'queue:freight', open: false, until: null })
    expect(words()).toMatch(/^Freight queue \(closed\): nobody waits/)
    expect(queues.levelOf('queue:reservations')).toBeNull()
  })

  it('that nobody serves say so', () => {
    for (const device of tried.exchange.state.company.groups['queue:freight']!.members) others({ service: 'setDoNotDisturb', device, on: true })
    const queues = useQueues()
    expect(queues.wordsOf(queues.boards.find(({ id }) => id === 'queue:freight')!)).toContain('nobody there to answer')
  })

  it('figures are not asked for by who may not see them, and the last known stand while they can\'t be had', async () => {
    const today = vi.fn(() => ({ places: { 'queue:freight': { level: 0.5 } } }))
    says.set('/api/figures/today', today)
    enters('staff')
    useQueues()
    await vi.advanceTimersByTimeAsync(5_000)
    expect(today).not.toHaveBeenCalled()
    enters('operator')
    await vi.advanceTimersByTimeAsync(5_000)
    expect(useQueues().levelOf('queue:freight')).toContain('50')
    today.mockImplementation(() => {
      throw new Error('away')
    })
    others({ service: 'singleStepTransferCall', device: 't2100', call: inHand().id, to: 'queue:freight' })
    await vi.advanceTimersByTimeAsync(5_000)
    expect(today).toHaveBeenCalledTimes(2)
    expect(useQueues().levelOf('queue:freight')).toContain('50')
  })

  it('are opened one after the other, and the panel shows itself for them', () => {
    const queues = useQueues()
    usePreferences().panelShown = false
    queues.openNext()
    expect(queues.opened?.id).toBe(queues.boards[0]!.id)
    expect(usePreferences().panelShown).toBe(true)
    expect(lastSaid()).toBe(queues.wordsOf(queues.boards[0]!))
    for (const board of queues.boards.slice(1)) {
      queues.openNext()
      expect(queues.opened?.id).toBe(board.id)
    }
    queues.openNext()
    expect(queues.opened).toBeNull()
    expect(lastSaid()).toBe('No queue is open')
  })

  it('leave the floor to everybody again, also when the queue is no more', async () => {
    const queues = useQueues()
    queues.open('queue:sailingNews')
    queues.showOnly()
    expect([queues.only?.id, lastSaid()]).toEqual(['queue:sailingNews', 'Floor: only members of the Sailing news queue'])
    queues.showOnly()
    expect([queues.only, lastSaid()]).toEqual([null, 'Floor: everybody'])
    queues.showOnly()
    await settled()
    const { company } = tried.exchange.state
    const lines = Object.values(company.lines).filter(({ target }) => target === 'queue:sailingNews')
    expect(tried.exchange.configure(
      ...lines.map(line => ({ part: 'lines' as const, id: line.id, value: { ...line, target: 'operators' } })),
      { part: 'groups', id: 'queue:sailingNews', value: null },
    )).toBeUndefined()
    look()
    await settled()
    tried.exchange.configure({ part: 'groups', id: 'queue:sailingNews', value: company.groups['queue:sailingNews']! })
    look()
    await settled()
    expect(queues.only, 'it is not taken up again by itself').toBeNull()
  })
})

describe('the floor', () => {
  const people = () => useFloor().departments.flatMap(block => block.people.map(({ id }) => id))

  it('begins with oneself and whom one has pinned, each once', () => {
    const floor = useFloor()
    expect(floor.departments[0]!.people[0]!.id).toBe('t2100')
    usePreferences().pinned = ['p2107', 'p2105', 'p2100', 'p1']
    expect(floor.departments[0]).toMatchObject({ department: { name: 'At hand' } })
    expect(floor.departments[0]!.people.map(({ id }) => id)).toEqual(['t2100', 't2107', 't2105'])
    expect(new Set(people()).size).toBe(people().length)
  })

  it('goes from site to site and from department to department, and says how many are there', () => {
    const floor = useFloor()
    const everybody = people().length
    const sites = [...new Set(useDirectory().floor.map(({ site }) => site))]
    let seen = 0
    for (const site of sites) {
      floor.nextSite()
      expect(floor.words).toBe(site)
      expect(lastSaid()).toBe(`On the floor only ${site}: ${people().length}`)
      seen += people().length
    }
    expect(seen).toBe(everybody)
    floor.nextSite()
    expect([floor.filtered, lastSaid()]).toEqual([false, 'Everybody on the floor'])
    floor.nextSite()
    floor.nextDepartment()
    expect(floor.departments).toHaveLength(1)
    expect(floor.departments[0]!.site).toBe(sites[0])
    floor.nextSite()
    expect(floor.words, 'another site begins with all of it').toBe(sites[1])
  })

  it('shows who was free at that moment: nobody goes or comes by themselves', () => {
    const floor = useFloor()
    lit('t2105', 't2107')
    floor.onlyFree()
    expect(people()).toEqual(['t2105', 't2107'])
    lit('t2106')
    expect(people()).toEqual(['t2105', 't2107'])
    floor.onlyFree()
    expect(floor.filtered).toBe(false)
  })

  it('is everybody\'s again by one key, whatever was left out', () => {
    const floor = useFloor()
    const all = people()
    lit('t2105')
    useQueues().open('queue:freight')
    useQueues().showOnly()
    expect(people()).toEqual(useDirectory().floor.flatMap(block => block.people.map(({ id }) => id))
      .filter(id => tried.exchange.state.company.groups['queue:freight']!.members.includes(id)))
    floor.nextSite()
    floor.onlyFree()
    floor.everybody()
    expect([floor.filtered, people()]).toEqual([false, all])
  })
})

describe('a page', () => {
  it('is opened and closed by one key, is said, and says who was not reached', async () => {
    const paging = usePaging()
    const heard: string[] = []
    const follow = (live: ReturnType<typeof useLive>) => live.onHappening(happenings => void heard.push(...happenings.map(({ event }) => event.type)))
    follow(useLive())
    paging.toggle()
    await vi.waitFor(() => expect(paging.page?.to).toBe('zone:hall'))
    expect(server.mock.calls.at(-1)![1]!.body).toMatchObject({ service: 'openPage', device: 't2100', to: 'zone:hall', rank: 'ordinary' })
    expect(paging.to).toBe('Terminal hall')
    expect(paging.left).toBeGreaterThan(14_000)
    paging.toggle()
    await vi.waitFor(() => expect(paging.page).toBeNull())
  })

  it('without a place that the company has named is said to have none', () => {
    tried.exchange.configure({ part: 'settings', value: { ...tried.exchange.state.company.settings, pageDefault: null } })
    look()
    usePaging().toggle()
    expect(lastSaid()).toBe('No zone is set for this key')
    expect(server).not.toHaveBeenCalled()
  })

  it('of somebody else is heard by whom it is for, and said with whose it is', async () => {
    const paging = usePaging()
    others({ service: 'openPage', device: 't2101', to: 'group:relay', rank: 'ordinary' })
    await settled()
    expect(paging.heard.map(({ by }) => by)).toEqual(['t2101'])
    expect(lastSaid()).toBe('Tomas Arkwell speaks to Front desk')
    others({ service: 'speakOnPage', device: 't2101', page: paging.heard[0]!.id, text: 'The lift is out of order' })
    await settled()
    expect(lastSaid()).toBe('The lift is out of order')
  })

  it('texts at hand are listed by occasion, in their order, and counted as they are read', async () => {
    const paging = usePaging()
    expect(paging.announcements.map(({ occasion }) => occasion)).toEqual(['Sailings', 'Vehicles', 'Persons', 'Safety'])
    expect(paging.announcements[0]!.texts.map(({ position }) => position)).toEqual([0, 1, 2])
    await paging.read(paging.announcements[0]!.texts[0]!)
    expect(paging.said, 'there is no open microphone').toEqual({})
    await paging.open('zone:hall', 'ordinary')
    const text = paging.announcements[0]!.texts[1]!
    await paging.read(text)
    await paging.read(text)
    expect(paging.said).toEqual({ [text.id]: 2 })
    expect(paging.page).toMatchObject({ rank: text.rank, text: text.text })
  })
})

describe('a caller who is played', () => {
  it('comes with a number as the network says it, and is played on until the call is over', async () => {
    const callers = useCallers()
    server.mockImplementation(async (_url, options) => {
      const { id: _id, ...request } = options!.body!
      const call = tried.exchange.begins(() => tried.exchange.must(request as never))
      look()
      return { seq: tried.exchange.state.seq, call }
    })
    await callers.dial(' Ada Fenn ', '07700 900123', '01632 960000')
    expect(server.mock.calls[0]![1]!.body).toMatchObject({
      service: 'offerCall', trunk: 'west', party: { name: 'Ada Fenn', number: '+447700900123' }, number: '+441632960000',
    })
    expect(callers.calls).toHaveLength(1)
    await callers.dial('', '', '01632 960000')
    expect(server.mock.calls[1]![1]!.body).toMatchObject({ party: { name: null, number: null } })
    tried.exchange.hangUp(callers.calls[0]!.id)
    look()
    expect(callers.calls).toHaveLength(1)
  })

  it('has the key of the queue in which they wait, and none elsewhere', () => {
    const callers = useCallers()
    const call = inHand()
    expect(callers.callBackDigit(call)).toBe('')
    others({ service: 'singleStepTransferCall', device: 't2100', call: call.id, to: 'queue:reservations' })
    expect(callers.callBackDigit(tried.exchange.call(call.id))).toBe('1')
  })

  it('can\'t come where there is no trunk, and that is said', async () => {
    const callers = useCallers()
    tried.exchange.configure(...Object.keys(tried.exchange.state.company.trunks).map(id => ({ part: 'trunks' as const, id, value: null })))
    look()
    await callers.dial('', '', '01632 960000')
    expect(callers.failure).toContain('there is no trunk')
    expect(server).not.toHaveBeenCalled()
  })
})
