import { beforeEach, describe, expect, it, vi } from 'vitest'
import { merrowby } from '~~/demo/company/merrowby'
import { useCustomers } from './customers'
import { useLive } from './live'
import { useMailboxes } from './mailboxes'
import { useNotes } from './notes'
import { usePreferences } from './preferences'
import { useSession } from './session'
import { useShift } from './shift'
import { beginAtADesk, enters, inHand, refusal, says, server, settled, tried } from '~~/tests/desk'

/** What stores keep of what the server knows: asked for when it may be seen, asked again at news, and gone with the right to see it. */
beginAtADesk(() => merrowby(40))

describe('what waits for colleagues', () => {
  it('is told in words and counted, of one and of several', async () => {
    says.set('/api/messages/waiting', () => [{ at: 't2105', text: 1, voice: 2 }, { at: 't2106', text: 3, voice: 0 }, { at: 't2107', text: 0, voice: 1 }])
    const mailboxes = useMailboxes()
    await settled()
    expect(['t2105', 't2106', 't2107', 't2108'].map(mailboxes.wordsOf))
      .toEqual(['2 new voice messages, 1 new message', '3 new messages', '1 new voice message', ''])
    expect(['t2105', 't2106', 't2107', 't2108'].map(mailboxes.countOf)).toEqual([3, 3, 1, 0])
  })

  it('is asked for again at news, and forgotten by who may see it no longer', async () => {
    let waits = 1
    says.set('/api/messages/waiting', () => [{ at: 't2105', text: waits, voice: 0 }])
    const mailboxes = useMailboxes()
    await settled()
    waits = 2
    useLive().news.waiting++
    await settled()
    expect(mailboxes.countOf('t2105')).toBe(2)
    enters('staff')
    await settled()
    expect(mailboxes.countOf('t2105')).toBe(0)
  })

  it('that comes after the right to see it has gone is not kept', async () => {
    let answer: (waiting: object[]) => void = () => {}
    says.set('/api/messages/waiting', () => new Promise(resolve => answer = resolve as typeof answer))
    const mailboxes = useMailboxes()
    await settled()
    enters('staff')
    answer([{ at: 't2105', text: 1, voice: 0 }])
    await settled()
    expect(mailboxes.countOf('t2105')).toBe(0)
  })
})

describe('notes of one\'s own', () => {
  const note = (person: string, remindOn: string | null) => ({ person, text: `about ${person}`, remindOn })

  it('are due from their day on, of who is still here', async () => {
    vi.useFakeTimers({ now: Date.UTC(2031, 4, 12, 12) })
    says.set('/api/notes', () => [
      note('p2105', '2031-05-12'), note('p2106', '2031-05-11'), note('p2107', '2031-05-13'), note('p2108', null), note('p1', '2031-05-01'),
    ])
    useLive().wall = () => Date.UTC(2031, 4, 12, 12)
    const notes = useNotes()
    await settled()
    expect(notes.today).toBe('2031-05-12')
    expect(notes.due.map(({ person }) => person)).toEqual(['p2105', 'p2106'])
    expect(notes.of('p2108').text).toBe('about p2108')
    expect(notes.of('p2109')).toEqual({ person: 'p2109', text: '', remindOn: null })
    vi.useRealTimers()
  })

  it('are kept under the person, and asked for anew', async () => {
    let kept = [note('p2105', null)]
    says.set('/api/notes', () => kept)
    server.mockImplementation(async () => {
      kept = [note('p2106', null)]
    })
    const notes = useNotes()
    await settled()
    await notes.keep({ person: 'p/1', text: 'called', remindOn: '2031-06-01' })
    expect(server.mock.calls).toEqual([['/api/notes/p%2F1', { method: 'PUT', body: { text: 'called', remindOn: '2031-06-01' } }]])
    expect(notes.of('p2106').text).toBe('about p2106')
  })

  it('of somebody else who has signed in meanwhile are not taken for one\'s own', async () => {
    let answer: (notes: object[]) => void = () => {}
    says.set('/api/notes', () => new Promise(resolve => answer = resolve as typeof answer))
    const notes = useNotes()
    await settled()
    const first = answer
    enters('supervisor')
    first([note('p2105', null)])
    await settled()
    expect(notes.of('p2105').text).toBe('')
  })

  it('are forgotten when nobody who has any is signed in', async () => {
    says.set('/api/notes', () => [note('p2105', null)])
    const notes = useNotes()
    await settled()
    useSession().me = null
    await settled()
    expect(notes.of('p2105').text).toBe('')
  })
})

