import { createServer, type RequestListener, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { gzipSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { Unfetched } from '../outside/ask'
import { fetchCalendar, largestCalendar } from './fetch'
import { threadProgram } from '../outside/program'
import { Unreadable } from '~~/core/schema/faults'
import { CalendarReader } from './reader'

const text = 'BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART:20261126T090000Z\r\nDURATION:PT1H\r\nRRULE:FREQ=DAILY\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n'

const since = 'Wed, 25 Nov 2026 09:00:00 GMT'

describe('fetching', () => {
  const servers: Server[] = []
  const serve = async (listener: RequestListener) => {
    const server = createServer(listener)
    servers.push(server)
    await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
    return `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  }
  let origin: string
  let other: string
  beforeAll(async () => {
    other = await serve((_, response) => response.end(text))
    origin = await serve(({ url, headers }, response) => {
      switch (url) {
        case '/good': return response.end(text)
        case '/packed': return response.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync(text))
        case '/known': {
          const has = headers['if-none-match'] === '"one"' || headers['if-modified-since'] === since
          return response.writeHead(has ? 304 : 200, { 'etag': '"one"', 'last-modified': since }).end(has ? undefined : text)
        }
        case '/always304': return response.writeHead(304).end()
        case '/bomb': return response.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync(Buffer.alloc(50 * 1024 * 1024, 'x')))
        case '/endless': return void endless(response)
        case '/silent': return undefined
        case '/halting': return void response.write('BEGIN:VCALENDAR')
        case '/private': return response.writeHead(302, { location: other }).end()
        case '/round': return response.writeHead(302, { location: '/round' }).end()
        case '/odd': return response.writeHead(302, { location: 'file:///etc/passwd' }).end()
        case '/cut': return response.writeHead(200, { 'content-length': 100 }).write('x', () => response.destroy())
        default: return response.writeHead(404).end()
      }
    })
    function endless(response: Parameters<RequestListener>[1]): void {
      while (response.write(Buffer.alloc(64 * 1024, 'x')));
      response.once('drain', () => endless(response))
    }
  })
  afterAll(() => {
    for (const server of servers) {
      server.close()
      server.closeAllConnections()
    }
  })

  test('plain and packed', async () => {
    for (const path of ['/good', '/packed']) expect((await fetchCalendar(origin + path, [origin])).text).toBe(text)
  })

  test('only what has changed is fetched again', async () => {
    const { text: first, validators } = await fetchCalendar(`${origin}/known`, [origin])
    expect([first, validators]).toEqual([text, { etag: '"one"', modified: since }])
    for (const known of [validators, { etag: null, modified: since }, { etag: '"one"', modified: null }])
      expect(await fetchCalendar(`${origin}/known`, [origin], known)).toEqual({ text: null, validators: known })
    expect((await fetchCalendar(`${origin}/known`, [origin], { etag: '"two"', modified: null })).text).toBe(text)
    // Nothing can be the same as what nobody knows.
    await expect(fetchCalendar(`${origin}/always304`, [origin])).rejects.toThrow(/status 304/)
  })

  test('what is too large, too slow, cut off, nowhere, or leads in a circle ends with a sentence', async () => {
    for (const [path, sentence] of [
      ['/endless', /larger than 4 MB/], ['/bomb', /larger than 4 MB/], ['/silent', /did not answer in time/], ['/halting', /did not answer in time/],
      ['/round', /leads on more than/], ['/odd', /must begin with https/], ['/cut', /can't be reached/], ['/nowhere', /status 404/],
    ] as const) {
      const patience = path === '/silent' || path === '/halting' ? 500 : 10_000
      const error = await fetchCalendar(origin + path, [origin], undefined, patience).catch((error: unknown) => error)
      expect(error, path).toBeInstanceOf(Unfetched)
      expect((error as Error).message, path).toMatch(sentence)
    }
    expect(largestCalendar).toBe(4 * 1024 * 1024)
  })

  test('nothing in our own network is asked, however one comes there', async () => {
    const port = new URL(other).port
    const ways = [[other, []], [`http://localhost:${port}/`, []], [`http://[::1]:${port}/`, []], [`http://0.0.0.0:${port}/`, []],
      [`http://2130706433:${port}/`, []],
      ['http://169.254.1.1/', []], ['http://10.1.2.3/', []], [`http://[::ffff:127.0.0.1]:${port}/`, []], [`${origin}/private`, [origin]]] as const
    for (const [address, allowed] of ways) await expect(fetchCalendar(address, allowed, undefined, 2_000), address).rejects.toThrow(/own network/)
  })
})

describe('reading on a thread', () => {
  const window = { from: Date.parse('2026-11-26T00:00Z'), to: Date.parse('2026-11-28T00:00Z') }
  let reader: CalendarReader
  beforeAll(async () => {
    reader = new CalendarReader(await threadProgram(new URL('./read-thread.ts', import.meta.url).pathname))
  })
  afterAll(() => reader.close())
  const read = (text: string) => reader.read('ines', { text, titles: false, window, zone: 'Europe/London' })

  test('what takes place, and why nothing can be read', async () => {
    expect((await read(text)).occurrences).toHaveLength(2)
    await expect(read('no calendar')).rejects.toThrow(Unreadable)
    await expect(read('no calendar')).rejects.toMatchObject({ what: { key: 'calendar.noCalendar' } })
  })

  test('a rule that never takes place ends its thread, and whoever waits behind it is read', async () => {
    const never = text.replace('FREQ=DAILY', 'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30')
    const [stuck, behind] = await Promise.allSettled([read(never), read(text)])
    expect(stuck).toMatchObject({ status: 'rejected', reason: { what: { key: 'calendar.takesTooLong' } } })
    expect(behind.status).toBe('fulfilled')
  }, 30_000)

  test('whoever gives many takes turns with everybody else', async () => {
    const order: string[] = []
    const reads = (by: string, of: string) => reader.read(by, { text: text.replace('UID:1', `UID:${of}`), titles: false, window, zone: 'Europe/London' })
      .then(() => order.push(of))
    await Promise.all([...[1, 2, 3, 4].map(one => reads('mallory', `m${one}`)), reads('ines', 'i1'), reads('tomas', 't1'), reads('ines', 'i2')])
    expect(order).toEqual(['m1', 'm2', 'i1', 't1', 'm3', 'i2', 'm4'])
  })
})
