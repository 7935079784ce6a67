import { timingSafeEqual } from 'node:crypto'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { isOfSchema, sentenceOf } from '../core/schema/faults'
import { english } from '../words/english'
import { longestFile, soundGiven, soundsAtPlaces } from '../shared/own-sounds'
import { earOffer, endedSessions, keptPieces, mostPieces, type SoundHealth } from '../shared/sound'
import { endedTelephones, telephoneSound, type TelephoneWord } from '../shared/telephone-sound'
import { type Ears, NotUnderstood } from './ears'
import type { OwnSounds } from './own-sounds'
import type { Pieces } from './recorder'
import { NotAcceptable } from './telephone-end'
import type { Telephones } from './telephones'

/** Bytes: of what is said at these doors; of a list of sounds, or one of them. */
const longestBody = 64 * 1024
const longestOfSounds = 8 * longestFile

/**
 * The doors of this process, on loopback: a server asks here for an ear, says whose sessions are over, fetches what was said to mailboxes, and gives the sounds
 * that somebody has brought. Whoever does not know the token stays outside.
 */
export async function openDoors(
  ears: Ears, telephones: Telephones, pieces: Pieces, own: OwnSounds, health: () => SoundHealth, options: { port: number, token: string },
): Promise<{ port: number, server: Server }> {
  const server = createServer((request, response) => {
    const answer = (status: number, body: object) => {
      response.writeHead(status, { 'content-type': 'application/json' })
      response.end(JSON.stringify(body))
    }
    if (!knows(request, options.token)) return answer(401, { message: 'The token is not the one this process was started with.' })
    if (request.method === 'GET' && request.url === '/health') return answer(200, health())
    if (request.method === 'GET' && request.url === '/telephones') return tellOf(telephones, response)
    if (request.method === 'GET' && request.url === '/pieces') return answer(200, { pieces: pieces.oldest(mostPieces) })
    bodyOf(request, request.url?.startsWith('/sounds') ? longestOfSounds : longestBody).then(async (body) => {
      if (request.method === 'POST' && request.url === '/ears') return answer(200, { sdp: await ears.join(earOffer.validateSync(body)) })
      if (request.method === 'POST' && request.url === '/telephones') return answer(200, await telephones.describe(telephoneSound.validateSync(body)))
      if (request.method === 'POST' && request.url === '/telephones/over') telephones.end(endedTelephones.validateSync(body).sessions)
      else if (request.method === 'POST' && request.url === '/over') ears.end(endedSessions.validateSync(body).sessions)
      else if (request.method === 'POST' && request.url === '/sounds') return answer(200, { sounds: own.among(soundsAtPlaces.validateSync(body).sounds) })
      else if (request.method === 'POST' && request.url === '/sounds/given') {
        const { place, version, sound } = soundGiven.validateSync(body)
        own.take(place, version, Buffer.from(sound, 'base64'))
      }
      else if (request.method === 'POST' && request.url === '/pieces/kept') pieces.kept(keptPieces.validateSync(body).places)
      else return answer(404, { message: 'There is no such door.' })
      answer(200, {})
    }).catch((error: Error) => answer(isWrong(error) ? 422 : 503, { message: sentenceOf(english, error) }))
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(options.port, '127.0.0.1', resolve)
  })
  return { port: (server.address() as AddressInfo).port, server }
}

/** Says line by line what is heard from telephones, for as long as somebody listens: first whose sound there is. */
function tellOf(telephones: Telephones, response: ServerResponse): void {
  const say = (word: TelephoneWord) => response.write(`${JSON.stringify(word)}\n`)
  response.writeHead(200, { 'content-type': 'application/x-ndjson' })
  say({ sessions: telephones.sessions })
  response.once('close', telephones.onWord(say))
}

/** What was asked can't be read: it is wrong again however often it is asked. */
function isWrong(error: Error): boolean {
  return isOfSchema(error) || error instanceof SyntaxError || error instanceof NotUnderstood || error instanceof NotAcceptable
}

function knows({ headers }: IncomingMessage, token: string): boolean {
  const [given, wanted] = [Buffer.from(headers.authorization ?? ''), Buffer.from(`Bearer ${token}`)]
  return given.length === wanted.length && timingSafeEqual(given, wanted)
}

async function bodyOf(request: IncomingMessage, longest: number): Promise<unknown> {
  const parts: Buffer[] = []
  let size = 0
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length
    if (size > longest) throw new SyntaxError(`The body must have ${longest} bytes at most.`)
    parts.push(part)
  }
  return JSON.parse(Buffer.concat(parts).toString('utf8'))
}