describe('how the console is set', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    return () => void vi.useRealTimers()
  })

  it('changes at once here, and is sent once for several changes', async () => {
    server.mockResolvedValue({})
    const preferences = usePreferences()
    preferences.set({ track: 250 })
    preferences.set({ panelShown: false })
    preferences.set({ track: 260 })
    expect([preferences.track, preferences.panelShown]).toEqual([260, false])
    expect(server).not.toHaveBeenCalled()
    await vi.advanceTimersByTimeAsync(400)
    expect(server.mock.calls).toEqual([['/api/preferences', { method: 'PATCH', body: { track: 260, panelShown: false }, keepalive: true }]])
  })

  it('that could not be sent goes with the next change, the later word holding', async () => {
    server.mockRejectedValueOnce(refusal(503, 'Try again.')).mockResolvedValue({})
    const preferences = usePreferences()
    preferences.set({ track: 250, panel: 300 })
    await preferences.flush()
    preferences.set({ panel: 310 })
    await preferences.flush()
    expect(server.mock.calls[1]![1]!.body).toEqual({ track: 250, panel: 310 })
    await preferences.flush()
    expect(server).toHaveBeenCalledTimes(2)
  })

  it('is as designed when nobody can say how it was set', async () => {
    const preferences = usePreferences()
    const before = preferences.density
    says.set('/api/preferences', () => Promise.reject(refusal(503, 'Try again.')))
    await preferences.recall()
    expect(preferences.density).toBe(before)
    says.set('/api/preferences', () => ({ density: 'windows' }))
    await preferences.recall()
    expect(preferences.density).toBe('windows')
  })
})

describe('who is signed in', () => {
  it('is asked once, however often it is wanted, and again when it may have changed', async () => {
    const session = useSession()
    const me = session.me
    session.me = null
    let asked = 0
    says.set('/api/session', () => {
      asked++
      return asked === 1 ? me : undefined
    })
    await session.recall()
    await session.recall()
    expect([asked, session.me]).toEqual([1, me])
    expect(await session.check()).toBe(false)
    expect(session.me).toBeNull()
  })

  it('may what their role may, and nothing when nobody is', () => {
    const session = useSession()
    expect([session.may('changeContacts'), session.may('runCompany')]).toEqual([true, false])
    session.me = null
    expect(session.may('changeContacts')).toBe(false)
  })

  it('is nobody after signing out, wherever the browser goes then', async () => {
    const session = useSession()
    says.set('/api/session', options => options?.method === 'DELETE' ? { signedOut: true, there: 'https://door.example/out' } : undefined)
    expect(await session.signOut()).toBe('https://door.example/out')
    expect(session.me).toBeNull()
  })
})

describe('the shift', () => {
  const handOver = (id: string, own: boolean, seenAt: number | null) => ({ id, own, seenAt })

  it('asks for a signature under the latest word of somebody else', async () => {
    const handOvers = [handOver('mine', true, null), handOver('seen', false, 5), handOver('theirs', false, null), handOver('older', false, null)]
    says.set('/api/shift', () => ({ handOvers }))
    const shift = useShift()
    await settled()
    expect(shift.toSign?.id).toBe('theirs')
  })

  it('says why it is not known, and knows it again', async () => {
    says.set('/api/shift', () => Promise.reject(refusal(503, 'The database is away.')))
    const shift = useShift()
    await settled()
    expect([shift.said, shift.failure]).toEqual([null, 'The database is away.'])
    says.set('/api/shift', () => ({ handOvers: [] }))
    useLive().news.shift++
    await settled()
    expect([shift.said, shift.failure]).toEqual([{ handOvers: [] }, null])
  })

  it('is not asked for by who answers for nobody but themselves', async () => {
    enters('staff')
    const asked = vi.fn(() => ({ handOvers: [] }))
    says.set('/api/shift', asked)
    useShift()
    await settled()
    expect(asked).not.toHaveBeenCalled()
  })

  it('tells the screen reader what was done, and keeps what was not', async () => {
    says.set('/api/shift', () => ({ handOvers: [] }))
    const shift = useShift()
    await settled()
    server.mockResolvedValueOnce({})
    expect(await shift.send('notes', { text: 'x' }, 'Your note is kept')).toBe(true)
    server.mockRejectedValueOnce(refusal(409, 'Somebody was quicker.'))
    expect(await shift.send('notes', { text: 'x' }, 'never said')).toBe(false)
    expect(shift.failure).toBe('Somebody was quicker.')
  })
})

describe('what the customer system says of a caller', () => {
  it('is asked once for each call, and again only when it could not be had', async () => {
    const asked = vi.fn(() => ({ source: 'ledger', problem: null, customer: { name: 'Ada Fenn' } }))
    says.set('/api/customers', asked)
    const customers = useCustomers()
    const call = inHand()
    const look = () => customers.of(call.id, '+447700900001')
    expect(look()).toBeUndefined()
    look()
    await settled()
    expect(look()).toMatchObject({ customer: { name: 'Ada Fenn' } })
    expect(asked).toHaveBeenCalledTimes(1)
    const other = inHand('t2101')
    asked.mockImplementationOnce(() => {
      throw refusal(502, 'No answer.')
    })
    customers.of(other.id, '+447700900001')
    await settled()
    customers.of(other.id, '+447700900001')
    await settled()
    expect(asked).toHaveBeenCalledTimes(3)
  })

  it('is not asked of a number that was withheld, nor for who may not see callers, and goes with its call', async () => {
    const asked = vi.fn(() => ({ source: 'ledger', problem: null, customer: null }))
    says.set('/api/customers', asked)
    const customers = useCustomers()
    const call = inHand()
    customers.of(call.id, null)
    enters('staff')
    customers.of(call.id, '+447700900001')
    await settled()
    expect(asked).not.toHaveBeenCalled()
    enters('operator')
    customers.of(call.id, '+447700900001')
    await settled()
    tried.exchange.hangUp(call.id)
    useLive().state = tried.exchange.state
    await settled()
    expect(customers.of(call.id, null)).toBeUndefined()
  })
})
