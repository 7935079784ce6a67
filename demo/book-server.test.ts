import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest'
import { contactOf as contactIn, cardsOf } from '../core/formats/vcard'
import { type BookCard, BookClient } from '../server/address-books/carddav'
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
    expect(contactOf((read as { lines: string[] }).lines).note).toBe('first second')
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
