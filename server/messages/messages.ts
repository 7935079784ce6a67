import { randomUUID } from 'node:crypto'
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import type { Message, Waiting } from '~~/shared/messages'
import { MessageEntity, type MessageRow } from '../database/entities'
import type { Notices } from '../database/notices'

const channel = 'messages'

/** Keeps messages and tells everybody concerned, on every server beside this one, that there is news. */
export class MessageBox {
  constructor(private readonly orm: MikroORM, notices: Notices, onNews: (concerned: string[]) => void) {
    notices.on(channel, payload => onNews(JSON.parse(payload || '[]') as string[]))
  }

  async leave(message: Omit<MessageRow, 'id' | 'at' | 'readAt'>, at: Date): Promise<void> {
    await this.orm.em.fork().transactional(async (tx) => {
      await tx.insert(MessageEntity, { ...message, id: randomUUID(), at, readAt: null })
      await tell(tx, [message.to, message.from])
    })
  }

  /** Marks a message as read by who it is for. False when there is none such. */
  async read(id: string, readers: string[], at: Date): Promise<boolean> {
    return this.orm.em.fork().transactional(async (tx) => {
      const message = await tx.findOne(MessageEntity, { id, to: { $in: readers } })
      if (!message) return false
      if (!message.readAt) {
        message.readAt = at
        await tell(tx, [message.to, message.from])
      }
      return true
    })
  }

  /** Whether there is such a message for one of these readers. */
  async isFor(id: string, readers: string[]): Promise<boolean> {
    return await this.orm.em.fork().count(MessageEntity, { id, to: { $in: readers } }) > 0
  }

  /** The latest for the given mailboxes, and those that `writer` wrote (null: nobody asked for). */
  async find(mailboxes: string[], writer: string | null): Promise<{ received: Message[], written: Message[] }> {
    const em = this.orm.em.fork()
    const latest = { orderBy: { at: 'desc' as const }, limit: 100 }
    const received = await em.find(MessageEntity, { to: { $in: mailboxes } }, latest)
    const written = writer === null ? [] : await em.find(MessageEntity, { from: writer }, latest)
    const voices = received.filter(({ kind }) => kind === 'voice').map(({ id }) => id)
    const heard = voices.length === 0 ? [] : await em.execute<{ id: string }[]>(withSound, [JSON.stringify(voices)])
    const sounds = new Set(heard.map(({ id }) => id))
    return { received: received.map(row => shown(row, sounds)), written: written.map(row => shown(row, sounds)) }
  }

  /** How many are unread in each mailbox; those without any are left out. */
  waiting(): Promise<Waiting> {
    return this.orm.em.fork().execute<Waiting>(`
      select "to" as "at", (count(*) filter (where kind = 'text'))::int as "text", (count(*) filter (where kind = 'voice'))::int as "voice"
      from message where read_at is null group by "to" order by "to"`)
  }
}

const withSound = `
  select id from jsonb_array_elements_text(?::jsonb) as asked(id) where exists (select 1 from message_sound where message = asked.id)`

/** Everybody hears of it when it is kept. */
async function tell(tx: EntityManager, concerned: string[]): Promise<void> {
  await tx.execute(`select pg_notify('${channel}', ?)`, [JSON.stringify(concerned.filter(Boolean))])
}

function shown(row: MessageRow, sounds: ReadonlySet<string>): Message {
  const { id, kind, to, from, fromName, caller, number, text, urgent, callBack, seconds, at, readAt } = row
  return {
    id, sound: sounds.has(id), kind, to, from, fromName, text, urgent, callBack,
    caller: caller ?? null, number: number ?? null, seconds: seconds ?? null,
    at: at.getTime(), readAt: readAt?.getTime() ?? null,
  }
}
