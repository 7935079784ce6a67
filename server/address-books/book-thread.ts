import { once } from 'node:events'
import { parentPort, workerData } from 'node:worker_threads'
import { cardsOf, contactOf, leftOut } from '../../core/formats/vcard'
import { wellFormed } from '../../core/calls/text'
import { Unfetched } from '../outside/ask'
import type { BookJob, FromBook, ReadCard } from './book-reader'
import { type BookCard, BookClient } from './carddav'

/** The thread's whole program: another server is asked, and what it answers is read, where it can be stopped, whatever it makes the reading do. */
const port = parentPort!
const { source, allowed, read } = workerData as BookJob
const tell = (message: FromBook) => port.postMessage(message)
/** The next part is asked for when the one before it is kept. */
const kept = async (message: FromBook) => {
  tell(message)
  await once(port, 'message')
}

async function work(): Promise<FromBook> {
  const client = new BookClient(source, allowed)
  if (!read) return { found: await client.find() }
  const token = await client.read(read.token, new Map(read.known), {
    changed: cards => kept({ changed: cards.map(readCard) }),
    gone: gone => kept({ gone }),
  })
  return { token }
}

function readCard({ href, etag, text }: BookCard): ReadCard {
  const [card] = cardsOf(wellFormed(text))
  const lines = card && 'lines' in card ? card.lines : []
  return { href, etag: wellFormed(etag), said: contactOf(lines, read!.home), lines, cut: leftOut(lines, read!.home) }
}

void work().catch((error: unknown): FromBook => ({ sentence: error instanceof Unfetched ? error.message : null })).then((last) => {
  tell(last)
  port.close()
})
