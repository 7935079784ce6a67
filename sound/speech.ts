import { Worker } from 'node:worker_threads'
import type { Voice } from '../core/sound/voices'
import type { Speech } from './repertoire'
import type { Asked, Spoken } from './speech-thread'

/** So many sentences are kept: most are said again. */
const mostKept = 300
/** More that wait to be spoken are left out: they would come too late. */
const mostWaiting = 40

/** Speech by espeak-ng, made in a thread of its own: frames must not wait for it. */
export class SpokenByProgram implements Speech {
  private readonly thread: Worker
  private readonly waiting = new Map<number, (samples: Int16Array | null) => void>()
  private readonly kept = new Map<string, Int16Array>()
  private serial = 0
  private works = true

  /**
   * @param program the thread's (`speech-thread.ts`)
   * @param log is told once when the program is missing
   */
  constructor(program: URL, log: (text: string) => void) {
    this.thread = new Worker(program)
    this.thread.on('message', ({ id, samples, missing }: Spoken) => {
      if (missing && this.works) log('sound: espeak-ng is not installed: what made-up people say is read, and not heard')
      this.works = !missing
      this.waiting.get(id)?.(samples)
      this.waiting.delete(id)
    })
    this.thread.on('error', (error) => {
      log(`sound: nobody can speak any more: ${error.message}`)
      this.works = false
      for (const tell of this.waiting.values()) tell(null)
      this.waiting.clear()
    })
    this.thread.unref()
  }

  get isThere(): boolean {
    return this.works
  }

  async speak(text: string, voice: Voice): Promise<Int16Array | null> {
    const key = `${voice.kind} ${voice.pitch} ${voice.pace} ${text}`
    const known = this.kept.get(key)
    if (known) return known
    if (!this.works || this.waiting.size >= mostWaiting) return null
    const samples = await new Promise<Int16Array | null>((resolve) => {
      const id = ++this.serial
      this.waiting.set(id, resolve)
      this.thread.postMessage({ id, text, voice } satisfies Asked)
    })
    if (!samples) return null
    if (this.kept.size >= mostKept) this.kept.delete(this.kept.keys().next().value!)
    this.kept.set(key, samples)
    return samples
  }

  close(): void {
    void this.thread.terminate()
  }
}
