import { createAccount, davRequest, type DAVResponse, fetchAddressBooks, propfind, syncCollection } from 'tsdav'
import { askOutside, Unfetched } from '../outside/ask'
import { t } from '../language'

/**
 * Address books of other servers (CardDAV, RFC 6352), read and never written. What has changed since a token is asked for (RFC 6578); a server that can't say,
 * or that has forgotten the token, is asked for all it has, and only cards whose tag is another are fetched.
 */

/** Milliseconds for one reading, bytes of one answer, cards of one book and of one request. */
const longestReading = 240_000
const largestAnswer = 16 * 1024 * 1024
const mostCards = 20_000
const cardsAtOnce = 50
/** A server that ever again says that there is more is not believed for ever. */
const mostParts = 500

export interface BookSource { address: string, user: string, password: string }

/** A card as the server has it: where, as which version, and its text. */
export interface BookCard { href: string, etag: string, text: string }

/** What a reading brings, in parts as they come. */
export interface Reading {
  /** Called for each part of changed cards, in turn. */
  changed: (cards: BookCard[]) => Promise<void>
  /** Called once, at the end, with what is no more. */
  gone: (hrefs: readonly string[]) => Promise<void>
}

/** Follows books that ever only lie in one place: their own server, which alone is told the password. */
export class BookClient {
  private readonly fetch: typeof globalThis.fetch
  private readonly headers: Record<string, string>
  private readonly origin: string

  constructor(private readonly source: BookSource, allowed: readonly string[], patience = longestReading) {
    const { address, user, password } = source
    this.origin = new URL(address).origin
    this.headers = user === '' ? {} : { authorization: `Basic ${Buffer.from(`${user}:${password}`, 'utf8').toString('base64')}` }
    const bounds = { allowed, signal: AbortSignal.timeout(patience), largest: largestAnswer }
    this.fetch = async (input, init) => {
      const url = new URL(String(input))
      if (url.origin !== this.origin) throw new Unfetched(t('answers.leadsToAnotherServer'))
      const headers: Record<string, string> = {}
      new Headers(init?.headers).forEach((value, name) => {
        headers[name] = value
      })
      const answer = await askOutside(url, { method: init?.method, headers, ...typeof init?.body === 'string' && { body: init.body } }, bounds)
      if (answer.status === 401) throw new Unfetched(t('answers.wrongUserOrPassword'))
      // What was cut off would be read as if the rest were no more.
      if (answer.status === 207 && !/<\/([\w-]+:)?multistatus\s*>\s*$/.test(answer.text)) throw new Unfetched(t('answers.answerIsCutOff'))
      const type = answer.headers['content-type'] ?? ''
      const location = answer.headers.location
      // 204 and the like have no body, and none may be given.
      const body = [204, 205, 304].includes(answer.status) ? null : answer.text
      return new Response(body, { status: Math.max(200, answer.status), headers: { 'content-type': type, ...location && { location } } })
    }
  }

  /**
   * The address of the one book that is meant by an address: its own, or that of a server that has only one.
   * @throws Unfetched
   */
  async find(): Promise<string> {
    const { address } = this.source
    const [own] = await this.telling(() => propfind({ url: address, depth: '0', props: { 'd:resourcetype': {} }, ...this.how }))
    if (isBook(own)) return address
    const books = await this.telling(async () => {
      const account = await createAccount({ account: { serverUrl: address, accountType: 'carddav' }, ...this.how })
      return fetchAddressBooks({ account, ...this.how })
    }).catch((error: unknown) => {
      throw error instanceof NotUnderstood ? new Unfetched(t('answers.noAddressBookThere')) : error
    })
    if (books.length === 1) return books[0]!.url
    throw new Unfetched(books.length === 0
      ? t('answers.noAddressBookThere')
      : t('answers.severalAddressBooks', { count: books.length, some: books.slice(0, 3).map(({ url }) => url).join(', ') }))
  }

  /**
   * Reads what has changed.
   * @param token what the server said the last time, null for the first; `known`: the tags of the cards that are kept, by where they are
   * @returns the token for the next time; null when the server has none
   * @throws Unfetched
   */
  async read(token: string | null, known: ReadonlyMap<string, string>, reading: Reading): Promise<string | null> {
    const changes = await this.changesSince(token) ?? (token === null ? null : await this.changesSince(null)) ?? await this.listing()
    if (changes.tags.size > mostCards) throw new Unfetched(t('answers.tooManyCards', { cards: changes.tags.size, most: mostCards }))
    const wanted = [...changes.tags].filter(([href, etag]) => etag === '' || known.get(href) !== etag).map(([href]) => href)
    for (let first = 0; first < wanted.length; first += cardsAtOnce)
      await reading.changed(await this.cards(wanted.slice(first, first + cardsAtOnce), changes.tags))
    await reading.gone(changes.whole ? [...known.keys()].filter(href => !changes.tags.has(href)) : changes.gone)
    return changes.token
  }

