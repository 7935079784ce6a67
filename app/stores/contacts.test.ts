import { createTestingPinia } from '@pinia/testing'
import { disposePinia, type Pinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { Tryout } from '~~/core/calls/tryout'
import type { Contact } from '~~/shared/contacts'
import type { Role } from '~~/shared/roles'
import { useContacts } from './contacts'
import { useDirectory } from './directory'
import { useLive } from './live'
import { useSession } from './session'

const server = vi.fn<(url: string, options?: { query?: Record<string, unknown> }) => Promise<unknown>>()
/** Who is where is no matter here. */
const nobodyAnywhere = { engagements: [], turns: [], occupants: [] }
vi.stubGlobal('$fetch', (...asked: Parameters<typeof server>) => asked[0] === '/api/whereabouts' ? Promise.resolve(nobodyAnywhere) : server(...asked))

const contact = (id: string, name: string, number: string, more: Partial<Contact> = {}): Contact => ({
  id, kind: 'individual', name, company: null, numbers: [{ number, kind: 'work' }], addresses: [], category: '', private: false, language: '',
  note: '', readFirst: false, mark: 'none', version: 1, book: null, ...more,
})
const asRole = (role: Role) => ({ signIn: role, name: role, role, person: null, device: null }) as unknown as ReturnType<typeof useSession>['me']
const settled = async () => {
  for (let turn = 0; turn < 10; turn++) await Promise.resolve()
  await nextTick()
}

let pinia: Pinia
// What an earlier test's stores still had to do would be done in the next one.
afterEach(() => disposePinia(pinia))
beforeEach(() => {
  pinia = createTestingPinia({ stubActions: false, createSpy: vi.fn })
  setActivePinia(pinia)
  server.mockReset()
  useLive().state = new Tryout().state
  useLive().connected = true
})

describe('contacts', () => {
  it('give their name to whoever calls from their number, before what the network says; a person before their company', async () => {
    const firm = contact('f', 'Quarrel & Daughters', '+442079460888', { kind: 'company' })
    const changed = [firm, contact('p', 'Ottoline Quarrel', '+442079460888', { kind: 'person', company: 'f' })]
    server.mockResolvedValue({ latest: 2, changed, removed: [] })
    useSession().me = asRole('operator')
    const contacts = useContacts()
    await settled()
    expect(useDirectory().nameOf('x', { number: '+442079460888', name: 'QUARREL LTD' })).toBe('Ottoline Quarrel')
    expect(contacts.companyOf(contacts.of('020 7946 0888')!)?.name).toBe('Quarrel & Daughters')
    expect(contacts.alike('ottoline quarrel', [], null).map(({ id }) => id)).toEqual(['p'])
    expect(contacts.alike('', ['020 7946 0888'], 'p').map(({ id }) => id)).toEqual(['f'])
  })

  it('are asked for again when there is news while they are asked for', async () => {
    let answer: (value: unknown) => void = () => {}
    server.mockImplementationOnce(() => new Promise(resolve => answer = resolve))
    server.mockResolvedValueOnce({ latest: 2, changed: [contact('b', 'Later', '+442079460002')], removed: ['a'] })
    useSession().me = asRole('operator')
    const contacts = useContacts()
    await settled()
    useLive().news.contacts++
    await settled()
    answer({ latest: 1, changed: [contact('a', 'Sooner', '+442079460001')], removed: [] })
    await settled()
    expect([...contacts.known.keys()]).toEqual(['b'])
    expect(server.mock.calls.map(([, options]) => options?.query)).toEqual([{ since: 0 }, { since: 1 }])
  })

  it('of one who was signed in are not those of who signs in next at the same browser', async () => {
    server.mockResolvedValueOnce({ latest: 3, changed: [contact('own', 'My Own', '+442079460003', { private: true })], removed: [] })
    server.mockResolvedValueOnce({ latest: 3, changed: [contact('all', 'For All', '+442079460004')], removed: ['own'] })
    const session = useSession()
    session.me = asRole('operator')
    const contacts = useContacts()
    await settled()
    expect([...contacts.known.keys()]).toEqual(['own'])
    session.me = { ...asRole('operator')!, signIn: 'tomas' }
    await settled()
    expect([...contacts.known.keys()]).toEqual(['all'])
    expect(server.mock.calls.map(([, options]) => options?.query)).toEqual([{ since: 0 }, { since: 0 }])
  })

  it('are forgotten when somebody signs in who may not see them', async () => {
    server.mockResolvedValue({ latest: 1, changed: [contact('a', 'Secret', '+442079460001', { note: 'secret' })], removed: [] })
    const session = useSession()
    session.me = asRole('operator')
    const contacts = useContacts()
    await settled()
    expect(contacts.known.size).toBe(1)
    session.me = asRole('staff')
    await settled()
    expect(contacts.known.size).toBe(0)
    expect(useDirectory().nameOf('x', { number: '+442079460001', name: null })).toBe('020 7946 0001')
    expect(contacts.cardOf({ id: 'c', direction: 'inbound', party: { number: '+442079460001', name: null }, line: null } as never)).toBeUndefined()
    expect(server).toHaveBeenCalledTimes(1)
  })
})
