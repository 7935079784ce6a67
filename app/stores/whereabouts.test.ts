import { createTestingPinia } from '@pinia/testing'
import { disposePinia, type Pinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { merrowby } from '~~/demo/company/merrowby'
import { nextTick } from 'vue'
import { Tryout } from '~~/core/calls/tryout'
import type { WhereaboutsNow } from '~~/shared/whereabouts'
import { useDirectory } from './directory'
import { useField } from './field'
import { useLive } from './live'
import { useSession } from './session'
import { useWays } from './ways'
import { useWhereabouts } from './whereabouts'

const hour = 3_600_000
let known: WhereaboutsNow
const empty = { latest: 0, changed: [], removed: [], engagements: [], turns: [], occupants: [] }
vi.stubGlobal('$fetch', (url: string) => Promise.resolve(url === '/api/whereabouts' ? known : url === '/api/notes' ? [] : empty))
const settled = async () => {
  for (let turn = 0; turn < 10; turn++) await Promise.resolve()
  await nextTick()
}

let on: Tryout
let pinia: Pinia
// What an earlier test's stores still had to do would be done in the next one.
afterEach(() => disposePinia(pinia))
beforeEach(() => {
  pinia = createTestingPinia({ stubActions: false, createSpy: vi.fn })
  setActivePinia(pinia)
  on = new Tryout(merrowby(12))
  known = { engagements: [], turns: [], occupants: [] }
  const live = useLive()
  live.state = on.state
  live.connected = true
  live.presences.set('t2105', { kind: 'free', lit: true, since: null, until: null, reason: null, peer: null, way: null, on: null, to: null, place: '' })
  useSession().me = { signIn: 'ines', name: 'Ines', role: 'operator', rights: [], device: 't2100', extension: '2100' }
})
const at = () => Math.round(useLive().wall(useLive().now()))

it('a calendar that takes this moment is seen at the telephone, until it does no more', async () => {
  known.engagements = [{ person: 'p2105', from: at() - hour, to: at() + hour, allDay: false, place: 'Chart room' }]
  const whereabouts = useWhereabouts()
  await settled()
  expect(useLive().presences.get('t2105')).toMatchObject({ kind: 'engaged', lit: false, place: 'Chart room' })
  known = { ...known, engagements: [] }
  await whereabouts.refresh()
  await settled()
  expect(useLive().presences.get('t2105')).toMatchObject({ kind: 'free', lit: true })
})

it('a duty leads to whoever the roster names first and can be reached, in a gap to whoever stands in', async () => {
  const [person] = Object.values(on.state.company.people).slice(5)
  known.turns = [{ duty: 'duty:it', from: at() - hour, to: at() + hour, people: ['gone', person!.id], unknown: [] }]
  const whereabouts = useWhereabouts()
  await settled()
  expect(useDirectory().nameOf('duty:it')).toBe('IT on call')
  expect(useWays().to('duty:it')[0]?.words).toContain(person!.last)
  known = { ...known, turns: [] }
  await whereabouts.refresh()
  await settled()
  expect(whereabouts.duty('duty:it')).toMatchObject({ people: [], next: null })
  expect(useWays().to('duty:it')[0]?.words).toContain('Operators')
  expect(whereabouts.duty('constructor')).toBeNull()
})

it('a place is found by whoever is there now, and by nobody who was there or will come', async () => {
  known.occupants = [
    { telephone: 't851', name: 'MV Plover', from: at() - hour, to: null }, { telephone: 't852', name: 'MV Plovering', from: at() - hour, to: at() - 1 },
    { telephone: 't853', name: 'MV Plover Two', from: at() + hour, to: null },
  ]
  useWhereabouts()
  await settled()
  const field = useField()
  field.type('plover')
  expect(field.hits).toMatchObject([{ id: 't851', because: { key: 'field.isThereNow', with: { name: 'MV Plover' } } }])
})
