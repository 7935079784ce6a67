import type { MikroORM } from '@mikro-orm/postgresql'
import { type H3Event, setResponseHeader } from 'h3'
import wavefile from 'wavefile'
import { sampleRate } from '~~/core/sound/frames'
import { regretWithin } from '~~/shared/messages'
import { beginRecordings, forgetRecordings } from '../recordings/recordings'
import { briefly } from '../database/away'
import type { SoundPort } from '../sound-link/sound-process'

/** Milliseconds between two looks whether anything was said. */
const every = 1_000
const dayLong = 24 * 60 * 60_000
/** Pieces of which no message came, because it was too short, are let go after a day. */
const pieceStays = dayLong
const cleaning = 60 * 60_000

/**
 * Keeps what is said to mailboxes, and on recorded calls: fetched from the sound process piece by piece, while it is being said, and let go there once it is
 * written. Several servers may do it at once.
 */
export class MessageSound {
  private readonly looking: NodeJS.Timeout
  private busy = false
  private failing = false
  private cleaned = 0

  constructor(
    private readonly orm: MikroORM, private readonly sound: SoundPort, private readonly log: (text: string) => void,
    private readonly recordingDays: () => number,
  ) {
    this.looking = setInterval(() => void this.look(), every)
  }

  close(): void {
    clearInterval(this.looking)
  }

  /** Writes whatever was said until now. */
  async look(): Promise<void> {
    if (this.busy) return
    this.busy = true
    try {
      for (;;) {
        const pieces = await this.sound.pieces()
        if (pieces.length === 0) break
        await this.orm.em.fork().transactional(async (tx) => {
          await tx.execute(insertPieces, [JSON.stringify(pieces)])
          await tx.execute(beginRecordings, [JSON.stringify(pieces.map(({ message, place }) => ({ message, place })))])
          await tx.execute(tellReaders, [JSON.stringify(pieces.map(({ message }) => message))])
        })
        await this.sound.kept(pieces.map(({ place }) => place))
      }
      if (Date.now() - this.cleaned > cleaning) await this.clean()
      this.failing = false
    }
    catch (error) {
      if (!this.failing) this.log(`messages: what is said to mailboxes can't be written at the moment: ${briefly(error)}`)
      this.failing = true
    }
    finally {
      this.busy = false
    }
  }

  private async clean(): Promise<void> {
    const em = this.orm.em.fork()
    await em.execute(forgetRecordings, [new Date(Date.now() - this.recordingDays() * dayLong)])
    await em.execute(leftOver, [Date.now() - pieceStays, new Date(Date.now() - regretWithin)])
    this.cleaned = Date.now()
  }
}

/** The end of a message may come after its call is over: whoever reads it already hears of it. */
const tellReaders = `
  select pg_notify('messages', jsonb_agg(distinct "to")::text) from message where id in (select jsonb_array_elements_text(?::jsonb)) having count(*) > 0`

const leftOver = `
  delete from message_sound s where (place < ? and not exists (select 1 from message m where m.id = s.message)
      and not exists (select 1 from recording r where r.id = s.message and r.deleted_at is null))
    or exists (select 1 from message m where m.id = s.message and m.deleted_at < ?)`

const insertPieces = `
  insert into message_sound (message, place, sound)
  select message, place, decode(sound, 'base64') from jsonb_to_recordset(?::jsonb) as p(message text, place bigint, sound text) on conflict do nothing`

/** A message as WAV (16 bit, 8 kHz), or null when nothing of it was kept. */
export async function wavOf(orm: MikroORM, message: string): Promise<Uint8Array | null> {
  const pieces = await orm.em.fork().execute<{ sound: Buffer }[]>('select sound from message_sound where message = ? order by place', [message])
  return pieces.length === 0 ? null : wavFile(Buffer.concat(pieces.map(({ sound }) => sound)))
}

/** @param sound G.711 (µ-law); as WAV of 16 bit, 8 kHz */
export function wavFile(sound: Uint8Array): Uint8Array {
  const file = new wavefile.WaveFile()
  file.fromScratch(1, sampleRate, '8m', sound)
  file.fromMuLaw()
  return file.toBuffer()
}

/** What was said, as the answer to whoever asked: a file to keep, which nothing on its way keeps. */
export function asFile(event: H3Event, wav: Uint8Array, name: string): never {
  setResponseHeader(event, 'content-type', 'audio/wav')
  setResponseHeader(event, 'content-disposition', `attachment; filename="${name}"`)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return Buffer.from(wav) as never
}
