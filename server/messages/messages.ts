import { createHash, randomUUID } from 'node:crypto'
import { type EntityManager, LockMode, type MikroORM } from '@mikro-orm/postgresql'
import { sampleRate } from '~~/core/sound/frames'
import { type Message, regretWithin, type Waiting } from '~~/shared/messages'
import { MessageEntity, type MessageRow } from '../database/entities'
import type { Notices } from '../database/notices'

const channel = 'messages'

/** What nobody has done with a message yet. */
const untouched = { readAt: null, deletedAt: null, passedOn: null, passedOnBy: null, dealtBy: null, dealtAt: null }

interface Heard { id: string, seconds: number }

/** Keeps messages and tells everybody concerned, on every server beside this one, that there is news. */
export class MessageBox {
  constructor(private readonly orm: MikroORM, notices: Notices, onNews: (concerned: string[]) => void) {
    notices.on(channel, payload => onNews(JSON.parse(payload || '[]') as string[]))
  }

  async leave(message: Omit<MessageRow, 'id' | 'at' | keyof typeof untouched>, at: Date): Promise<void> {
    await this.orm.em.fork().transactional(async (tx) => {
      await tx.insert(MessageEntity, { ...message, ...untouched, id: randomUUID(), at })
      await tell(tx, [message.to, message.from])
    })
  }

  /** Marks a message as read by who it is for. False when there is none such. */
  read(id: string, readers: string[], at: Date): Promise<boolean> {
    return this.change(id, readers, message => message.readAt === null && { readAt: at })
  }

  /** Whoever has deleted one has seen it. False when there is none such. */
  delete(id: string, readers: string[], at: Date): Promise<boolean> {
    return this.change(id, readers, message => message.deletedAt === null && { readAt: message.readAt ?? at, deletedAt: at })
  }

  /** False when there is none such, or none that can still be brought back. */
  restore(id: string, readers: string[]): Promise<boolean> {
    return this.change(id, readers, message => message.deletedAt !== null && { deletedAt: null })
  }

  /**
   * Says who has dealt with what it is about, for everybody who reads that mailbox, or (null) that nobody has after all. Whoever was first stays named: the
   * answer is who has dealt with it, null for nobody; undefined when there is no such message.
   */
  async deal(id: string, readers: string[], by: string | null, at: Date): Promise<string | null | undefined> {
    let dealtBy: string | null = null
    const found = await this.change(id, readers, (message) => {
      dealtBy = by === null ? null : message.dealtBy ?? by
      return dealtBy !== message.dealtBy && { dealtBy, dealtAt: by === null ? null : at, ...by !== null && { readAt: message.readAt ?? at } }
    })
    return found ? dealtBy : undefined
  }

  /**
   * Somebody else has it as well from now on, with its sound, and whoever passes it on has seen it. Passed on to the same one again, it is there once, as new.
   * False when there is none such.
   */
  passOn(id: string, readers: string[], { to, word, by }: { to: string, word: string, by: { signIn: string, name: string } }, at: Date): Promise<boolean> {
    return this.orm.em.fork().transactional(async (tx) => {
      const message = await tx.findOne(MessageEntity, { id, to: { $in: readers }, ...seen() })
      if (!message) return false
      const { kind, fromName, caller, number, text, urgent, callBack, seconds } = message
      const copy = createHash('sha256').update(JSON.stringify([id, to])).digest('hex').slice(0, 32)
      await tx.upsert(MessageEntity, {
        id: copy, kind, to, from: by.signIn, fromName, caller, number, text, urgent, callBack, seconds, at,
        ...untouched, passedOn: word, passedOnBy: by.name,
      })
      await tx.execute(copySound, [copy, id])
      message.readAt ??= at
      await tell(tx, [message.to, to, message.from, by.signIn])
      return true
    })
  }

