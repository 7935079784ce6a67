import { Worker } from 'node:worker_threads'
import { phrase, type Phrase } from '~~/words/phrase'
import { Unreadable } from '~~/core/schema/faults'
import type { Occurrence } from '~~/core/calendar/occurrences'

export interface ReadingJob {
  id: number
  text: string
  /** Also what events are called. */
  titles: boolean
  window: { from: number, to: number }
  zone: string
}

export interface ReadingResult {
  id: number
  /** The calendar with times and places alone, what takes place within the window, and what could not be read. */
  content?: string
  occurrences?: Occurrence[]
  problems?: Phrase[]
  /** Why it is no calendar. */
  fault?: Phrase
}

export type Read = Required<Omit<ReadingResult, 'id' | 'fault'>>

/** Milliseconds. A rule can repeat for ever without ever taking place. */
const longestReading = 5_000
const mostMegabytes = 256

/**
 * Reads calendars one at a time, on a thread of its own that is ended when one takes too long. Whoever has given many takes turns with everybody else: each of
 * the others waits for one of theirs at most.
 */
export class CalendarReader {
  private worker: Worker | null = null
  private serial = 0
  private reading = false
  /** What waits, by who has given it; whose turn it is stands first. */
  private readonly waiting = new Map<string, (() => Promise<void>)[]>()

  /** @param program the thread's program, as one text */
  constructor(private readonly program: string) {}

  /**
   * @param by who has given it
   * @throws Unreadable
   */
  read(by: string, job: Omit<ReadingJob, 'id'>): Promise<Read> {
    return new Promise((resolve, reject) => {
      const theirs = this.waiting.get(by) ?? []
      theirs.push(() => this.readNow({ ...job, id: ++this.serial }).then(resolve, reject))
      this.waiting.set(by, theirs)
      if (!this.reading) void this.readAll()
    })
  }

  private async readAll(): Promise<void> {
    this.reading = true
    for (let [turn] = this.waiting; turn; [turn] = this.waiting) {
      const [by, theirs] = turn
      const next = theirs.shift()!
      this.waiting.delete(by)
      // Behind everybody else who waits.
      if (theirs.length > 0) this.waiting.set(by, theirs)
      await next()
    }
    this.reading = false
  }

  close(): void {
    void this.worker?.terminate()
    this.worker = null
  }

  private readNow(job: ReadingJob): Promise<Read> {
    return new Promise((resolve, reject) => {
      const worker = this.worker ??= new Worker(this.program, { eval: true, resourceLimits: { maxOldGenerationSizeMb: mostMegabytes } }).setMaxListeners(0)
      worker.unref()
      const end = (fault: Phrase) => {
        finish()
        this.close()
        reject(new Unreadable(fault))
      }
      const late = setTimeout(() => end(phrase('calendar.takesTooLong')), longestReading)
      const gone = () => end(phrase('calendar.unreadable'))
      const heard = ({ id, content, occurrences, problems, fault }: ReadingResult) => {
        if (id !== job.id) return
        finish()
        if (content !== undefined && occurrences && problems) resolve({ content, occurrences, problems })
        else reject(new Unreadable(fault ?? phrase('calendar.unreadable')))
      }
      function finish(): void {
        clearTimeout(late)
        worker.off('message', heard).off('error', gone).off('exit', gone)
      }
      worker.on('message', heard).on('error', gone).on('exit', gone)
      worker.postMessage(job)
    })
  }
}
