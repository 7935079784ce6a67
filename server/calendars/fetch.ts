import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib'
import http from 'node:http'
import https from 'node:https'
import type { Readable } from 'node:stream'
import { useAgent } from 'request-filtering-agent'

/** A calendar that could not be fetched. The message is a sentence. */
export class Unfetched extends Error {}

/** Milliseconds for everything together, and bytes, also when it comes packed. */
const longestFetch = 10_000
export const largestCalendar = 2 * 1024 * 1024
const mostRedirects = 3

/**
 * The text at an address. No address of our own network is asked, however the name or a redirect comes to it (the connection itself is checked), except
 * origins that the administrator has allowed.
 * @param allowed origins, as "http://127.0.0.1:4711"
 * @throws Unfetched
 */
export async function fetchCalendar(address: string, allowed: readonly string[], patience = longestFetch): Promise<string> {
  const signal = AbortSignal.timeout(patience)
  let next = new URL(address)
  for (let redirects = 0; redirects <= mostRedirects; redirects++) {
    const answer = await ask(next, allowed, signal)
    const { statusCode = 0, headers } = answer
    if (statusCode >= 300 && statusCode < 400 && headers.location) {
      answer.destroy()
      if (!URL.canParse(headers.location, next)) throw new Unfetched('The address leads on to another that is none.')
      next = new URL(headers.location, next)
      continue
    }
    if (statusCode !== 200) {
      answer.destroy()
      throw new Unfetched(`The address answers with status ${statusCode} instead of a calendar.`)
    }
    return textOf(answer, signal)
  }
  throw new Unfetched(`The address leads on more than ${mostRedirects} times.`)
}

function ask(address: URL, allowed: readonly string[], signal: AbortSignal): Promise<http.IncomingMessage> {
  if (address.protocol !== 'http:' && address.protocol !== 'https:') throw new Unfetched('The address must begin with https:// or http://.')
  const { get } = address.protocol === 'https:' ? https : http
  const agent = allowed.includes(address.origin) ? undefined : useAgent(address.href)
  return new Promise((resolve, reject) => {
    get(address, { agent, signal, headers: { 'accept': 'text/calendar', 'accept-encoding': 'gzip, br, deflate' } }, resolve)
      .on('error', error => reject(unfetched(error, signal)))
  })
}

function unfetched(error: Error, signal: AbortSignal): Unfetched {
  if (signal.aborted) return new Unfetched('The address did not answer in time.')
  if (/is not allowed|private|forbidden/i.test(error.message)) return new Unfetched('The address lies in our own network, where no calendars may be fetched.')
  return new Unfetched(`The address can't be reached (${(error as NodeJS.ErrnoException).code ?? 'no connection'}).`)
}

async function textOf(answer: http.IncomingMessage, signal: AbortSignal): Promise<string> {
  const parts: Buffer[] = []
  let size = 0
  try {
    for await (const part of unpacked(answer)) {
      size += (part as Buffer).length
      if (size > largestCalendar) throw new Unfetched(`The calendar is larger than ${largestCalendar / 1024 / 1024} MB.`)
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
