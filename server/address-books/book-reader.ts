import { Worker } from 'node:worker_threads'
import type { CardContact } from '~~/core/formats/vcard'
import type { Home } from '~~/core/numbers/dialled'
import type { Phrase } from '~~/words/phrase'
import { Unfetched } from '../outside/ask'
import type { BookSource } from './carddav'
import { t } from '../language'

/** A card as it was read, and what of it is more than is kept. */
export interface ReadCard { href: string, etag: string, said: CardContact, lines: string[], cut: Phrase[] }

export interface BookJob {
  source: BookSource
  allowed: readonly string[]
  /** Without it, which book is meant is found out. */
  read: { token: string | null, known: [href: string, etag: string][], home: Home } | null
}

/** What comes from the thread: parts, each kept before the next, and at the end one of the others. */
export type FromBook
  = | { changed: ReadCard[] } | { gone: readonly string[] }
    | { found: string } | { token: string | null }
  /** Why it can't be read; null: for no reason that has words. */
    | { sentence: string | null }

/** What a reading brings, in parts as they come. */
export interface Keeping {
  changed: (cards: readonly ReadCard[]) => Promise<void>
  /** Once, at the end: what is no more. */
  gone: (hrefs: readonly string[]) => Promise<void>
}

/** Milliseconds and megabytes that the reading of one book may take. */
const longestReading = 250_000
const longestFinding = 30_000
const mostMegabytes = 512

/** Reads books, each on a thread of its own that is ended when it takes too long or too much: whatever another server answers, this one goes on. */
export class BookReader {
  private readonly workers = new Set<Worker>()

  /** @param program the thread's program, as one text; @param allowed origins of our own network that may be asked */
  constructor(private readonly program: string, private readonly allowed: readonly string[], private readonly patience = longestReading) {}

  close(): void {
    for (const worker of this.workers) void worker.terminate()
  }

  /**
   * The address of the one book that is meant by an address.
   * @throws Unfetched
   */
  async find(source: BookSource): Promise<string> {
    const last = await this.work({ source, allowed: this.allowed, read: null }, null, Math.min(longestFinding, this.patience))
    return 'found' in last ? last.found : ''
  }

  /**
   * Reads what has changed since the last time.
   * @returns the token for the next time; null when the server has none
   * @throws Unfetched, and whatever keeping it throws
   */
  async read(source: BookSource, read: NonNullable<BookJob['read']>, keeping: Keeping): Promise<string | null> {
    const last = await this.work({ source, allowed: this.allowed, read }, keeping, this.patience)
    return 'token' in last ? last.token : null
  }

  private work(job: BookJob, keeping: Keeping | null, patience: number): Promise<FromBook> {
    return new Promise((resolve, reject) => {
      const worker = new Worker(this.program, { eval: true, workerData: job, resourceLimits: { maxOldGenerationSizeMb: mostMegabytes } })
      worker.unref()
      this.workers.add(worker)
      const end = (error: unknown) => {
        reject(error as Error)
        void worker.terminate()
      }
      const late = setTimeout(() => end(new Unfetched(t('answers.bookTakesTooLong'))), patience)
      worker.on('message', (message: FromBook) => {
        if ('sentence' in message) return end(new Unfetched(message.sentence ?? t('answers.noAddressBook')))
        if (!('changed' in message) && !('gone' in message)) return resolve(message)
        const done = 'changed' in message ? keeping!.changed(message.changed) : keeping!.gone(message.gone)
        done.then(() => worker.postMessage('kept'), end)
      })
      worker.on('error', () => end(new Unfetched(t('answers.noAddressBook'))))
      worker.on('exit', () => {
        clearTimeout(late)
        this.workers.delete(worker)
        reject(new Unfetched(t('answers.noAddressBook')))
      })
    })
  }
}
