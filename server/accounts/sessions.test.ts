import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { rulesAtFirst } from '../../shared/house-rules'
import { ownDatabase } from '../../tests/database/own'
import { Sessions } from './sessions'

const own = ownDatabase()
const minute = 60_000
const hour = 60 * minute
const begun = new Date('2031-05-12T08:00:00Z').getTime()
const rules = { current: { ...rulesAtFirst, longestHours: 12, idleMinutes: 30 }, rightsOf: () => [] }

let servers: Sessions[] = []

/** One server on the database; what others tell it is told by hand. */
function server(telephoneOf = (person: string) => `t-${person}`) {
  const hearers: ((payload: string) => void)[] = []
  const over: string[] = []
  const notices = { on: (_channel: string, hear: (payload: string) => void) => void hearers.push(hear), onListening: () => {} }
  const telephone = (person: string) => ({ id: telephoneOf(person), number: '2100' }) as never
  const sessions = new Sessions(own.orm, notices as never, telephone, ids => void over.push(...ids), rules)
  servers.push(sessions)
  return { sessions, over, hears: async (signIn: string, done: () => boolean) => {
    hearers[0]!(signIn)
    await vi.waitFor(() => expect(done()).toBe(true))
  } }
}

const at = (after: number) => vi.setSystemTime(begun + after)
const change = (set: string, signIn: string) => own.sql(`update account set ${set} where sign_in = ?`, [signIn])

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['Date'] })
  at(0)
  await own.sql('delete from session')
  await change('disabled = false, role = \'operator\'', 'ines')
})

afterEach(() => {
  for (const one of servers) one.close()
  servers = []
  vi.useRealTimers()
})

describe('a session', () => {
  it('is of whoever began it, at any server; nobody else has it', async () => {
    const [here, there] = [server(), server()]
    const id = await here.sessions.begin('ines', 'Browser', '192.0.2.1')
    expect(await here.sessions.person(id)).toMatchObject({ signIn: 'ines', name: 'Ines Quillfeather', role: 'operator', extension: '2100' })
    expect(await there.sessions.person(id)).toMatchObject({ signIn: 'ines' })
    for (const wrong of [undefined, '', 'x'.repeat(32), id.slice(0, 8)]) expect(await here.sessions.person(wrong)).toBeNull()
  })

  it('ends a while after it was last used, and in any case after a long day', async () => {
    const { sessions } = server()
    const id = await sessions.begin('ines', 'Browser', '')
    at(30 * minute)
    expect(await sessions.person(id)).not.toBeNull()
    at(60 * minute)
    expect(await sessions.person(id), 'using it counts').not.toBeNull()
    at(90 * minute + 1)
    expect(await sessions.person(id)).toBeNull()
    const another = await sessions.begin('ines', 'Browser', '')
    for (let passed = 0; passed <= 12 * hour; passed += 20 * minute) {
      at(90 * minute + 1 + passed)
      sessions.seen(another)
    }
    expect(await sessions.person(another), 'an open console counts').not.toBeNull()
    at(90 * minute + 2 + 12 * hour)
    expect(await sessions.person(another)).toBeNull()
  })

  it('ends with an account that is disabled, and whoever may do something else now has to come again', async () => {
    const { sessions, over, hears } = server()
    const id = await sessions.begin('ines', 'Browser', '')
    over.length = 0
    await change('role = \'supervisor\'', 'ines')
    await hears('ines', () => over.length > 0)
    expect(over).toEqual([id])
    expect(await sessions.person(id)).toMatchObject({ role: 'supervisor' })
    over.length = 0
    await change('disabled = true', 'ines')
    await hears('ines', () => over.length > 0)
    expect(await sessions.person(id)).toBeNull()
  })

  it('is told of when it is another person\'s, when rights or telephones change, and of nobody whom that does not concern', async () => {
    const { sessions, over } = server()
    const [ines, staff] = [await sessions.begin('ines', 'Browser', ''), await sessions.begin('staff', 'Browser', '')]
    over.length = 0
    const [account] = await own.sql<{ person: string }>('select person from account where sign_in = ?', ['ines'])
    await change('person = null', 'ines')
    try {
      await sessions.changed('ines')
      expect(over).toEqual([ines])
      expect(await sessions.person(ines)).toMatchObject({ device: null, extension: null })
    }
    finally {
      await own.sql('update account set person = ? where sign_in = ?', [account!.person, 'ines'])
    }
    await sessions.changed('ines')
    over.length = 0
    sessions.rightsChanged()
    expect(new Set(over)).toEqual(new Set([ines, staff]))
    over.length = 0
    sessions.telephonesChanged()
    expect(over, 'everybody has the one that they had').toEqual([])
  })

  it('of somebody who gets another telephone is told of', async () => {
    let telephone = 'first'
    const { sessions, over } = server(() => telephone)
    const id = await sessions.begin('ines', 'Browser', '')
    over.length = 0
    sessions.telephonesChanged()
    expect(over).toEqual([])
    telephone = 'second'
    sessions.telephonesChanged()
    expect(over).toEqual([id])
    sessions.telephonesChanged()
    expect(over).toEqual([id])
  })

  it('is shown to its owner by the beginning of its name alone, the latest used first, and ended by it', async () => {
    const { sessions, over } = server()
    const first = await sessions.begin('ines', 'One', '192.0.2.1')
    at(minute)
    const second = await sessions.begin('ines', 'Two', '192.0.2.2')
    await sessions.begin('tomas', 'Three', '192.0.2.3')
    const shown = sessions.of('ines', first)
    expect(shown.map(({ browser, address, own: mine }) => [browser, address, mine])).toEqual([['Two', '192.0.2.2', false], ['One', '192.0.2.1', true]])
    expect(JSON.stringify(shown)).not.toContain(first.slice(0, 12))
    over.length = 0
    expect(await sessions.end('tomas', ({ name }) => name === second.slice(0, 8)), 'nobody ends another\'s').toBe(false)
    expect(await sessions.end('ines', ({ name }) => name === second.slice(0, 8))).toBe(true)
    expect(over).toEqual([second])
    expect(await sessions.person(second)).toBeNull()
    expect(await sessions.person(first)).not.toBeNull()
    expect(sessions.of('ines', first)).toHaveLength(1)
  })

  it('begun by the house\'s identity provider ends there: that one, or all of somebody', async () => {
    const { sessions } = server()
    const there = (providerSubject: string, providerSession: string | null) => ({ providerSubject, providerSession, idToken: 'sealed' })
    const a = await sessions.begin('ines', '', '', there('sub-i', 's1'))
    const b = await sessions.begin('ines', '', '', there('sub-i', 's2'))
    const c = await sessions.begin('tomas', '', '', there('sub-t', 's3'))
    const by = await sessions.begin('tomas', '', '')
    const open = async () => (await Promise.all([a, b, c, by].map(id => sessions.person(id)))).map(Boolean)
    expect([await sessions.proofOf(a), await sessions.proofOf(by)]).toEqual(['sealed', null])
    await sessions.endThere('sub-t', 's1')
    expect(await open(), 'a session of another').toEqual([true, true, true, true])
    await sessions.endThere(null, 's1')
    expect(await open()).toEqual([false, true, true, true])
    await sessions.endThere('sub-i', null)
    expect(await open()).toEqual([false, false, true, true])
    await sessions.endThere(null, null)
    expect(await open(), 'whoever came by password stays').toEqual([false, false, false, true])
  })
})
