import { describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { merrowby } from '~~/demo/company/merrowby'
import { useCarrying } from './carrying'
import { useDesk } from './desk'
import { useDialogs } from './dialogs'
import { useDirectory } from './directory'
import { useEnding } from './ending'
import { useField } from './field'
import { useLikely } from './likely'
import { useLive } from './live'
import { useMessages } from './messages'
import { usePreferences } from './preferences'
import { useSpeedKeys } from './speed-keys'
import { say } from '~/composables/language'
import { beginAtADesk, inHand, others, refusal, says, server, settled, tried } from '~~/tests/desk'
import { useWays } from './ways'

beginAtADesk(() => merrowby(40))

describe('the desk', () => {
  it('asks with the own telephone, one thing after the other, and not twice for a double click', async () => {
    const desk = useDesk()
    const [first, second] = [inHand(), tried.exchange.offer()]
    useLive().state = tried.exchange.state
    const hold = { service: 'holdCall' as const, call: first.id }
    const answers = await Promise.all([desk.ask(hold), desk.ask(hold), desk.ask({ service: 'answerCall', call: second })])
    expect(answers).toEqual([true, false, true])
    expect(server.mock.calls.map(([, options]) => options!.body)).toMatchObject([
      { device: 't2100', ...hold },
      { device: 't2100', service: 'answerCall', call: second },
    ])
    expect(desk.asking).toBe(false)
    expect(desk.talking?.id).toBe(second)
    expect(desk.held.map(({ call }) => call.id)).toEqual([first.id])
  })

  it('shows the sentence of what was refused, and forgets it with the next thing asked', async () => {
    const desk = useDesk()
    const call = inHand()
    expect(await desk.ask({ service: 'retrieveCall', call: call.id })).toBe(false)
    expect(desk.notice).toBe('That call is not on hold with you.')
    expect(await desk.ask({ service: 'holdCall', call: call.id })).toBe(true)
    expect(desk.notice).toBeNull()
  })

  it.each([
    [{ carriedOut: true, sentence: null }, true, null],
    [{ carriedOut: false, sentence: 'Too late.' }, false, 'Too late. That was not done: try again if it is still wanted.'],
  ])('finds out what became of a request whose answer never came: %j', async (outcome, done, notice) => {
    const desk = useDesk()
    const call = inHand()
    server.mockImplementation(async (url) => {
      if (url === '/api/requests') throw refusal(504, 'No answer.')
      return outcome
    })
    expect(await desk.ask({ service: 'holdCall', call: call.id })).toBe(done)
    expect(desk.notice).toBe(notice)
    const { id } = server.mock.calls[0]![1]!.body!
    expect(server.mock.calls[1]![0]).toBe(`/api/requests/${id as string}`)
  })

  it('says what arrives and what became of whoever was passed on, also twice in the same words', async () => {
    const desk = useDesk()
    others({ service: 'offerCall', trunk: 'east', party: { number: null, name: 'Olive Quill' }, number: '+441632960000' })
    const heard = (wanted: string) => vi.waitFor(() => expect(desk.said.some(({ text }) => text.includes(wanted))).toBe(true), { timeout: 10_000 })
    await heard('Olive Quill')
    const [call] = [...tried.exchange.state.calls.keys()] as [string]
    others({ service: 'answerCall', device: 't2100', call })
    await useWays().perform(useWays().to('t2105').find(({ id }) => id === 'passOn')!.deed)
    others({ service: 'answerCall', device: 't2105', call })
    await heard('took it: Olive Quill is talking to')
    expect(desk.farewells).toMatchObject([{ id: call, stretch: 'passedOn' }])
    const { length } = desk.said
    desk.say(desk.said.at(-1)!.text)
    await vi.waitFor(() => expect(desk.said.length).toBe(length + 1), { timeout: 10_000 })
    expect(desk.said.at(-1)!.text).toBe(desk.said.at(-2)!.text)
    expect(desk.said.at(-1)!.id).not.toBe(desk.said.at(-2)!.id)
  })

  it('forgets who was quieted and what was said goodbye to, in time', () => {
    const desk = useDesk()
    const call = tried.exchange.offer()
    useLive().state = tried.exchange.state
    desk.hush(call)
    desk.tick()
    expect(desk.quiet.has(call)).toBe(true)
    others({ service: 'clearConnection', device: tried.exchange.call(call).calling, call })
    desk.tick()
    expect(desk.quiet.size).toBe(0)
  })
})

describe('the field', () => {
  it('says what Enter does, does it, and is empty and ready again', async () => {
    const field = useField()
    const call = inHand()
    const someone = useDirectory().people.find(({ id }) => id === 't2105')!
    field.type(`${someone.first} ${someone.last}`)
    expect(field.best?.id).toBe('t2105')
    expect(field.ways[0]!.words).toMatch(/^passes .* on to/)
    await field.take(field.ways[0])
    expect(field.text).toBe('')
    expect(tried.exchange.call(call.id).passing).toMatchObject({ by: 't2100', to: 't2105' })
  })

  it('keeps what was typed when that is refused, and what is typed meanwhile', async () => {
    const field = useField()
    inHand()
    field.type('2105')
    server.mockRejectedValueOnce(refusal(409, 'Not now.'))
    await field.take(field.ways[0])
    expect(field.text).toBe('2105')
    expect(useDesk().notice).toBe('Not now.')
    const taken = field.take(field.ways[0])
    field.type('fre')
    await taken
    expect(field.text).toBe('fre')
    field.clear()
    field.type('2106')
    const next = field.take(field.ways[0])
    field.type('2106fre')
    await next
    expect(field.text, 'behind what was meant').toBe('fre')
  })

  it('* and a digit park, # and a digit take: neither does the other, whatever happens in between', async () => {
    const field = useField()
    const desk = useDesk()
    const call = inHand()
    field.type('#3')
    await vi.waitFor(() => expect(desk.notice).toBe('Nobody waits in park slot 3. Nothing was done.'))
    expect(desk.talking?.id).toBe(call.id)
    field.type('*3')
    await vi.waitFor(() => expect(tried.exchange.call(call.id).parked?.slot).toBe('slot:3'))
    await vi.waitFor(() => expect(field.text).toBe(''))
    const another = inHand()
    field.type('*3')
    await vi.waitFor(() => expect(desk.notice).toMatch(/^That slot is taken: .* waits there. Nothing was done.$/))
    field.type('*')
    await field.useSlot(null)
    expect(tried.exchange.call(another.id).parked?.slot).toBe('slot:1')
    field.type('#3')
    await vi.waitFor(() => expect(desk.talking?.id).toBe(call.id))
    field.clear()
    await field.useSlot(5)
    expect(desk.talking?.id).toBe(call.id)
  })

  it('passes nobody on for whom the name was not typed: whoever it was for has gone', async () => {
    const field = useField()
    const desk = useDesk()
    const waiting = inHand()
    await desk.ask({ service: 'holdCall', call: waiting.id })
    const call = inHand()
    await nextTick()
    field.type('freight')
    others({ service: 'clearConnection', device: call.calling, call: call.id })
    expect(desk.baton?.id).toBe(waiting.id)
    await field.take(field.ways[0])
    expect(desk.notice).toMatch(/^Your caller has gone. Nothing was done. Press again for /)
    expect(tried.exchange.call(waiting.id).passing).toBeNull()
    await field.take(field.ways[0])
    expect(tried.exchange.call(waiting.id).passing?.by).toBe('t2100')
  })

  it('nobody takes the place of whoever is marked and goes: nothing leads there, and the others stay where they are', () => {
    const field = useField()
    const call = inHand()
    field.type('a')
    const before = field.hits.map(({ id }) => id)
    const { company } = tried.exchange.state
    const at = before.findIndex(id => company.telephones[id]?.person && id !== 't2100')
    const [first, second] = before.slice(at)
    const person = company.telephones[first!]!.person!
    field.selected = at
    const deputies = Object.values(company.people).filter(({ deputies }) => deputies.includes(person))
    expect(tried.exchange.configure(
      { part: 'telephones', id: first!, value: null }, { part: 'people', id: person, value: null },
      ...deputies.map(one => ({ part: 'people' as const, id: one.id, value: { ...one, deputies: [] } })),
      ...Object.values(company.groups).map(one => ({
        part: 'groups' as const, id: one.id, value: { ...one, members: one.members.filter(id => id !== first), voluntary: [], skills: {} },
      })),
    )).toBeUndefined()
    useLive().state = tried.exchange.state
    expect(field.hits.map(({ id }) => id).slice(0, before.length)).toEqual(before)
    expect([field.best?.id, field.isGone, field.ways]).toEqual([first, true, []])
    field.move(1)
    expect([field.best?.id, field.isGone]).toEqual([second, false])
    expect(field.isGone).toBe(false)
    // Typed anew, they are found no more.
    field.type('ab')
    field.type('a')
    expect(field.hits.map(({ id }) => id)).not.toContain(first)
    expect(tried.exchange.call(call.id).passing).toBeNull()
  })

  it('moves the mark among answers, or among who arrives', () => {
    const field = useField()
    const [first, second] = [tried.exchange.offer(), tried.exchange.offer()]
    useLive().state = tried.exchange.state
    field.move(1)
    expect(useDesk().chosen).toBe(second)
    field.move(1)
    expect(useDesk().chosen).toBe(first)
    field.type('a')
    const { length } = field.hits
    expect(length).toBeGreaterThan(1)
    field.move(-1)
    expect(field.best).toEqual(field.hits[length - 1])
  })

  it('says why what looks like a number can\'t be dialled, and dials one that can', () => {
    const field = useField()
    field.type('999')
    expect(field.ways[0]!.words).toContain('999')
    field.type('0170')
    expect(field.ways).toEqual([])
    field.type('07700 900123')
    expect(field.ways[0]!.words).toBe('calls 07700 900123')
    field.type('12345678901234567890123')
    expect(field.wrongNumber).toMatch(/\w/)
  })
})

describe('ways, dialogs, ending, carrying', () => {
  it('a speed key passes nobody on who was not in hand when it was looked at; pressed again it means who is', async () => {
    const [first, second] = [inHand(), inHand()]
    const keys = useSpeedKeys()
    const desk = useDesk()
    useWays()
    desk.choose(null)
    await nextTick()
    const key = { kind: 'person' as const, of: 'p2105', label: null }
    others({ service: 'clearConnection', device: second.calling, call: second.id })
    expect(desk.baton?.id).toBe(first.id)
    server.mockClear()
    keys.press(key, false)
    expect(desk.notice).toMatch(/has gone. Nothing was done.$/)
    expect(server).not.toHaveBeenCalled()
    keys.press(key, false)
    await vi.waitFor(() => expect(tried.exchange.call(first.id).passing).toMatchObject({ to: 't2105' }))
  })

  it('who has let this caller ring in vain is proposed after the others, and it is said', async () => {
    says.set('/api/callers', () => ({
      place: '', kind: '', missed: 0, messages: [],
      likely: [{ destination: 't2105', chance: 0.6, because: 'mostly' }, { destination: 't2106', chance: 0.3, because: 'seldom' }],
    }))
    const likely = useLikely()
    const call = inHand()
    expect(likely.destinations).toEqual([])
    await settled()
    expect(likely.destinations.map(({ destination, tried }) => [destination, tried])).toEqual([['t2105', null], ['t2106', null]])
    await likely.take(0)
    const { exchange } = tried
    exchange.wait(20_000)
    useLive().state = exchange.state
    expect(exchange.call(call.id).recall).toMatchObject({ from: 't2105' })
    others({ service: 'answerCall', device: 't2100', call: call.id })
    const name = useDirectory().nameOf('t2105')
    expect(likely.destinations.map(({ destination, tried }) => [destination, tried])).toEqual([['t2106', null], ['t2105', `${name} did not answer, 4 rings`]])
  })

  it('whom the caller asks for is proposed first, with their words; who has only just come to a key is not who was meant by it', async () => {
    says.set('/api/callers', () => ({ place: '', kind: '', missed: 0, messages: [], likely: [{ destination: 't2106', chance: 0.3, because: 'seldom' }] }))
    const [likely, desk] = [useLikely(), useDesk()]
    const call = inHand()
    await settled()
    const before = likely.destinations.map(({ destination }) => destination)
    expect(before).toEqual(['t2106'])
    const name = useDirectory().nameOf('t2105')
    const says2105 = (text: string) => others({ service: 'sendUserInformation', device: call.calling, call: call.id, text })
    others({ service: 'sendUserInformation', device: 't2100', call: call.id, text: `Did you ask for ${name}?` })
    says2105('Good morning. It is a long story.')
    await settled()
    expect(likely.destinations.map(({ destination }) => destination)).toEqual(before)
    says2105(`Could I speak to ${name}, please?`)
    await vi.waitFor(() => expect(likely.destinations.map(({ destination, because }) => [destination, say(because)])).toEqual([
      ['t2105', `said: ${name}`], ['t2106', 'seldom'],
    ]))
    server.mockClear()
    await likely.take(0)
    expect(desk.notice).toBe(`${name} has come to this key only now. Nothing was done: press again if it is for them.`)
    expect(server).not.toHaveBeenCalled()
    await vi.waitFor(() => expect(desk.said.map(({ text }) => text)).toContain(`“${name}”: probably for ${name}, right arrow`), { timeout: 10_000 })
    const clock = vi.spyOn(performance, 'now').mockReturnValue(performance.now() + 1_001)
    await likely.take(0)
    clock.mockRestore()
    expect(tried.exchange.call(call.id).passing).toMatchObject({ to: 't2105' })

    // Who has let them ring in vain stays first: the caller wants nobody else, and hears again by which key, and what stands against it.
    tried.exchange.wait(20_000)
    useLive().state = tried.exchange.state
    others({ service: 'answerCall', device: 't2100', call: call.id })
    says2105(`Is ${name} back, perhaps?`)
    const since = `“${name}”: probably for ${name}, right arrow: ${name} did not answer, 4 rings`
    await vi.waitFor(() => expect(desk.said.map(({ text }) => text)).toContain(since), { timeout: 10_000 })
    expect(likely.destinations.map(({ destination }) => destination)).toEqual(['t2105', 't2106'])
  })

  it('says by which key the one leads whom a caller asks for, and that they talk; nobody is put through to themselves', async () => {
    const { state } = tried.exchange
    const mobile = Object.values(state.company.people).find(({ id, mobile }) =>
      mobile && ['t2100', 't2106'].every(telephone => state.company.telephones[telephone]!.person !== id))!
    const own = Object.values(state.company.telephones).find(({ person }) => person === mobile.id)!.id
    says.set('/api/callers', () => ({
      place: '', kind: '', missed: 0, messages: [],
      likely: [{ destination: own, chance: 0.6, because: 'mostly' }, { destination: 't2106', chance: 0.3, because: 'seldom' }],
    }))
    const [likely, desk] = [useLikely(), useDesk()]
    const call = inHand('t2100', { number: mobile.mobile!, name: null })
    await settled()
    expect(likely.destinations.map(({ destination }) => destination)).toEqual(['t2106'])
    const peer = { device: 't2107', party: null }
    useLive().presences.set('t2105', { kind: 'calling', lit: false, since: 0, until: null, reason: null, peer, way: 'out', on: null, to: null, place: '' })
    const name = useDirectory().nameOf('t2105')
    others({ service: 'sendUserInformation', device: call.calling, call: call.id, text: `${name}, please.` })
    const said = `“${name}”: probably for ${name}, right arrow: Calling`
    await vi.waitFor(() => expect(desk.said.map(({ text }) => text)).toContain(said), { timeout: 10_000 })
  })

  it('a line of text goes along once', async () => {
    const ways = useWays()
    inHand()
    ways.note = 'wants a cabin'
    await ways.perform(ways.to('t2105').find(({ id }) => id === 'passOn')!.deed)
    expect(server.mock.calls.at(-1)![1]!.body).toMatchObject({ note: 'wants a cabin' })
    expect(ways.note).toBe('')
  })

  it('open what they name', async () => {
    const ways = useWays()
    await ways.perform({ do: 'takeMessage', to: 't2105', call: null })
    await ways.perform({ do: 'sendDigits' })
    expect(useDialogs()).toMatchObject({ message: { to: 't2105', call: null }, digits: true })
  })

  it('ending a conversation takes a second press, within a few seconds', () => {
    vi.useFakeTimers()
    const ending = useEnding()
    const call = inHand()
    ending.end(call.id)
    expect(ending.asked).toBe(call.id)
    vi.advanceTimersByTime(3_100)
    expect(ending.asked).toBeNull()
    ending.end(call.id)
    expect(server).not.toHaveBeenCalled()
    ending.end(call.id)
    vi.useRealTimers()
    expect(ending.asked).toBeNull()
    return vi.waitFor(() => expect(server.mock.calls[0]![1]!.body).toMatchObject({ service: 'clearConnection', call: call.id }))
  })

  it('dragging says what dropping would do, and dropping nowhere puts the call back', async () => {
    const carrying = useCarrying()
    const call = inHand()
    const at = (target: string | null, x: number, shift = false) => ({ target, shift, x, y: 1 })
    carrying.begin(call.id)
    expect(carrying.words).toContain('Drop on a person')
    carrying.hover(at('t2105', 1, true))
    expect(carrying.words).toMatch(/^Dropping asks/)
    carrying.end(at(null, 2))
    expect(useDesk().carried).toBeNull()
    carrying.begin(call.id)
    carrying.end(at('t2105', 3))
    await vi.waitFor(() => expect(tried.exchange.call(call.id).passing?.to).toBe('t2105'))
  })

  it('what comes under a resting pointer by itself is not meant: nothing is done, and that is said', async () => {
    const carrying = useCarrying()
    const call = inHand()
    const at = (target: string | null, x: number) => ({ target, shift: false, x, y: 1 })
    carrying.begin(call.id)
    carrying.hover(at('t2105', 5))
    carrying.hover(at('t2106', 5))
    carrying.end(at('t2106', 5))
    expect(useDesk().notice).toMatch(/came under the pointer by itself\. Nothing was done\.$/)
    expect(server).not.toHaveBeenCalled()
    expect(useDesk().carried).toBeNull()
    // Also when it comes with the letting go; and meant it is once the hand has followed.
    carrying.begin(call.id)
    carrying.hover(at('t2105', 5))
    carrying.end(at('t2106', 5))
    expect(server).not.toHaveBeenCalled()
    carrying.begin(call.id)
    carrying.hover(at('t2105', 5))
    carrying.hover(at('t2106', 5))
    carrying.end(at('t2106', 6))
    await vi.waitFor(() => expect(tried.exchange.call(call.id).passing?.to).toBe('t2106'))
  })
})

describe('messages', () => {
  const message = {
    id: 'm',
    kind: 'text',
    to: 't2100',
    from: 'tomas',
    fromName: 'Tomas',
    caller: null,
    number: null,
    text: 'The lamps are here.',
    urgent: false,
    callBack: true,
    seconds: null,
    at: 1,
    readAt: null,
  }

  it('are fetched when there is news, counted until they are read, and say when they can\'t be had', async () => {
    const messages = useMessages()
    server.mockImplementation(async url => url === '/api/messages' ? { received: [message], written: [] } : { read: true })
    useLive().news.messages++
    await nextTick()
    await vi.waitFor(() => expect(messages.unread).toBe(1))
    await messages.read('m/1')
    expect(server.mock.calls.map(([url]) => url)).toContain('/api/messages/m%2F1/read')
    server.mockRejectedValue(refusal(503, 'The database does not answer.'))
    await messages.load()
    expect(messages.failure).toBe('The database does not answer.')
    expect(messages.received).toHaveLength(1)
  })
})

describe('how the console is set', () => {
  it('is here at once, sent once for all that changed, and sent with the next change when the server is away', async () => {
    const preferences = usePreferences()
    const sent: unknown[] = []
    server.mockImplementation(async (_url, options) => {
      sent.push(options!.body)
      if (sent.length === 1) throw refusal(503, 'The database is away.')
      return { kept: true }
    })
    preferences.set({ track: 300 })
    preferences.set({ density: 'rooms' })
    expect([preferences.track, preferences.density, preferences.panelShown]).toEqual([300, 'rooms', true])
    await vi.waitFor(() => expect(sent).toEqual([{ track: 300, density: 'rooms' }]), { timeout: 5_000 })
    preferences.set({ track: 320 })
    await vi.waitFor(() => expect(sent).toHaveLength(2), { timeout: 5_000 })
    expect(sent[1]).toEqual({ track: 320, density: 'rooms' })
    await preferences.flush()
    expect(sent).toHaveLength(2)
  })

  it('is what the server remembers, or as designed when it can\'t say', async () => {
    const preferences = usePreferences()
    server.mockRejectedValueOnce(refusal(503, 'The database is away.'))
    await preferences.recall()
    expect(preferences.density).toBe('names')
    server.mockResolvedValueOnce({ track: null, panel: 400, panelShown: false, density: 'windows', loudness: 'urgent' })
    await preferences.recall()
    expect(preferences).toMatchObject({ panel: 400, panelShown: false, density: 'windows', loudness: 'urgent' })
  })
})
