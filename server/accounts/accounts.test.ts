import { afterAll, describe, expect, it } from 'vitest'
import { isGoodPassword, Passwords, TooManyHashes } from './passwords'
import { foldSignIn, knownBrowser } from './sign-in-limits'

const passwords = new Passwords()
afterAll(() => passwords.close())

describe('passwords', () => {
  it('are kept with a salt each, and only the right one is right', async () => {
    const [one, other] = await Promise.all([passwords.hash('ferry and lamp'), passwords.hash('ferry and lamp')])
    expect(one).toMatch(/^\$scrypt\$n=131072,r=8,p=1\$/)
    expect(one).not.toBe(other)
    expect(await passwords.verify(one, 'ferry and lamp')).toBe(true)
    expect(await passwords.verify(one, 'ferry and Lamp')).toBe(false)
    expect(await passwords.verify(undefined, 'nobody has this password')).toBe(false)
    expect(await passwords.verify('nonsense', 'x')).toBe(false)
  }, 30_000)

  it('of before are still good, and known as old', async () => {
    // RFC 7914, section 12: scrypt("pleaseletmein", "SodiumChloride", N = 16384, r = 8, p = 1, 64 bytes).
    const key = '7023bdcb3afd7348461c06cd81fd38ebfda8fbba904f8e3ea9b543f6545da1f2d5432955613f0fcf62d49705242a9af9e61e85dc0d651e40dfcf017b45575887'
    const short = (bytes: Buffer) => bytes.toString('base64').replace(/=+$/, '')
    const old = `$scrypt$n=16384,r=8,p=1$${short(Buffer.from('SodiumChloride'))}$${short(Buffer.from(key, 'hex'))}`
    expect(await passwords.verify(old, 'pleaseletmein')).toBe(true)
    expect(passwords.isOld(old)).toBe(true)
    expect(passwords.isOld(await passwords.hash('ferry and lamp'))).toBe(false)
  }, 30_000)

  it('too many at once are refused, not queued without end', async () => {
    const many = await Promise.allSettled(Array.from({ length: 30 }, () => passwords.verify('$scrypt$n=1024,r=8,p=1$c2FsdA$a2V5a2V5', 'x')))
    expect(many.filter(each => each.status === 'rejected').every(each => (each as PromiseRejectedResult).reason instanceof TooManyHashes)).toBe(true)
    expect(many.filter(each => each.status === 'fulfilled').length).toBeGreaterThan(10)
  }, 30_000)

  it('that are easy are refused', () => {
    expect(['short', 'ines and ines', 'ferry and lamp'].map(password => isGoodPassword(password, 'ines', 12))).toEqual([false, false, true])
  })
})

describe('who tries to sign in', () => {
  it('is one name, however it is typed', () => {
    expect(new Set(['ines', 'INES', ' ines ', 'in\u0000es', 'ＩＮＥＳ'].map(foldSignIn))).toEqual(new Set(['ines']))
  })

  it('is known at a browser where they have signed in, and nobody else is', () => {
    const { remembering } = knownBrowser(undefined, 'ines', 'secret')
    expect(knownBrowser(remembering, 'ines', 'secret').id).not.toBeNull()
    for (const [cookie, name, secret] of [
      [remembering, 'tomas', 'secret'],
      [remembering, 'ines', 'another'],
      ['x.y.z', 'ines', 'secret'],
      [`${remembering}x`, 'ines', 'secret'],
      ['', 'ines', 'secret'],
    ] as const) {
      expect(knownBrowser(cookie, name, secret).id).toBeNull()
    }
    let cookie = remembering
    for (let i = 0; i < 20; i++) cookie = knownBrowser(cookie, `colleague${i}`, 'secret').remembering
    expect(cookie.split('.').length, 'a cookie does not grow').toBeLessThanOrEqual(6)
  })
})
