import type { Changes } from '~~/core/directory/changes'
import type { Preferred } from '~~/core/directory/preference'
import { Directory, type Hit } from '~~/core/directory/search'

/** What is told to a search that goes on beside the interface, and what it answers: questions in the order in which they were asked. */
export type ToSearch = { type: 'changed', changes: Changes } | { type: 'search', text: string, limit: number, preferred: Preferred }
export type FromSearch = { type: 'taken' } | { type: 'found', hits: Hit[] }

/** One end of a channel between two threads. */
export interface Port {
  postMessage: (message: never) => void
  onmessage: ((event: MessageEvent) => void) | null
}

/** Searches for whoever is at the other end of a channel, in everybody they have told of. */
export function serveSearch(port: Port): void {
  const directory = new Directory([])
  const answer = (message: FromSearch) => port.postMessage(message as never)
  port.onmessage = ({ data }: MessageEvent<ToSearch>) => {
    if (data.type === 'changed') {
      directory.take(data.changes)
      answer({ type: 'taken' })
    }
    else answer({ type: 'found', hits: directory.search(data.text, data.limit, data.preferred) })
  }
}
