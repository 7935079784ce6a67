import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib'
import http from 'node:http'
import https from 'node:https'
import type { Readable } from 'node:stream'
import { useAgent } from 'request-filtering-agent'
import { t } from '../language'

/** Something outside could not be fetched. The message is a sentence. */
export class Unfetched extends Error {}

/** An address that can be asked: of the web, and one that can be read. */
export function isWebAddress(text: string): boolean {
  return /^https?:\/\/\S+$/i.test(text) && URL.canParse(text)
}

export interface Asked { method?: string, headers?: Record<string, string>, body?: string }
export interface Bounds {
  /** Origins of our own network that may be asked all the same, as "http://127.0.0.1:4711". */
  allowed: readonly string[]
  /** Ends the whole, however far it has come. */
  signal: AbortSignal
  /** Bytes of an answer, also when it comes packed. */
  largest: number
}
export interface Answered { status: number, headers: http.IncomingHttpHeaders, text: string }

/**
 * One request to another server, and its answer as text. No address of our own network is asked, however the name comes to it (the connection itself is
 * checked), except origins that the administrator has allowed. A redirect is an answer.
 * @throws Unfetched
 */
export async function askOutside(address: URL, { method = 'GET', headers = {}, body }: Asked, bounds: Bounds): Promise<Answered> {
  if (address.protocol !== 'http:' && address.protocol !== 'https:') throw new Unfetched(t('answers.noWebAddress'))
  const { allowed, signal, largest } = bounds
  const { request } = address.protocol === 'https:' ? https : http
  const agent = allowed.includes(address.origin) ? undefined : useAgent(address.href)
  const answer = await new Promise<http.IncomingMessage>((resolve, reject) => {
    try {
      request(address, { method, agent, signal, headers: { ...headers, 'accept-encoding': 'gzip, br, deflate' } }, resolve)
        .on('error', error => reject(unfetched(error, signal)))
        .end(body)
    }
    catch (error) {
      // A header or an address of which no request can be made.
      reject(unfetched(error as Error, signal))
    }
  })
  return { status: answer.statusCode ?? 0, headers: answer.headers, text: await textOf(answer, signal, largest) }
}

interface Fetched { method: string, headers: Record<string, string> | Headers, body?: unknown, signal?: AbortSignal }

/**
 * The same as a fetch (WHATWG), for libraries that ask by one.
 * @param longest milliseconds for the whole
 */
export function fetchOutside(allowed: readonly string[], longest: number, largest: number) {
  return async (address: string, asked: Fetched): Promise<Response> => {
    const { body } = asked
    const given: Record<string, string> = {}
    new Headers(asked.headers).forEach((value, name) => given[name] = value)
    const signal = AbortSignal.any([AbortSignal.timeout(longest), ...asked.signal ? [asked.signal] : []])
    const { status, headers, text } = await askOutside(
      new URL(address),
      {
        method: asked.method, headers: given,
        ...(typeof body === 'string' || body instanceof URLSearchParams) && { body: body.toString() },
      },
      { allowed, signal, largest },
    )
    const said = Object.entries(headers).flatMap(([name, value]): [string, string][] =>
      typeof value === 'string' && name !== 'content-encoding' ? [[name, value]] : [])
    return new Response(status === 204 || status === 304 ? null : text, { status, headers: said })
  }
}

function unfetched(error: Error, signal: AbortSignal): Unfetched {
  if (signal.aborted) return new Unfetched(t('answers.addressIsLate'))
  if (/is not allowed|private|forbidden/i.test(error.message)) return new Unfetched(t('answers.addressIsInside'))
  return new Unfetched(t('answers.addressNotReached', { code: (error as NodeJS.ErrnoException).code ?? '–' }))
}

async function textOf(answer: http.IncomingMessage, signal: AbortSignal, largest: number): Promise<string> {
  const parts: Buffer[] = []
  let size = 0
  try {
    for await (const part of unpacked(answer)) {
      size += (part as Buffer).length
      if (size > largest) throw new Unfetched(t('answers.answerTooLarge', { megabytes: largest / 1024 / 1024 }))
      parts.push(part as Buffer)
    }
  }
  catch (error) {
    answer.destroy()
    throw error instanceof Unfetched ? error : unfetched(error as Error, signal)
  }
  return Buffer.concat(parts).toString('utf8')
}

function unpacked(answer: http.IncomingMessage): Readable {
  const packing = answer.headers['content-encoding']
  const unpack = packing === 'gzip' ? createGunzip() : packing === 'br' ? createBrotliDecompress() : packing === 'deflate' ? createInflate() : null
  if (!unpack) return answer
  answer.once('error', error => unpack.destroy(error))
  return answer.pipe(unpack)
}
