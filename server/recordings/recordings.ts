import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import type { InferType } from 'yup'
import { recordingPrefix } from '~~/core/calls/recording/recordings'
import { withoutMarks } from '~~/core/directory/folding'
import { sampleRate } from '~~/core/sound/frames'
import type { RecordingRow, RecordingsPage, recordingsQuery } from '~~/shared/recordings'
import { t } from '../language'

/** Recorded calls. Their sound stands in pieces beside that of mailboxes; a row here is there from the first piece on (`message-sound.ts`). */

/** A page of them, newest first. */
export async function readRecordings(em: EntityManager, { text, before, limit }: InferType<typeof recordingsQuery>): Promise<RecordingsPage> {
  const words = withoutMarks(text).split(/\s+/).filter(Boolean).map(word => `%${word.replace(/[\\%_]/g, '\\$&')}%`)
  const [, at, id] = /^(\d+)~(.+)$/.exec(before) ?? []
  const rows = await em.execute<RecordingRow[]>(
    `${select} where ${[...words.map(() => '(c.searchable like ? or lower(r.note) like ?)'), at === undefined ? 'true' : '(r.at, r.id) < (?, ?)'].join(' and ')}
    order by r.at desc, r.id desc limit ?`,
    [sampleRate, ...words.flatMap(word => [word, word]), ...at === undefined ? [] : [new Date(Number(at)), id], limit + 1],
  )
  const page = rows.slice(0, limit)
  const last = page.at(-1)
  return { rows: page, next: rows.length > limit && last ? `${last.at}~${last.id}` : null }
}

const select = `
  select r.id, r.call, floor(extract(epoch from r.at) * 1000)::float8 as at, r.note, n.name as "notedBy", coalesce(d.name, r.deleted_by) as "deletedBy",
    coalesce((select sum(octet_length(s.sound)) / ? from message_sound s where s.message = r.id), 0)::int as seconds,
    c.direction, c.number, c.name, c.line, coalesce(c.answered_by, c.ended_with) as "with", coalesce(c.names, '{}'::jsonb) as names
  from recording r left join call_record c on c.id = r.call left join account n on n.sign_in = r.noted_by left join account d on d.sign_in = r.deleted_by`

/** @throws 404; 409 when somebody else has written another note meanwhile */
export async function noteRecording(em: EntityManager, id: string, { note, before }: { note: string, before: string }, by: string): Promise<void> {
  const changed = await em.execute<object[]>(
    'update recording set note = ?, noted_by = ? where id = ? and note in (?, ?) and deleted_at is null returning 1', [note, by, id, before, note],
  )
  if (changed.length > 0) return
  const [there] = await em.execute<object[]>('select 1 from recording where id = ? and deleted_at is null', [id])
  if (!there) throw noSuchRecording()
  throw createError({ statusCode: 409, message: t('answers.otherNoteMeanwhile') })
}

/** Its sound goes for good; that it was, and who has deleted it, stays. @throws 404 */
export async function deleteRecording(orm: MikroORM, id: string, by: string): Promise<void> {
  await orm.em.fork().transactional(async (tx) => {
    const gone = 'update recording set deleted_at = now(), deleted_by = ? where id = ? and deleted_at is null returning 1'
    const deleted = await tx.execute<object[]>(gone, [by, id])
    if (deleted.length === 0) throw noSuchRecording()
    await tx.execute('delete from message_sound where message = ?', [id])
  })
}

export const noSuchRecording = () => createError({ statusCode: 404, message: t('answers.noSuchRecording') })

/** A recording is there from its first piece on, of two seconds. */
export const beginRecordings = `
  insert into recording (id, call, at)
  select message, substring(message from ${recordingPrefix.length + 1} for length(message) - ${recordingPrefix.length} - position(':' in reverse(message))),
    to_timestamp((min(place) - 2000) / 1000.0)
  from jsonb_to_recordset(?::jsonb) as p(message text, place bigint) where starts_with(message, '${recordingPrefix}') group by message on conflict do nothing`

/** Recordings that are older than the house keeps them. Their sound goes with what belongs to nothing any more. */
export const forgetRecordings = 'delete from recording where at < ?'
