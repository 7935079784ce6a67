import { randomUUID } from 'node:crypto'
import { beforeEach, describe, expect, it } from 'vitest'
import { ownDatabase } from '../../tests/database/own'
import { insertRows } from '../database/rows'
import { addNote, handOver, markNote, readShift, sign } from './shift'

const own = ownDatabase()
const em = () => own.orm.em.fork()
const [ines, tomas] = [{ signIn: 'ines', name: 'Ines Quillfeather' }, { signIn: 'tomas', name: 'Tomas Arkwell' }]
const noon = Date.UTC(2031, 4, 12, 12)
const lines = ['line:general']
const minute = 60_000
const read = (person = ines, now = noon) => readShift(em(), person, lines, now)

beforeEach(async () => {
  for (const table of ['shift_note', 'call_record', 'message', 'dealt_with']) await own.sql(`delete from "${table}"`)
})

describe('notes for whoever comes next', () => {
  it('stand in their order until they are done; then who did them is told, and they can be opened again', async () => {
    await addNote(em(), ines, 'First\u0000', noon)
    await addNote(em(), tomas, 'Second', noon + minute)
    const { notes } = await read()
    expect(notes.map(({ text, byName, at, doneAt }) => [text, byName, at, doneAt])).toEqual([
      ['First', 'Ines Quillfeather', noon, null], ['Second', 'Tomas Arkwell', noon + minute, null],
    ])
    await markNote(em(), tomas, notes[0]!.id, true, noon + 2 * minute)
    await markNote(em(), ines, notes[0]!.id, true, noon + 3 * minute)
    expect((await read()).notes.map(({ text, doneAt, doneByName }) => [text, doneAt, doneByName])).toEqual([
      ['Second', null, null], ['First', noon + 2 * minute, 'Tomas Arkwell'],
    ])
    await markNote(em(), ines, notes[0]!.id, false, noon)
    expect((await read()).notes.map(({ text, doneAt }) => [text, doneAt])).toEqual([['First', null], ['Second', null]])
    await expect(markNote(em(), ines, randomUUID(), true, noon)).rejects.toMatchObject({ statusCode: 404 })
  })

  it('have words, and there are no more of them than anybody reads', async () => {
    await expect(addNote(em(), ines, ' \u0000 ', noon)).rejects.toMatchObject({ statusCode: 422 })
    for (let count = 0; count < 59; count++) await addNote(em(), ines, `Note ${count}`, noon)
    const both = await Promise.allSettled([addNote(em(), ines, 'The last', noon), addNote(em(), tomas, 'One too many', noon)])
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    const { notes } = await read()
    expect(notes).toHaveLength(60)
    await markNote(em(), ines, notes[0]!.id, true, noon)
    await addNote(em(), ines, 'There is room again', noon)
  })
})

it('what is still to do are missed calls of a day with which nobody has dealt, and what is unread at the lines', async () => {
  const call = (id: string, more: object = {}) => ({
    id, epoch: 'e', seq: 1, direction: 'inbound', dialled: '601', started_at: new Date(noon - minute), outcome: 'gaveUp', devices: [], names: {}, story: [],
    searchable: '', ...more,
  })
  const calls = [
    call('missed'), call('dealt'), call('answered', { outcome: 'answered' }), call('just', { started_at: new Date(noon - 24 * 60 * minute) }),
    call('old', { started_at: new Date(noon - 24 * 60 * minute - 1) }),
  ]
  await own.sql(insertRows('call_record', Object.keys(calls[0]!)), [JSON.stringify(calls)])
  await own.sql('insert into dealt_with (call, "by", by_name, at, called_back) values (\'dealt\', \'ines\', \'Ines\', now(), false)')
  for (const [to, readAt] of [['line:general', null], ['line:general', new Date(noon)], ['line:freight', null], ['t2100', null]] as const) {
    await own.sql(
      `insert into message (id, kind, "to", "from", from_name, text, urgent, call_back, at, read_at)
        values (?, 'text', ?, 'ines', '', '', false, false, now(), ?)`,
      [randomUUID(), to, readAt],
    )
  }
  const { missed, unread } = await read()
  expect([missed, unread]).toEqual([2, 1])
})

describe('a hand-over', () => {
  it('keeps what was open at that moment, and is signed once by whoever comes, not by who hands over', async () => {
    await addNote(em(), ines, 'Open', noon)
    await addNote(em(), ines, 'Done', noon)
    await markNote(em(), ines, (await read()).notes.find(({ text }) => text === 'Done')!.id, true, noon)
    const thing = { kind: 'parked' as const, who: 'Wren', words: 'in slot 1', since: noon }
    await handOver(em(), ines, 'All is <b>well</b>.', [thing], lines, noon + minute)
    await addNote(em(), ines, 'Later', noon)
    const [mine] = (await read()).handOvers
    expect(mine).toMatchObject({
      byName: 'Ines Quillfeather', own: true, at: noon + minute, words: 'All is <b>well</b>.', things: [thing], notes: ['Open'], missed: 0, unread: 0,
      seenByName: null, seenAt: null,
    })
    expect((await read(tomas)).handOvers[0]!.own).toBe(false)
    await expect(sign(em(), ines, mine!.id, noon)).rejects.toMatchObject({ statusCode: 409 })
    await sign(em(), tomas, mine!.id, noon + 2 * minute)
    await expect(sign(em(), { signIn: 'bryony', name: 'Bryony Lusk' }, mine!.id, noon)).rejects.toMatchObject({ statusCode: 409 })
    expect((await read()).handOvers[0]).toMatchObject({ seenByName: 'Tomas Arkwell', seenAt: noon + 2 * minute })
    await expect(sign(em(), tomas, randomUUID(), noon)).rejects.toMatchObject({ statusCode: 404 })
  })
})
