import { randomUUID } from 'node:crypto'
import { Client } from 'pg'
import type { MikroORM } from '@mikro-orm/postgresql'
import type { Call, NumberedEvent } from '~~/core/calls/model'
import { isMailbox, ownerOfMailbox } from '~~/core/calls/names'
import { formatNumber } from '~~/core/numbers/dialled'
import type { Message } from '~~/shared/messages'
import { MessageEntity, type MessageRow } from '../database/entities'

const channel = 'messages'
const pause = 1_000
/** Shorter than this (milliseconds), nobody has said anything. */
const shortestMessage = 2_000

/** Keeps messages and tells everybody concerned, on every server beside this one, that there is news. */
export class Post {
  private closed = false
  private client: Client | null = null

  constructor(private readonly orm: MikroORM, private readonly databaseUrl: string, private readonly onNews: (concerned: string[]) => void, private readonly log: (text: string) => void) {
    void this.listen()
  }

  async close(): Promise<void> {
    this.closed = true
    await this.client?.end().catch(() => {})
  }

  async leave(message: Omit<MessageRow, 'id' | 'at' | 'readAt'>, at: Date, id: string = randomUUID()): Promise<void> {
    const em = this.orm.em.fork()
    await em.upsert(MessageEntity, { ...message, id, at, readAt: null }, { onConflictAction: 'ignore' })
    await this.tell([message.to, message.from])
  }

  /** Marks a message as read by who it is for. False when there is none such. */
  async read(id: string, readers: string[]): Promise<boolean> {
    const em = this.orm.em.fork()
    const message = await em.findOne(MessageEntity, { id, to: { $in: readers } })
    if (!message) return false
    if (!message.readAt) {
      message.readAt = new Date()
      await em.flush()
      await this.tell([message.to, message.from])
    }
    return true
  }

  /** The latest for the given mailboxes, and those that `writer` wrote (null: nobody asked for). */
  async find(mailboxes: string[], writer: string | null): Promise<{ received: Message[], written: Message[] }> {
    const em = this.orm.em.fork()
    const latest = { orderBy: { at: 'desc' as const }, limit: 100 }
    const received = await em.find(MessageEntity, { to: { $in: mailboxes } }, latest)
    const written = writer === null ? [] : await em.find(MessageEntity, { from: writer }, latest)
    return { received: received.map(shown), written: written.map(shown) }
  }

  /** What a caller said to a mailbox becomes a message when the call is over. The same end of the same call, told twice, is one message. */
  async recorded(event: NumberedEvent, before: Call): Promise<void> {
    const mailbox = before.connections.find(connection => isMailbox(connection.device))
    if (!mailbox || event.at - mailbox.since < shortestMessage) return
    const { party, caption } = before
    try {
      await this.leave({
        kind: 'voice',
        to: ownerOfMailbox(mailbox.device)!,
        from: '',
        fromName: '',
        caller: party?.name ?? (party?.number ? formatNumber(party.number) : null),
        number: party?.number ?? null,
        text: caption && caption.at >= mailbox.since ? caption.text : '',
        urgent: false,
        callBack: false,
        seconds: Math.round((event.at - mailbox.since) / 1_000),
      }, new Date(event.at), `voice-${before.id}-${mailbox.since}`)
    }
    catch (error) {
      this.log(`messages: a voice message of call ${before.id} was not kept: ${(error as Error).message}`)
    }
  }

  private async tell(concerned: string[]): Promise<void> {
    await this.orm.em.fork().execute(`select pg_notify('${channel}', ?)`, [JSON.stringify(concerned.filter(Boolean))])
  }

  private async listen(): Promise<void> {
    while (!this.closed) {
      const client = new Client({ connectionString: this.databaseUrl })
      this.client = client
      const ended = new Promise<void>((resolve) => {
        client.once('end', resolve)
        client.once('error', () => resolve())
      })
      try {
        await client.connect()
        client.on('notification', ({ payload }) => this.onNews(JSON.parse(payload ?? '[]') as string[]))
        await client.query(`listen ${channel}`)
        await ended
      }
      catch {
        // The database is away; the journal says so. Listening begins again when it is back.
      }
      if (!this.closed) await new Promise(resolve => setTimeout(resolve, pause))
    }
  }
}

function shown({ id, kind, to, from, fromName, caller, number, text, urgent, callBack, seconds, at, readAt }: MessageRow): Message {
  return {
    id, kind, to, from, fromName, text, urgent, callBack,
    caller: caller ?? null, number: number ?? null, seconds: seconds ?? null,
    at: at.getTime(), readAt: readAt?.getTime() ?? null,
  }
}
