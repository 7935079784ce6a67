import type { IncomingMessage, ServerResponse } from 'node:http'

/**
 * Stands in for an address book server (CardDAV, RFC 6352, with sync-collection, RFC 6578): one book below `/books/`, found from the root too. It remembers
 * what has changed; what it has forgotten it says.
 */
export class BookServer {
  private readonly cards = new Map<string, { text: string, changed: number }>()
  private readonly removed = new Map<string, number>()
  private change = 0
  /** Before this change nothing is remembered. */
  private forgottenTo = 0
  /** Whether it can say what has changed; else all that it has is listed. */
  tells = true
  /** Says at most so many changes at once. */
  most = 100
  /** Where the book is said to be, when that is elsewhere. */
  elsewhere = ''
  /** Removed between being named and being fetched. */
  vanishing: string | null = null
  /** Whom it answers; null: everybody. */
  account: { user: string, password: string } | null = null

  constructor(private readonly name: string) {}

  private get path(): string {
    return `/books/${this.name}/`
  }

  put(card: string, text: string): void {
    this.cards.set(card, { text, changed: ++this.change })
    this.removed.delete(card)
  }

  remove(card: string): void {
    if (this.cards.delete(card)) this.removed.set(card, ++this.change)
  }

  /** Tokens of before mean nothing any more. */
  forget(): void {
    this.removed.clear()
    this.forgottenTo = ++this.change
  }

  /** @returns false for what is not below it */
  async answer(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
    const path = new URL(request.url ?? '/', 'http://book').pathname
    const isOurs = path === '/' || path.startsWith('/books/') || path === '/.well-known/carddav'
    if (!isOurs || (path === '/' && request.method === 'GET')) return false
    const body = await textOf(request)
    if (this.account) {
      const { user, password } = this.account
      const expected = `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`
      if (request.headers.authorization !== expected) return said(response.writeHead(401, { 'www-authenticate': 'Basic realm="Address books"' }))
    }
    if (path === '/.well-known/carddav') return said(response.writeHead(301, { location: '/' }))
    if (request.method === 'PROPFIND') return this.multistatus(response, this.found(path, request.headers.depth === '1'))
    if (request.method !== 'REPORT' || path !== this.path) return said(response.writeHead(path === this.path ? 405 : 404))
    if (/addressbook-multiget/.test(body) && this.vanishing !== null) this.remove(this.vanishing)
    if (/addressbook-multiget/.test(body)) return this.multistatus(response, hrefsIn(body).map(href => this.card(href, true)))
    return this.report(response, body)
  }

  private report(response: ServerResponse, body: string): boolean {
    const token = /<(?:\w+:)?sync-token>([^<]*)</.exec(body)?.[1] ?? ''
    if (!/sync-collection/.test(body) || !this.tells) return said(response.writeHead(415))
    const since = token === '' ? 0 : Number(/^urn:book:(\d+)$/.exec(token)?.[1] ?? Number.NaN)
    if (Number.isNaN(since) || (since > 0 && since < this.forgottenTo)) {
      response.writeHead(403, { 'content-type': 'application/xml' })
      return said(response, '<?xml version="1.0"?><error xmlns="DAV:"><valid-sync-token/></error>')
    }
    const changes = [
      ...[...this.cards].map(([card, { changed }]) => ({ card, changed, there: true })),
      ...since === 0 ? [] : [...this.removed].map(([card, changed]) => ({ card, changed, there: false })),
    ].filter(({ changed }) => changed > since).sort((a, b) => a.changed - b.changed)
    const told = changes.slice(0, this.most)
    const parts = told.map(({ card, there }) => there ? this.card(this.hrefOf(card), false) : status(this.hrefOf(card), 404))
    const isAll = told.length === changes.length
    if (!isAll) parts.push(status(this.path, 507))
    return this.multistatus(response, parts, `urn:book:${isAll ? this.change : told.at(-1)!.changed}`)
  }

  private found(path: string, deep: boolean): string[] {
    const isBook = `<resourcetype><collection/><C:addressbook/></resourcetype><displayname>${escaped(this.name)}</displayname>`
    const tells = '<supported-report-set><supported-report><report><sync-collection/></report></supported-report></supported-report-set>'
    const own = status(this.elsewhere + this.path, 200, isBook + tells)
    if (path === this.path) return [own, ...deep ? [...this.cards.keys()].map(card => this.card(this.hrefOf(card), false)) : []]
    if (path !== '/' && path !== '/books/') return [status(path, 404)]
    const home = status(path, 200, '<resourcetype><collection/></resourcetype><current-user-principal><href>/books/</href></current-user-principal>'
      + '<C:addressbook-home-set><href>/books/</href></C:addressbook-home-set>')
    return [home, ...path === '/books/' && deep ? [own] : []]
  }

  private hrefOf(card: string): string {
    return this.path + encodeURIComponent(card)
  }

  private card(href: string, whole: boolean): string {
    const card = this.cards.get(decodeURIComponent(href.slice(this.path.length)))
    if (!card || !href.startsWith(this.path)) return status(href, 404)
    const data = whole ? `<C:address-data>${escaped(card.text)}</C:address-data>` : ''
    return status(href, 200, `<getetag>"${card.changed}"</getetag>${data}`)
  }

  private multistatus(response: ServerResponse, parts: readonly string[], token?: string): boolean {
    response.writeHead(207, { 'content-type': 'application/xml; charset=utf-8' })
    return said(response, `<?xml version="1.0" encoding="utf-8"?><multistatus xmlns="DAV:" xmlns:C="urn:ietf:params:xml:ns:carddav">${parts.join('')}`
      + `${token === undefined ? '' : `<sync-token>${token}</sync-token>`}</multistatus>`)
  }
}

function said(response: ServerResponse, text = ''): boolean {
  response.end(text)
  return true
}

function status(href: string, code: number, properties = ''): string {
  const line = `<status>HTTP/1.1 ${code} ${code === 200 ? 'OK' : 'Not so'}</status>`
  return `<response><href>${escaped(href)}</href>${code === 200 ? `<propstat><prop>${properties}</prop>${line}</propstat>` : line}</response>`
}

function hrefsIn(body: string): string[] {
  return [...body.matchAll(/<(?:\w+:)?href>([^<]*)</g)].map(([, href]) => href!.replaceAll('&amp;', '&'))
}

function escaped(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('\r', '&#13;')
}

async function textOf(request: IncomingMessage): Promise<string> {
  const parts: Buffer[] = []
  for await (const part of request) parts.push(part as Buffer)
  return Buffer.concat(parts).toString('utf8')
}
