import { describe, expect, it } from 'vitest'
import { ownDatabase } from '../../tests/database/own'
import { MessageBox } from './messages'

const own = ownDatabase()
const at = new Date('2031-05-12T09:00:00Z')

/** A box, and whom it told that there is news. */
async function box(): Promise<{ box: MessageBox, told: string[][] }> {
  const told: string[][] = []
  await own.sql('delete from message')
  const hearers: ((payload: string) => void)[] = []
  const made = new MessageBox(own.orm, { on: (_channel: string, hear: (payload: string) => void) => void hearers.push(hear) } as never, who => told.push(who))
  for (const hear of hearers) hear('["t2100","ines"]')
  return { box: made, told }
}

const message = {
  kind: 'text' as const, to: 't2105', from: 'ines', fromName: 'Ines Quillfeather', caller: 'Wren', number: '+447700900123', text: 'Please ring.', urgent: false,
  callBack: true, seconds: null,
}

describe('messages', () => {
  it('are found by who they are for and by who wrote them, and by nobody else', async () => {
    const { box: messages } = await box()
    await messages.leave(message, at)
    await messages.leave({ ...message, to: 't2106', from: 'tomas', text: 'Another.' }, new Date(at.getTime() + 1_000))
    const texts = async (...asked: Parameters<MessageBox['find']>) => {
      const { received, written } = await messages.find(...asked)
      return [received.map(({ text }) => text), written.map(({ text }) => text)]
    }
    expect(await texts(['t2105'], 'tomas')).toEqual([['Please ring.'], ['Another.']])
    expect(await texts(['t2105', 't2106'], null)).toEqual([['Another.', 'Please ring.'], []])
    expect(await texts(['t2107'], 'staff')).toEqual([[], []])
    expect(await texts([], null)).toEqual([[], []])
    const { received: [one] } = await messages.find(['t2105'], null)
    expect(one).toEqual({
      ...message, id: one!.id, sound: false, at: at.getTime(), readAt: null, deletedAt: null, passedOn: null, passedOnBy: null, dealtBy: null, dealtAt: null,
    })
  })

  it('say of voice messages whether they can be heard, and whose they are', async () => {
    const { box: messages } = await box()
    await messages.leave({ ...message, kind: 'voice', from: '' }, at)
    await messages.leave({ ...message, kind: 'voice', from: '', text: 'Heard.' }, new Date(at.getTime() + 1))
    const [heard, unheard] = (await messages.find(['t2105'], null)).received
    await own.sql('insert into message_sound (message, place, sound) values (?, 1, \'x\')', [heard!.id])
    expect((await messages.find(['t2105'], null)).received.map(({ text, sound }) => [text, sound])).toEqual([['Heard.', true], ['Please ring.', false]])
    expect([await messages.isFor(heard!.id, ['t2106', 't2105']), await messages.isFor(unheard!.id, ['t2106']), await messages.isFor('none', ['t2105'])])
      .toEqual([true, false, false])
  })

  it('are passed on by whoever they are for, with sound and word: there once however often, and as new', async () => {
    const { box: messages } = await box()
    await messages.leave({ ...message, kind: 'voice', from: '', seconds: 7 }, at)
    const { received: [{ id } = { id: '' }] } = await messages.find(['t2105'], null)
    await own.sql('insert into message_sound (message, place, sound) values (?, 1, \'heard\')', [id])
    const by = { signIn: 'dagny', name: 'Dagny Netherby' }
    const [first, second] = [new Date(at.getTime() + 1_000), new Date(at.getTime() + 2_000)]
    expect(await messages.passOn(id, ['t2107'], { to: 't2106', word: 'Yours?', by }, first)).toBe(false)
    expect((await messages.find(['t2106'], null)).received).toEqual([])
    expect(await messages.passOn(id, ['t2105'], { to: 't2106', word: 'Yours?', by }, first)).toBe(true)
    const there = async () => (await messages.find(['t2106'], 'dagny')).received
    const [copy] = await there()
    expect(copy).toMatchObject({
      kind: 'voice', to: 't2106', from: 'dagny', caller: 'Wren', text: 'Please ring.', sound: true,
      readAt: null, passedOn: 'Yours?', passedOnBy: 'Dagny Netherby',
    })
    expect((await messages.find(['t2106'], 'dagny')).written.map(({ id }) => id)).toEqual([copy!.id])
    expect((await messages.find(['t2105'], null)).received.map(({ readAt }) => readAt)).toEqual([+first])
    await messages.delete(copy!.id, ['t2106'], first)
    expect(await messages.passOn(id, ['t2105'], { to: 't2106', word: '', by }, second)).toBe(true)
    expect((await there()).map(({ id, at, readAt, deletedAt, passedOn }) => [id, at, readAt, deletedAt, passedOn]))
      .toEqual([[copy!.id, +second, null, null, '']])
    expect(await messages.passOn(id, ['t2105'], { to: 't2107', word: '', by }, second)).toBe(true)
    expect((await own.sql('select distinct message from message_sound where sound = \'heard\'')).length).toBe(3)
  })

  it('are deleted by whoever they are for alone, count as read then, and are brought back within a day', async () => {
    const { box: messages } = await box()
    await messages.leave(message, at)
    const { received: [{ id } = { id: '' }] } = await messages.find(['t2105'], null)
    const now = Date.now()
    const deleted = async () => (await messages.find(['t2105'], null)).received.map(({ deletedAt, readAt }) => [deletedAt, readAt])
    expect(await messages.delete(id, ['t2106'], new Date(now))).toBe(false)
    expect(await messages.delete(id, ['t2105'], new Date(now))).toBe(true)
    expect(await messages.delete(id, ['t2105'], new Date(now + 5_000)), 'again').toBe(true)
    expect(await deleted()).toEqual([[now, now]])
    expect(await messages.waiting()).toEqual([])
    expect(await messages.restore(id, ['t2106'])).toBe(false)
    expect(await messages.restore(id, ['t2105'])).toBe(true)
    expect(await deleted()).toEqual([[null, now]])

    await messages.delete(id, ['t2105'], new Date(now - 25 * 60 * 60_000))
    expect(await deleted()).toEqual([])
    expect([await messages.restore(id, ['t2105']), await messages.isFor(id, ['t2105'])]).toEqual([false, false])
  })

  it('of a mailbox of several say who has dealt with what: whoever was first, until nobody has after all', async () => {
    const { box: messages } = await box()
    await messages.leave({ ...message, to: 'group:freight' }, at)
    const { received: [{ id } = { id: '' }] } = await messages.find(['group:freight'], null)
    const state = async () => (await messages.find(['group:freight'], null)).received.map(({ dealtBy, dealtAt, readAt }) => [dealtBy, dealtAt, readAt])
    const later = new Date(at.getTime() + 60_000)
    expect(await messages.deal(id, ['t2105'], 'Dagny', at)).toBeUndefined()
    expect(await messages.deal(id, ['t2105', 'group:freight'], 'Dagny', at)).toBe('Dagny')
    expect(await messages.deal(id, ['group:freight'], 'Wren', later), 'the second').toBe('Dagny')
    expect(await messages.deal(id, ['group:freight'], 'Dagny', later), 'again').toBe('Dagny')
    expect(await state()).toEqual([['Dagny', +at, +at]])
    expect(await messages.deal(id, ['group:freight'], null, later)).toBeNull()
    expect(await state()).toEqual([[null, null, +at]])
    expect(await messages.deal(id, ['group:freight'], 'Wren', later)).toBe('Wren')
    expect(await state()).toEqual([['Wren', +later, +at]])
    await messages.deal(id, ['group:freight'], null, later)
    const names = ['Dagny', 'Wren', 'Odile', 'Ines']
    // Each has a connection of its own by then.
    await Promise.all(names.map(() => own.sql('select pg_sleep(0.1)')))
    const all = await Promise.all(names.map(name => messages.deal(id, ['group:freight'], name, later)))
    expect(new Set(all), 'at once: one of them, for all').toEqual(new Set([(await state())[0]![0]]))
  })

  it('are read by whoever they are for alone, and once', async () => {
    const { box: messages } = await box()
    await messages.leave(message, at)
    const { received: [{ id } = { id: '' }] } = await messages.find(['t2105'], null)
    expect(await messages.read(id, ['t2106'], at)).toBe(false)
    expect(await messages.read(id, [], at)).toBe(false)
    expect((await messages.find(['t2105'], null)).received[0]!.readAt).toBeNull()
    const later = new Date(at.getTime() + 60_000)
    expect(await messages.read(id, ['t2106', 't2105'], later)).toBe(true)
    expect(await messages.read(id, ['t2105'], new Date(later.getTime() + 60_000))).toBe(true)
    expect((await messages.find(['t2105'], null)).received[0]!.readAt, 'when it was read first').toBe(later.getTime())
    expect(await messages.read('11111111-1111-4111-8111-111111111111', ['t2105'], at)).toBe(false)
  })

  it('that wait are counted for each mailbox, by their kind', async () => {
    const { box: messages } = await box()
    await messages.leave(message, at)
    await messages.leave({ ...message, kind: 'voice', seconds: 12 }, at)
    await messages.leave({ ...message, kind: 'voice', seconds: 3 }, at)
    await messages.leave({ ...message, to: 'line:general' }, at)
    expect(await messages.waiting()).toEqual([{ at: 'line:general', text: 1, voice: 0 }, { at: 't2105', text: 1, voice: 2 }])
    const { received } = await messages.find(['t2105'], null)
    for (const { id } of received) await messages.read(id, ['t2105'], at)
    expect(await messages.waiting()).toEqual([{ at: 'line:general', text: 1, voice: 0 }])
  })

  it('are told to those whom they concern', async () => {
    const { told } = await box()
    expect(told).toEqual([['t2100', 'ines']])
  })
})
