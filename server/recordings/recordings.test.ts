import { mulaw } from 'alawmulaw'
import { beforeEach, describe, expect, it } from 'vitest'
import { recordingsQuery } from '~~/shared/recordings'
import type { SoundPiece } from '~~/shared/sound'
import { ownDatabase } from '../../tests/database/own'
import { MessageSound, wavOf } from '../messages/message-sound'
import { noSound } from '../sound-link/sound-process'
import { deleteRecording, noteRecording, readRecordings } from './recordings'

const own = ownDatabase()
const now = Date.now()
const em = () => own.orm.em.fork()
const list = (query: object = {}) => readRecordings(em(), recordingsQuery.validateSync(query))

/** Writes pieces of a second each, as they come from the sound process. */
async function keep(pieces: [recording: string, place: number][], days = 90): Promise<void> {
  const sound = Buffer.from(mulaw.encode(new Int16Array(8_000).fill(1_000))).toString('base64')
  const waiting: SoundPiece[] = pieces.map(([message, place]) => ({ message, place, sound }))
  const keeper = new MessageSound(own.orm, {
    ...noSound, pieces: () => Promise.resolve(waiting.slice(0, 2)), kept: places => Promise.resolve(void waiting.splice(0, places.length)),
  }, () => {}, () => days)
  await keeper.look()
  keeper.close()
}

describe('recorded calls', () => {
  beforeEach(async () => {
    await own.sql('delete from recording')
    await own.sql('delete from message_sound')
  })

  it('are there from their first piece on, under the call that they are of, newest first, and as long as their pieces', async () => {
    const [odd, plain] = ['recording:odd:id-7:99', 'recording:day-1:5']
    await keep([[odd, now - 4_000], [plain, now], [odd, now - 3_000], [odd, now - 2_000]])
    const { rows, next } = await list()
    expect(rows.map(({ id, call, seconds, at }) => [id, call, seconds, at]))
      .toEqual([['recording:day-1:5', 'day-1', 1, now - 2_000], ['recording:odd:id-7:99', 'odd:id-7', 3, now - 6_000]])
    expect(next).toBeNull()
    expect((await wavOf(own.orm, 'recording:day-1:5'))!.length).toBe(44 + 16_000)
  })

  it('what is said to a mailbox is none', async () => {
    await keep([['voice-a-1-5', now], ['recordings:x:1', now]])
    expect((await list()).rows).toEqual([])
  })

  it('are read page by page, each once', async () => {
    await keep(Array.from({ length: 7 }, (_, at) => [`recording:day-${at}:1`, now + Math.floor(at / 2)] as [string, number]))
    const seen: string[] = []
    for (let before: string | null = ''; before !== null;) {
      const { rows, next }: Awaited<ReturnType<typeof list>> = await list({ limit: 2, before })
      seen.push(...rows.map(({ call }) => call))
      before = next
    }
    expect([seen.length, new Set(seen).size]).toEqual([7, 7])
    expect(seen[0]).toBe('day-6')
  })

  it('are found by their note, which two do not write over', async () => {
    await keep([['recording:day-1:5', now], ['recording:day-2:5', now + 1]])
    await noteRecording(em(), 'recording:day-1:5', { note: 'Damage 50%_of a Lorry', before: '' }, 'ines')
    expect((await list({ text: 'lorry 50%_' })).rows.map(({ call }) => call)).toEqual(['day-1'])
    expect((await list({ text: 'lorry ship' })).rows).toEqual([])
    await expect(noteRecording(em(), 'recording:day-1:5', { note: 'Other', before: '' }, 'tomas')).rejects.toMatchObject({ statusCode: 409 })
    // The same again is no second write.
    await noteRecording(em(), 'recording:day-1:5', { note: 'Damage 50%_of a Lorry', before: '' }, 'ines')
    await expect(noteRecording(em(), 'recording:none:5', { note: 'x', before: '' }, 'tomas')).rejects.toMatchObject({ statusCode: 404 })
  })

  it('are deleted with their sound for good: that they were, and by whom, stays', async () => {
    await keep([['recording:day-1:5', now], ['recording:day-2:5', now + 1]])
    await deleteRecording(own.orm, 'recording:day-1:5', 'bryony')
    expect(await wavOf(own.orm, 'recording:day-1:5')).toBeNull()
    expect((await list()).rows.map(({ call, deletedBy, seconds }) => [call, deletedBy, seconds])).toEqual([['day-2', null, 1], ['day-1', 'Bryony Lusk', 0]])
    await expect(deleteRecording(own.orm, 'recording:day-1:5', 'ines')).rejects.toMatchObject({ statusCode: 404 })
    await expect(noteRecording(em(), 'recording:day-1:5', { note: 'x', before: '' }, 'tomas')).rejects.toMatchObject({ statusCode: 404 })
  })

  it('go by themselves after as many days as the house says, with their sound, and not before', async () => {
    const day = 24 * 60 * 60_000
    await keep([['recording:old:5', now - 31 * day], ['recording:young:5', now - 29 * day]], 30)
    await keep([], 30)
    expect((await list()).rows.map(({ call }) => call)).toEqual(['young'])
    expect([await wavOf(own.orm, 'recording:old:5'), await wavOf(own.orm, 'recording:young:5') === null]).toEqual([null, false])
  })
})
