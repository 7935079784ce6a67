import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import type { TelephoneAccount } from '../../shared/telephone-accounts'

/** Who a request comes from, proved by HTTP digest (RFC 8760, RFC 7616). */

export type Proof = { account: TelephoneAccount } | { challenge: string[] } | 'throttled'

const algorithms = [['SHA-256', 'sha256'], ['MD5', 'md5']] as const
/** Milliseconds. A telephone may go on with a number for so long. */
const nonceFor = 5 * 60_000
/** After so many wrong answers in a row of one address for one account nothing is answered for a while (milliseconds). */
const mostWrong = 8
const restFor = 5 * 60_000
const mostCounted = 20_000

interface Tries { wrong: number, at: number }

export class Digest {
  private readonly key = randomBytes(32)
  /** The last count of a nonce that was used: none counts twice. */
  private readonly used = new Map<string, number>()
  private readonly tries = new Map<string, Tries>()
  /** How often in a row somebody was asked who they are, and said nothing; `old`: they answered once they were asked for MD5 alone. */
  private readonly unproved = new Map<string, { times: number, old: boolean }>()

  /**
   * @param realm of the house, as telephones hash it
   * @param guessed somebody has answered wrongly so often that they are not answered any more for a while
   * @param now a clock in milliseconds
   */
  constructor(
    private readonly realm: string,
    private readonly accounts: (name: string) => TelephoneAccount | undefined,
    private readonly guessed: (address: string, account: string) => void,
    private readonly now: () => number = Date.now,
  ) {}

  /**
   * @param header the field Authorization, when there is one
   * @param who names themselves so, and `from` what address
   */
  prove(method: string, header: string | undefined, who: string, from: string): Proof {
    const said = header === undefined ? null : readAuthorization(header)
    const key = `${from} ${said?.username ?? ''}`
    const known = this.tries.get(key)
    if (known && known.wrong >= mostWrong && this.now() - known.at < restFor) return 'throttled'
    if (!said) return this.firstChallenge(`${from} ${who}`)
    const account = this.accounts(said.username)
    const algorithm = algorithms.find(([name]) => name === (said.algorithm ?? 'MD5').toUpperCase())
    if (!algorithm || said.realm !== this.realm) return this.challenge(false, this.isOld(key))
    const hash = (text: string) => createHash(algorithm[1]).update(text).digest('hex')
    // Whoever is not known is told no sooner than one whose secret is wrong.
    const secret = account ? (algorithm[1] === 'md5' ? account.md5 : account.sha256) : hash('nobody')
    const second = hash(`${method}:${said.uri}`)
    const wanted = said.qop === 'auth'
      ? hash(`${secret}:${said.nonce}:${said.nc}:${said.cnonce}:auth:${second}`)
      : hash(`${secret}:${said.nonce}:${second}`)
    if (!same(wanted, said.response) || !account) {
      this.wrong(key, from, said.username)
      return this.challenge(false, this.isOld(key))
    }
    if (!this.isFresh(said.nonce, said.qop === 'auth' ? parseInt(said.nc, 16) : null)) return this.challenge(true, this.isOld(key))
    this.tries.delete(key)
    const { times = 0, old = false } = this.unproved.get(key) ?? {}
    this.unproved.set(key, { times: 0, old: algorithm[1] === 'md5' && (old || times > 1) })
    return { account }
  }

  private wrong(key: string, address: string, account: string): void {
    const wrong = (this.tries.get(key)?.wrong ?? 0) + 1
    this.tries.delete(key)
    this.tries.set(key, { wrong, at: this.now() })
    if (wrong === mostWrong) this.guessed(address, account)
    if (this.tries.size > mostCounted) this.tries.delete(this.tries.keys().next().value!)
  }

  /** Some older telephones say nothing when they are asked for anything beside MD5: they are asked for that alone the next time. */
  private firstChallenge(key: string): { challenge: string[] } {
    const { times, old } = this.unproved.get(key) ?? { times: 0, old: false }
    this.unproved.delete(key)
    this.unproved.set(key, { times: times + 1, old })
    if (this.unproved.size > mostCounted) this.unproved.delete(this.unproved.keys().next().value!)
    return this.challenge(false, this.isOld(key))
  }

  private isOld(key: string): boolean {
    const { times = 0, old = false } = this.unproved.get(key) ?? {}
    return old || times > 1
  }

  private challenge(stale: boolean, old: boolean): { challenge: string[] } {
    const begun = this.now().toString(36)
    const salt = randomBytes(6).toString('hex')
    const nonce = `${begun}.${salt}.${this.sign(`${begun}.${salt}`)}`
    const more = stale ? ', stale=true' : ''
    const asked = old ? algorithms.slice(-1) : algorithms
    return { challenge: asked.map(([name]) => `WWW-Authenticate: Digest realm="${this.realm}", nonce="${nonce}", algorithm=${name}, qop="auth"${more}`) }
  }

  private isFresh(nonce: string, count: number | null): boolean {
    const [begun = '', salt = '', signed = ''] = nonce.split('.')
    if (!same(this.sign(`${begun}.${salt}`), signed) || this.now() - parseInt(begun, 36) > nonceFor) return false
    const last = this.used.get(nonce) ?? 0
    // Without a count a number is good for one request.
    const next = count ?? 1
    if (!(next > last)) return false
    this.used.set(nonce, next)
    if (this.used.size > mostCounted) this.used.delete(this.used.keys().next().value!)
    return true
  }

  private sign(text: string): string {
    return createHmac('sha256', this.key).update(text).digest('hex').slice(0, 24)
  }
}

interface Said { username: string, realm: string, nonce: string, uri: string, response: string, algorithm?: string, qop?: string, nc: string, cnonce: string }

function readAuthorization(header: string): Said | null {
  if (!/^\s*digest\s/i.test(header)) return null
  const fields: Record<string, string> = {}
  for (const [, name, quoted, plain] of header.slice(0, 4_000).matchAll(/(\w+)\s*=\s*(?:"((?:[^"\\]|\\.)*)"|([^\s,"]+))/g))
    fields[name!.toLowerCase()] = quoted?.replace(/\\(.)/g, '$1') ?? plain ?? ''
  const { username, realm, nonce, uri, response, algorithm, qop, nc = '', cnonce = '' } = fields
  if (username === undefined || realm === undefined || nonce === undefined || uri === undefined || response === undefined) return null
  return { username, realm, nonce, uri, response, algorithm, qop, nc, cnonce }
}

function same(a: string, b: string): boolean {
  const [one, other] = [Buffer.from(a), Buffer.from(b)]
  return one.length === other.length && timingSafeEqual(one, other)
}