  /** Null when the server does not do that, or has forgotten the token. */
  private async changesSince(token: string | null): Promise<Changes | null> {
    const tags = new Map<string, string>()
    const gone = new Set<string>()
    let next = token
    for (let part = 0; part < mostParts; part++) {
      const answers = await this.telling(() => syncCollection({
        url: this.source.address, syncLevel: 1, syncToken: next ?? '', props: { 'd:getetag': {} }, ...this.how,
      }))
      const said = textOf(answers[0]?.raw?.multistatus?.syncToken)
      if (said === '') return null
      let more = false
      for (const answer of answers) {
        const href = this.pathOf(answer)
        if (href === null) continue
        if (answer.status === 507) more = true
        else if (answer.status === 404 || answer.status === 410) {
          gone.add(href)
          tags.delete(href)
        }
        else if (href !== this.pathname) {
          tags.set(href, textOf(answer.props?.getetag))
          gone.delete(href)
        }
      }
      if (!more) return { tags, gone: [...gone], whole: token === null, token: said }
      next = said
    }
    throw new Unfetched(t('answers.moreWithoutEnd'))
  }

  private async listing(): Promise<Changes> {
    const answers = await this.telling(() => propfind({
      url: this.source.address, depth: '1', props: { 'd:getetag': {}, 'd:resourcetype': {} }, ...this.how,
    }))
    onlyMany(answers, t('answers.anAddressBook'))
    const cards = answers.filter(answer => answer.ok && !('collection' in Object(answer.props?.resourcetype)))
    const tags = new Map(cards.flatMap((answer) => {
      const href = this.pathOf(answer)
      return href === null || href === this.pathname ? [] : [[href, textOf(answer.props?.getetag)] as const]
    }))
    return { tags, gone: [], whole: true, token: null }
  }

  private async cards(hrefs: readonly string[], tags: ReadonlyMap<string, string>): Promise<BookCard[]> {
    // The library's own question for many cards fails as a whole when one of them is no more.
    const body = { 'addressbook-multiget': {
      '_attributes': { 'xmlns:d': 'DAV:', 'xmlns:card': 'urn:ietf:params:xml:ns:carddav' }, 'd:prop': { 'd:getetag': {}, 'card:address-data': {} },
      'd:href': [...hrefs],
    } }
    const answers = await this.telling(() => davRequest({
      url: this.source.address, init: { method: 'REPORT', namespace: 'card', headers: { depth: '1', ...this.headers }, body }, fetch: this.fetch,
    }))
    onlyMany(answers, 'cards')
    return answers.flatMap((answer) => {
      const href = this.pathOf(answer)
      const text = textOf(answer.props?.addressData)
      // Removed between two questions: heard of the next time.
      return href === null || !answer.ok || text === '' ? [] : [{ href, etag: textOf(answer.props?.getetag) || (tags.get(href) ?? ''), text }]
    })
  }

  private get how() {
    return { headers: this.headers, fetch: this.fetch }
  }

  private get pathname(): string {
    return trimmed(new URL(this.source.address).pathname)
  }

  /** Where something is, as a path on the one server; null for what is elsewhere. */
  private pathOf({ href }: DAVResponse): string | null {
    const text = textOf(href)
    if (text === '' || !URL.canParse(text, this.source.address)) return null
    const url = new URL(text, this.source.address)
    return url.origin === this.origin ? trimmed(url.pathname) : null
  }

  /** What the library throws is no sentence for anybody. */
  private async telling<T>(ask: () => Promise<T>): Promise<T> {
    try {
      return await ask()
    }
    catch (error) {
      throw error instanceof Unfetched ? error : new NotUnderstood(t('answers.answerNotUnderstood'))
    }
  }
}

/** The library has found no sense in an answer. */
class NotUnderstood extends Unfetched {}

interface Changes { tags: Map<string, string>, gone: string[], whole: boolean, token: string | null }

const trimmed = (path: string) => path.replace(/\/+$/, '')

/** @throws Unfetched unless it is an answer about several things */
function onlyMany([first]: readonly DAVResponse[], what: string): void {
  if (first?.raw?.multistatus === undefined) throw new Unfetched(t('answers.otherStatus', { status: first?.status ?? 0, what }))
}

function isBook(answer: DAVResponse | undefined): boolean {
  return Boolean(answer?.ok && answer.props?.resourcetype && 'addressbook' in Object(answer.props.resourcetype))
}

/** The library gives texts as they look: as numbers, as booleans, or as character data. */
function textOf(value: unknown): string {
  if (typeof value === 'string') return value
  if (typeof value === 'number' || typeof value === 'boolean') return String(value)
  const data = value && typeof value === 'object' ? (value as { _cdata?: unknown })._cdata : undefined
  return data === undefined ? '' : Array.isArray(data) ? data.join('') : textOf(data)
}
