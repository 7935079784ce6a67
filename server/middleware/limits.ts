import type { IncomingMessage } from 'node:http'
import { longestFile as longestSound } from '~~/shared/own-sounds'
import { longestSpoken } from '~~/shared/spoken-names'
import { t } from '../language'

/** What is longer than this (bytes) is refused, and what takes longer (milliseconds) is not waited for, whatever its length is said to be. */
const longestBody = 100_000
/** Calendars, lists of who is where, contacts with their pictures, and companies. */
const longestFile = 3_500_000
/** By what is asked for; a sound has a name around it. */
const longestOf: [RegExp, number][] = [
  [/^\/api\/(calendars|occupants|contacts\/imports|company)(\/|$)/, longestFile], [/^\/api\/own-sounds\//, longestSound + 1_000],
  [/^\/api\/spoken-names$/, longestSpoken + 1_000],
]
const longestReading = 10_000
/** Bytes. Up to here the rest of a refused body is taken and thrown away: a connection that is closed with something unread takes the refusal with it. */
const longestThrownAway = 4 * 1024 * 1024
const lingering = 2_000

/** Nothing more is taken, and after a while the connection is closed: whoever still sends has had the time to read the refusal (RFC 9112, 9.6). */
function linger(request: IncomingMessage): void {
  request.removeAllListeners('data').pause()
  const closing = setTimeout(() => request.destroy(), lingering)
  request.once('close', () => clearTimeout(closing))
}

/** Reads the body of every request once, with a limit that holds for bodies without a length too; nothing personal is kept by anybody on the way. */
export default defineEventHandler(async (event) => {
  const longest = longestOf.find(([paths]) => paths.test(event.path))?.[1] ?? longestBody
  if (event.path.startsWith('/api/')) setHeader(event, 'cache-control', 'no-store')
  if (event.method === 'GET' || event.method === 'HEAD' || event.method === 'OPTIONS') return
  const request = event.node.req
  const parts: Buffer[] = []
  let size = 0
  const read = new Promise<'read' | 'tooLong' | 'late'>((resolve, reject) => {
    const late = setTimeout(() => resolve('late'), longestReading)
    request.on('data', (part: Buffer) => {
      size += part.length
      if (size > longestThrownAway) return linger(request)
      if (size <= longest) return parts.push(part)
      parts.length = 0
      resolve('tooLong')
    })
    request.once('end', () => resolve('read'))
    request.once('error', reject)
    request.once('close', () => clearTimeout(late))
  })
  const outcome = await read
  if (outcome === 'tooLong') throw createError({ statusCode: 413, message: t('answers.requestTooLong', { bytes: longest }) })
  if (outcome === 'late') {
    setHeader(event, 'connection', 'close')
    event.node.res.once('finish', () => request.destroy())
    throw createError({ statusCode: 408, message: t('answers.requestWithoutEnd') })
  }
  Object.assign(request, { rawBody: Buffer.concat(parts) })
})