  private change(id: string, readers: string[], to: (message: MessageRow) => Partial<MessageRow> | false): Promise<boolean> {
    return this.orm.em.fork().transactional(async (tx) => {
      // Two who do something with it at once do it one after the other.
      const message = await tx.findOne(MessageEntity, { id, to: { $in: readers }, ...seen() }, { lockMode: LockMode.PESSIMISTIC_WRITE })
      if (!message) return false
      const changes = to(message)
      if (changes) {
        Object.assign(message, changes)
        await tell(tx, [message.to, message.from])
      }
      return true
    })
  }

  /** Whether there is such a message for one of these readers. */
  async isFor(id: string, readers: string[]): Promise<boolean> {
    return await this.orm.em.fork().count(MessageEntity, { id, to: { $in: readers }, ...seen() }) > 0
  }

  /** The latest for the given mailboxes, and those that `writer` wrote (null: nobody asked for). */
  async find(mailboxes: string[], writer: string | null): Promise<{ received: Message[], written: Message[] }> {
    const em = this.orm.em.fork()
    const latest = { orderBy: { at: 'desc' as const }, limit: 100 }
    const received = await em.find(MessageEntity, { to: { $in: mailboxes }, ...seen() }, latest)
    const written = writer === null ? [] : await em.find(MessageEntity, { from: writer }, latest)
    const voices = received.filter(({ kind }) => kind === 'voice').map(({ id }) => id)
    const heard = voices.length === 0 ? [] : await em.execute<Heard[]>(withSound, [sampleRate, JSON.stringify(voices)])
    const sounds = new Map(heard.map(({ id, seconds }) => [id, seconds]))
    return { received: received.map(row => shown(row, sounds)), written: written.map(row => shown(row, sounds)) }
  }

  /** How many are unread in each mailbox; those without any are left out. */
  waiting(): Promise<Waiting> {
    return this.orm.em.fork().execute<Waiting>(`
      select "to" as "at", (count(*) filter (where kind = 'text'))::int as "text", (count(*) filter (where kind = 'voice'))::int as "voice"
      from message where read_at is null group by "to" order by "to"`)
  }
}

/** What was left in a mailbox is read by others from now on. */
export async function moveMessages(tx: EntityManager, from: string, to: string): Promise<void> {
  if (await tx.nativeUpdate(MessageEntity, { to: from }, { to }) > 0) await tell(tx, [from, to])
}

/** Those that are not deleted, or can still be brought back: by the clock of the machine, as their sound. */
const seen = () => ({ $or: [{ deletedAt: null }, { deletedAt: { $gt: new Date(Date.now() - regretWithin) } }] })

const copySound = `
  insert into message_sound (message, place, sound) select ?, place, sound from message_sound where message = ? on conflict do nothing`

const withSound = `
  select message as id, (sum(octet_length(sound)) / ?)::int as seconds from message_sound
  where message in (select jsonb_array_elements_text(?::jsonb)) group by message`

/** Everybody hears of it when it is kept. */
async function tell(tx: EntityManager, concerned: string[]): Promise<void> {
  await tx.execute(`select pg_notify('${channel}', ?)`, [JSON.stringify(concerned.filter(Boolean))])
}

function shown(row: MessageRow, sounds: ReadonlyMap<string, number>): Message {
  const { id, kind, to, from, fromName, caller, number, text, urgent, callBack, at, readAt, deletedAt, passedOn, passedOnBy, dealtBy, dealtAt } = row
  // Its greeting is no part of what was said.
  const seconds = sounds.get(id) ?? row.seconds
  return {
    id, sound: sounds.has(id), kind, to, from, fromName, text, urgent, callBack,
    caller: caller ?? null, number: number ?? null, seconds: seconds ?? null,
    at: at.getTime(), readAt: readAt?.getTime() ?? null, deletedAt: deletedAt?.getTime() ?? null,
    passedOn: passedOn ?? null, passedOnBy: passedOnBy ?? null, dealtBy: dealtBy ?? null, dealtAt: dealtAt?.getTime() ?? null,
  }
}
