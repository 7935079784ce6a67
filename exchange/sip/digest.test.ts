import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { telephoneRealm } from '../../shared/telephone-accounts'
import { accountOf } from '../../tests/telephone-set'
import { Digest } from './digest'

const account = accountOf('t2104', '2104', 'a-secret')
let now = 1_000_000

const guessed: string[] = []
const digestOf = () => new Digest(telephoneRealm, name => name === account.name ? account : undefined, (...who) => guessed.push(who.join(' ')), () => now)
const nonceIn = (challenge: string[]) => /nonce="([^"]+)"/.exec(challenge[0]!)![1]!

const usual = { algorithm: 'SHA-256', secret: 'a-secret', user: '2104', method: 'INVITE', nc: '00000001', qop: true, realm: telephoneRealm }

function header(nonce: string, how: Partial<typeof usual> = {}): string {
  const { algorithm, secret, user, method, nc, qop, realm } = { ...usual, ...how }
  const hash = (text: string) => createHash(algorithm === 'MD5' ? 'md5' : 'sha256').update(text).digest('hex')
  const [first, second] = [hash(`${user}:${realm}:${secret}`), hash(`${method}:sip:house`)]
  const response = qop ? hash(`${first}:${nonce}:${nc}:c:auth:${second}`) : hash(`${first}:${nonce}:${second}`)
  return `Digest username="${user}", realm="${realm}", nonce="${nonce}", uri="sip:house", response="${response}", algorithm=${algorithm}${
    qop ? `, qop=auth, nc=${nc}, cnonce="c"` : ''}`
}

function challenged(digest: Digest): string {
  const proof = digest.prove('INVITE', undefined, '2104', '192.0.2.7')
  if (typeof proof === 'string' || !('challenge' in proof)) throw new Error('not asked')
  return nonceIn(proof.challenge)
}
const prove = (digest: Digest, said: string, from = '192.0.2.7', method = 'INVITE') => digest.prove(method, said, '2104', from)

describe('who a telephone is', () => {
  it('is asked by SHA-256 and, for older ones, by MD5', () => {
    const proof = digestOf().prove('INVITE', undefined, '2104', '192.0.2.7') as { challenge: string[] }
    expect(proof.challenge.map(line => /algorithm=([^,]+)/.exec(line)![1])).toEqual(['SHA-256', 'MD5'])
  })

  it('is proved by its secret, with either, with and without a count', () => {
    for (const how of [{}, { algorithm: 'MD5' }, { algorithm: 'MD5', qop: false }, { qop: false }]) {
      const digest = digestOf()
      expect(prove(digest, header(challenged(digest), how))).toEqual({ account })
    }
  })

  it('is not proved by another secret, name, method, realm or number', () => {
    for (const how of [{ secret: 'a-guess' }, { user: '2105' }, { method: 'REGISTER' }, { realm: 'elsewhere' }]) {
      const digest = digestOf()
      expect(prove(digest, header(challenged(digest), how))).toHaveProperty('challenge')
    }
    const digest = digestOf()
    const forged = `${challenged(digest).split('.').slice(0, 2).join('.')}.000000000000000000000000`
    expect(prove(digest, header(forged))).toHaveProperty('challenge')
    for (const broken of ['', 'Basic YTpi', 'Digest', 'Digest username="2104"', `Digest ${'x='.repeat(5_000)}`])
      expect(prove(digest, broken)).toHaveProperty('challenge')
  })

  it('is good once for each count, and for five minutes', () => {
    const digest = digestOf()
    const nonce = challenged(digest)
    expect(prove(digest, header(nonce))).toEqual({ account })
    expect(JSON.stringify(prove(digest, header(nonce))), 'said again by somebody else').toContain('stale=true')
    expect(prove(digest, header(nonce, { nc: '00000002' }))).toEqual({ account })
    now += 5 * 60_000 + 1
    expect(JSON.stringify(prove(digest, header(nonce, { nc: '00000003' })))).toContain('stale=true')
  })

  it('is not guessed at: after eight wrong answers nobody is answered from there for that account, for five minutes', () => {
    const digest = digestOf()
    for (let tried = 0; tried < 8; tried++) expect(prove(digest, header(challenged(digest), { secret: String(tried) }))).toHaveProperty('challenge')
    expect(guessed, 'and whoever runs the house is told once').toEqual(['192.0.2.7 2104'])
    const elsewhere = digest.prove('INVITE', undefined, '2104', '192.0.2.8') as { challenge: string[] }
    expect(prove(digest, header(nonceIn(elsewhere.challenge)))).toBe('throttled')
    expect(prove(digest, header(nonceIn(elsewhere.challenge)), '192.0.2.8'), 'the telephone itself is elsewhere').toEqual({ account })
    now += 5 * 60_000
    expect(prove(digest, header(challenged(digest)))).toEqual({ account })
  })

  it('is asked by MD5 alone where a telephone says nothing to both, and goes on so', () => {
    const digest = digestOf()
    const asked = () => (digest.prove('REGISTER', undefined, '2104', '192.0.2.7') as { challenge: string[] }).challenge
    expect(asked()).toHaveLength(2)
    const [only, ...more] = asked()
    expect([only, more]).toEqual([expect.stringContaining('algorithm=MD5'), []])
    expect(prove(digest, header(nonceIn([only!]), { algorithm: 'MD5' }))).toEqual({ account })
    expect(asked()).toHaveLength(1)
    // Also when its number is too old.
    const stale = prove(digest, header(nonceIn([only!]), { algorithm: 'MD5' })) as { challenge: string[] }
    expect(stale.challenge).toEqual([expect.stringMatching(/algorithm=MD5.*stale=true/)])
  })
})
