import { type Changes, changesTo } from '~~/core/directory/changes'
import type { Preferred } from '~~/core/directory/preference'
import { Directory, type DirectoryEntry, type Hit } from '~~/core/directory/search'
import type { FromSearch, Port, ToSearch } from './searching'

/** So many are searched here, between two frames; more of them on a thread of their own, which builds its index without holding anything up. */
export const mostHere = 2_000
/** So many are told to that thread at once: telling fifty thousand in one message would hold the keyboard up. */
export const mostAtOnce = 1_000

/** Finds people among everybody who is known at the moment of asking. */
export class Finder {
  private known: ReadonlyMap<string, DirectoryEntry> = new Map()
  private latest: readonly DirectoryEntry[] = []
  private here: Directory | null = new Directory([])
  private beside: Port | null = null
  /** Whoever waits for an answer from beside, the first asked first. */
  private waiting: ((hits: Hit[] | null) => void)[] = []
  /** What it is still to be told, in order; whatever changes the index when it has taken in what came before. */
  private untold: ToSearch[] = []
  private isTaking = false

  /** @param besides makes a thread that searches, and says when it has died; null where there can be none */
  constructor(private besides: ((died: () => void) => Port) | null) {}

  /** Everybody, as they are now: only what has changed is taken in. */
  become(entries: readonly DirectoryEntry[]): void {
    if (entries === this.latest) return
    const changes = changesTo(this.known, entries)
    this.latest = entries
    this.known = new Map(entries.map(entry => [entry.id, entry]))
    if (!this.beside && this.besides && entries.length > mostHere) this.moveOut()
    else if (this.beside) this.tellChanges(changes)
    else this.here!.take(changes)
  }

  /** The best for what was typed: at once, or from beside a moment later. */
  search(text: string, limit: number, preferred: Preferred): Hit[] | Promise<Hit[]> {
    if (!this.beside) return this.searchHere(text, limit, preferred)
    this.tell({ type: 'search', text, limit, preferred })
    return new Promise((resolve) => {
      this.waiting.push(hits => resolve(hits ?? this.searchHere(text, limit, preferred)))
    })
  }

  private searchHere(text: string, limit: number, preferred: Preferred): Hit[] {
    return this.here!.search(text, limit, preferred)
  }

  private moveOut(): void {
    this.here = null
    this.beside = this.besides!(() => this.moveIn())
    this.beside.onmessage = ({ data }: MessageEvent<FromSearch>) => {
      if (data.type === 'found') this.waiting.shift()?.(data.hits)
      else {
        this.isTaking = false
        this.goOn()
      }
    }
    this.tellChanges({ put: [...this.latest], removed: [] })
  }

  /** The thread has died: whoever waits is answered from here, and so is whoever asks from now on. */
  private moveIn(): void {
    this.beside = null
    this.besides = null
    this.untold = []
    this.here = new Directory(this.latest)
    for (const answer of this.waiting.splice(0)) answer(null)
  }

  private tellChanges({ put, removed }: Changes): void {
    this.tell({ type: 'changed', changes: { put: put.slice(0, mostAtOnce), removed } })
    for (let at = mostAtOnce; at < put.length; at += mostAtOnce) this.tell({ type: 'changed', changes: { put: put.slice(at, at + mostAtOnce), removed: [] } })
  }

  private tell(message: ToSearch): void {
    this.untold.push(message)
    this.goOn()
  }

  private goOn(): void {
    while (!this.isTaking && this.untold.length > 0) {
      const message = this.untold.shift()!
      this.isTaking = message.type === 'changed'
      this.beside!.postMessage(message as never)
    }
  }
}

/** A thread of the browser that searches. */
export function searchingThread(died: () => void): Port {
  const worker = new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module' })
  worker.onerror = () => {
    worker.terminate()
    died()
  }
  return worker as Port
}
