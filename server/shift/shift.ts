import { randomUUID } from 'node:crypto'
import type { EntityManager } from '@mikro-orm/postgresql'
import { plainText } from '~~/core/calls/text'
import { missedOutcomes } from '~~/core/calls/record'
import type { OpenThing } from '~~/core/console/open-things'
import type { SignedIn } from '~~/shared/people'
import { longest } from '~~/shared/longest'
import type { Shift } from '~~/shared/shift'
import { inTurn } from '../database/turns'
import { wrongInput } from '../validation/read'
import { t } from '../language'

/** What is said from one shift to the next: notes, and hand-overs that whoever comes signs. A hand-over keeps what was open at that moment. */

const channel = 'shift'
const day = 24 * 60 * 60_000
/** So many hand-overs and notes that are done are shown. */
const shown = 12
/** More open notes than this nobody reads. */
const mostNotes = 60

type Person = Pick<SignedIn, 'signIn' | 'name'>
type Said = Pick<Shift['handOvers'][number], 'words' | 'things' | 'notes' | 'missed' | 'unread'>

export async function readShift(em: EntityManager, person: Person, lines: readonly string[], now: number): Promise<Shift> {
  const [notes, handOvers, counts] = [await notesOf(em), await handOversOf(em, person), await stillToDo(em, lines, now)]
  return { notes, handOvers, ...counts }
}

async function notesOf(em: EntityManager): Promise<Shift['notes']> {
  const rows = await em.execute<{ id: string, text: string, byName: string, at: Date, doneAt: Date | null, doneByName: string | null }[]>(`
    (select id, text, by_name as "byName", at, done_at as "doneAt", done_by_name as "doneByName" from shift_note where done_at is null order by at)
    union all
    (select id, text, by_name, at, done_at, done_by_name from shift_note where done_at is not null order by done_at desc limit ${shown})`)
  return rows.map(row => ({ ...row, at: new Date(row.at).getTime(), doneAt: row.doneAt && new Date(row.doneAt).getTime() }))
}

async function handOversOf(em: EntityManager, { signIn }: Person): Promise<Shift['handOvers']> {
  const rows = await em.execute<{ id: string, at: Date, by: string, byName: string, said: Said, seenAt: Date | null, seenByName: string | null }[]>(`
    select h.id, h.at, h.by, h.by_name as "byName", h.said, s.at as "seenAt", s.by_name as "seenByName"
    from hand_over h left join hand_over_seen s on s.hand_over = h.id order by h.at desc limit ${shown}`)
  return rows.map(({ id, at, by, byName, said, seenAt, seenByName }) => ({
    id, byName, own: by === signIn, at: new Date(at).getTime(), ...said, seenByName, seenAt: seenAt && new Date(seenAt).getTime(),
  }))
}

/** Missed calls of the last day with which nobody has dealt, and unread messages for the lines. */
async function stillToDo(em: EntityManager, lines: readonly string[], now: number): Promise<{ missed: number, unread: number }> {
  const [counts] = await em.execute<{ missed: number, unread: number }[]>(`
    select
      (select count(*)::int from call_record c where c.started_at >= ? and c.outcome in (${missedOutcomes.map(() => '?').join(', ')})
        and not exists (select 1 from dealt_with d where d.call = c.id)) as missed,
      (select count(*)::int from message where read_at is null and "to" in (select jsonb_array_elements_text(?::jsonb))) as unread`,
  [new Date(now - day), ...missedOutcomes, JSON.stringify(lines)])
  return counts!
}

/** @throws 422 without words, 409 when there are too many */
export async function addNote(em: EntityManager, person: Person, text: string, now: number): Promise<void> {
  const words = plainText(text, longest.shiftNote)
  if (!words) throw wrongInput('text', t('answers.textIsMissing'))
  await inTurn(em, channel, async (tx) => {
    const [{ count } = { count: 0 }] = await tx.execute<{ count: number }[]>('select count(*)::int as count from shift_note where done_at is null')
    if (count >= mostNotes) throw createError({ statusCode: 409, message: t('answers.tooManyNotes', { most: mostNotes }) })
    await tx.execute('insert into shift_note (id, text, "by", by_name, at) values (?, ?, ?, ?, ?)', [randomUUID(), words, person.signIn, person.name,
      new Date(now)])
    await tell(tx)
  })
}

/** @throws 404 */
export async function markNote(em: EntityManager, person: Person, id: string, done: boolean, now: number): Promise<void> {
  await em.transactional(async (tx) => {
    const marked = await tx.execute<unknown[]>(
      done
        ? 'update shift_note set done_at = coalesce(done_at, ?), done_by_name = coalesce(done_by_name, ?) where id = ? returning 1'
        : 'update shift_note set done_at = null, done_by_name = null where id = ? returning 1',
      done ? [new Date(now), person.name, id] : [id],
    )
    if (marked.length === 0) throw createError({ statusCode: 404, message: t('answers.noSuchNote') })
    await tell(tx)
  })
}

/** Somebody hands over: what is open at this moment is kept with what they say. */
export async function handOver(
  em: EntityManager, person: Person, words: string, things: OpenThing[], lines: readonly string[], now: number,
): Promise<void> {
  await em.transactional(async (tx) => {
    const notes = (await notesOf(tx)).filter(({ doneAt }) => doneAt === null).map(({ text }) => text)
    const said: Said = { words: plainText(words, longest.shiftNote), things, notes, ...await stillToDo(tx, lines, now) }
    await tx.execute('insert into hand_over (id, at, "by", by_name, said) values (?, ?, ?, ?, ?::jsonb)', [
      randomUUID(), new Date(now), person.signIn, person.name, JSON.stringify(said),
    ])
    await tell(tx)
  })
}

/** Whoever comes has seen it, and signs: once, and not who handed over. @throws 404, 409 */
export async function sign(em: EntityManager, person: Person, id: string, now: number): Promise<void> {
  await em.transactional(async (tx) => {
    const [row] = await tx.execute<{ by: string }[]>('select "by" from hand_over where id = ?', [id])
    if (!row) throw createError({ statusCode: 404, message: t('answers.noSuchHandOver') })
    if (row.by === person.signIn) throw createError({ statusCode: 409, message: t('answers.ownHandOver') })
    const signed = await tx.execute<unknown[]>(
      'insert into hand_over_seen (hand_over, at, "by", by_name) values (?, ?, ?, ?) on conflict do nothing returning 1',
      [id, new Date(now), person.signIn, person.name],
    )
    if (signed.length === 0) throw createError({ statusCode: 409, message: t('answers.handOverIsSigned') })
    await tell(tx)
  })
}

async function tell(tx: EntityManager): Promise<void> {
  await tx.execute(`select pg_notify('${channel}', '')`)
}
