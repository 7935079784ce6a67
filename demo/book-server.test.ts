import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest'
import { contactOf as contactIn, cardsOf } from '../core/formats/vcard'
import { BookReader } from '../server/address-books/book-reader'
import { type BookCard, BookClient } from '../server/address-books/carddav'
import { Unfetched } from '../server/outside/ask'
import { threadProgram } from '../server/outside/program'
import { BookServer } from './book-server'
import { harbourCards } from './company/harbour-book'

const contactOf = (lines: readonly string[]) => contactIn(lines, { country: 'GB', longestInside: 5 })

let book = new BookServer('crew')
const server = createServer((request, response) => void book.answer(request, response).then(taken => taken || response.writeHead(404).end()))
let origin = ''
beforeAll(async () => {
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(() => server.close())

const card = (name: string, ...more: string[]) => ['BEGIN:VCARD', 'VERSION:4.0', `FN:${name}`, ...more, 'END:VCARD', ''].join('\r\n')

/** Somebody who follows the book, as far as they know it. */
class Follower {
  token: string | null = null
  readonly cards = new Map<string, BookCard>()
  fetched = 0

  constructor(private readonly account = { user: '', password: '' }) {}

  async look(address = `${origin}/books/crew/`): Promise<string[]> {
    const client = new BookClient({ address, ...this.account }, [origin])
    this.token = await client.read(this.token, new Map([...this.cards].map(([href, { etag }]) => [href, etag])), {
      changed: async (cards) => {
        this.fetched += cards.length
        for (const one of cards) this.cards.set(one.href, one)
      },
      gone: async (hrefs) => {
        for (const href of hrefs) this.cards.delete(href)
      },
    })
    return [...this.cards.values()].map(({ text }) => /FN:(.*)/.exec(text)![1]!.trim()).sort()
  }
}

beforeEach(() => {
  book = new BookServer('crew')
  for (const name of ['Ama', 'Bo', 'Cy']) book.put(`${name}.vcf`, card(name))
})

describe('a book of another server is followed', () => {
  test.each([['that tells what has changed', true], ['that can only list what it has', false]])('%s', async (_, tells) => {
    book.tells = tells
    const follower = new Follower()
    expect(await follower.look()).toEqual(['Ama', 'Bo', 'Cy'])
    expect(await follower.look()).toEqual(['Ama', 'Bo', 'Cy'])
    expect(follower.fetched).toBe(3)
    book.put('Bo.vcf', card('Bo & <Co>', 'NOTE:first\\nsecond'))
    book.put('a b?.vcf', card('123'))
    book.remove('Ama.vcf')
    expect(await follower.look()).toEqual(['123', 'Bo & <Co>', 'Cy'])
    expect(follower.fetched).toBe(5)
    const [read] = cardsOf([...follower.cards.values()].find(({ text }) => text.includes('NOTE'))!.text)
    expect(contactOf((read as { lines: string[] }).lines).note).toBe('first\nsecond')
  })

  test('also when a card goes between being named and being fetched', async () => {
    book.vanishing = 'Bo.vcf'
    const follower = new Follower()
    expect(await follower.look()).toEqual(['Ama', 'Cy'])
    expect(await follower.look()).toEqual(['Ama', 'Cy'])
  })

  test('in parts, when it says so little at once', async () => {
    book.most = 2
    for (let index = 0; index < 60; index++) book.put(`${index}.vcf`, card(`N${index}`))
    const follower = new Follower()
    expect(await follower.look()).toHaveLength(63)
    book.remove('Bo.vcf')
    book.remove('7.vcf')
    book.remove('8.vcf')
    expect(await follower.look()).toHaveLength(60)
    expect(follower.fetched).toBe(63)
  })

  test('also when it has forgotten what it said, or has another token', async () => {
    const follower = new Follower()
    await follower.look()
    book.remove('Cy.vcf')
    book.forget()
    expect(await follower.look()).toEqual(['Ama', 'Bo'])
    follower.token = 'urn:elsewhere:77'
    expect(await follower.look()).toEqual(['Ama', 'Bo'])
    expect(follower.fetched).toBe(3)
  })

  test('found by the server\'s own address; one that asks for a name is told it, and says when it is wrong', async () => {
    book.account = { user: 'mer', password: 'ry: ü' }
    const client = (address: string, password: string) => new BookClient({ address, user: 'mer', password }, [origin])
    expect(await client(`${origin}/`, 'ry: ü').find()).toBe(`${origin}/books/crew/`)
    expect(await client(`${origin}/books/crew/`, 'ry: ü').find()).toBe(`${origin}/books/crew/`)
    book.elsewhere = 'http://127.0.0.2:9'
    await expect(client(`${origin}/`, 'ry: ü').find()).rejects.toThrow('leads on to another server')
    book.elsewhere = ''
    await expect(client(`${origin}/`, 'wrong').find()).rejects.toThrow('user name or the password')
    await expect(client(`${origin}/books/crew/`, 'wrong').find()).rejects.toThrow('user name or the password')
    expect(await client(`${origin}/nothing/`, 'ry: ü').find()).toBe(`${origin}/books/crew/`)
  })
})

describe('what is no book says so, and nothing of ours goes elsewhere', () => {
  const answers = async (listener: Parameters<typeof createServer>[1], act: (address: string) => Promise<unknown>) => {
    const other = createServer(listener!)
    await new Promise<void>(resolve => other.listen(0, '127.0.0.1', resolve))
    const own = `http://127.0.0.1:${(other.address() as AddressInfo).port}`
    try {
      return await act(own)
    }
    finally {
      other.close()
      other.closeAllConnections()
    }
  }

  test.each<[string, Parameters<typeof createServer>[1], RegExp]>([
    ['a page', (_, response) => response.writeHead(200, { 'content-type': 'text/html' }).end('<html>Welcome</html>'), /instead of an address book/],
    ['half an answer', (_, response) => response.writeHead(207, { 'content-type': 'application/xml' }).end('<multistatus><response>'), /cut off/],
    ['nothing', () => {}, /in time/],
    ['too much', (_, response) => {
      response.writeHead(207, { 'content-type': 'application/xml' })
      const more = () => {
        while (response.write('x'.repeat(65_536)));
        response.once('drain', more)
      }
      more()
    }, /larger than/],
    ['an error', (_, response) => response.writeHead(500).end(), /status 500|no address book/],
  ])('%s', async (_, listener, why) => {
    await answers(listener, async (address) => {
      const client = () => new BookClient({ address, user: '', password: '' }, [address], 1_500)
      await expect(client().read(null, new Map(), { changed: async () => {}, gone: async () => {} })).rejects.toThrow(why)
    })
  })

  test('another server is not told the password, and our own network is not asked', async () => {
    const asked: string[] = []
    await answers((request, response) => {
      asked.push(request.headers.authorization ?? '')
      response.writeHead(404).end()
    }, async (elsewhere) => {
      await answers((_, response) => response.writeHead(301, { location: `${elsewhere}/books/` }).end(), async (address) => {
        const client = new BookClient({ address, user: 'mer', password: 'ry' }, [address, elsewhere], 2_000)
        await expect(client.find()).rejects.toThrow(/no address book|another server/)
      })
    })
    expect(asked).toEqual([])
    await expect(new BookClient({ address: `${origin}/books/crew/`, user: '', password: '' }, []).find()).rejects.toThrow('own network')
  })
})

test('the demo\'s book names everybody in it', () => {
  const read = [...harbourCards().values()].map(text => contactOf((cardsOf(text)[0] as { lines: string[] }).lines))
  expect(read.every(({ name, numbers }) => name !== '' && numbers.length === 1)).toBe(true)
  expect(new Set(read.map(({ uid }) => uid)).size).toBe(read.length)
})

describe('a book is read on a thread of its own', () => {
  let program: string
  beforeAll(async () => {
    program = await threadProgram(new URL('../server/address-books/book-thread.ts', import.meta.url).pathname)
  }, 30_000)

  /** As many as are read at most are tried by hand: BOOK_CARDS=19997. */
  const many = Number(process.env.BOOK_CARDS ?? 2_000)
  const home = { country: 'GB', longestInside: 5 }
  const source = () => ({ address: `${origin}/books/crew/`, user: '', password: '' })
  const nothing = { changed: () => Promise.resolve(), gone: () => Promise.resolve() }

  /** The longest that this thread did nothing else while something went on, in milliseconds. */
  async function longestPause(what: () => Promise<unknown>): Promise<number> {
    let [longest, last] = [0, performance.now()]
    const looking = setInterval(() => {
      longest = Math.max(longest, performance.now() - last)
      last = performance.now()
    }, 5)
    await what().finally(() => clearInterval(looking))
    return longest
  }

  test('thousands of cards come in parts, each kept before the next, with what they say', async () => {
    for (let index = 0; index < many; index++) book.put(`${index}.vcf`, card(`Person ${index}`, 'TEL:020 7946 0123'))
    const reader = new BookReader(program, [origin])
    const names = new Set<string>()
    let keeping = 0
    const token = await reader.read(source(), { token: null, known: [], home }, {
      changed: async (cards) => {
        expect(++keeping).toBe(1)
        for (const { said } of cards) names.add(`${said.name} ${said.numbers[0]?.number}`)
        await new Promise(resolve => setImmediate(resolve))
        keeping--
      },
      gone: () => Promise.resolve(),
    })
    expect(names.size).toBe(many + 3)
    expect(names).toContain(`Person ${many - 1} +442079460123`)
    expect(token).not.toBeNull()
    // Whoever can't keep a part ends the reading, with why.
    await expect(reader.read(source(), { token: null, known: [], home }, { ...nothing, changed: () => Promise.reject(new Error('no room')) }))
      .rejects.toThrow('no room')
  }, 120_000)

  test.each([
    ['nested', () => '<a>'.repeat(2_000_000)], ['wide', () => '<d:response xmlns:d="DAV:"><d:href>/x</d:href></d:response>'.repeat(200_000)],
  ])('%s XML of many megabytes holds nobody else up, and ends', async (_, xml) => {
    const text = `<?xml version="1.0"?><d:multistatus xmlns:d="DAV:">${xml()}</d:multistatus>`
    const hostile = createServer((_request, response) => response.writeHead(207, { 'content-type': 'application/xml' }).end(text))
    await new Promise<void>(resolve => hostile.listen(0, '127.0.0.1', resolve))
    const address = `http://127.0.0.1:${(hostile.address() as AddressInfo).port}`
    try {
      const reader = new BookReader(program, [address], 4_000)
      const from = { address: `${address}/`, user: '', password: '' }
      const work = () => expect(reader.read(from, { token: null, known: [], home }, nothing)).rejects.toThrow(Unfetched)
      expect(await longestPause(work)).toBeLessThan(1_000)
    }
    finally {
      hostile.closeAllConnections()
      hostile.close()
    }
  }, 60_000)

  test('what is found out is said as before', async () => {
    const reader = new BookReader(program, [origin])
    expect(await reader.find(source())).toBe(`${origin}/books/crew/`)
    await expect(new BookReader(program, []).find(source())).rejects.toThrow('own network')
  })
})
