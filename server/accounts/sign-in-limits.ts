import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import type { MikroORM } from '@mikro-orm/postgresql'

/**
 * How many guesses somebody has before each further one must wait: twice as long every time, up to a quarter of an hour.
 * Strangers are counted by the name they try and by the address they come from; a browser at which the account's owner has signed in before
 * is counted on its own, so that nobody can lock a colleague out.
 */
const free = { known: 8, address: 40 } as const
const firstWait = 10
const longestWait = 900
/** Guesses are forgotten after this many seconds without another. */
const forgotten = 3_600

/** The name under which an account is kept and guesses are counted, however it was typed. */
export function foldSignIn(typed: string): string {
  return typed.normalize('NFKC').replaceAll('\0', '').trim().toLowerCase()
}

/** Who tries to sign in as whom. */
export interface Attempt {
  /** Folded. */
  signIn: string
  address: string
  /** The browser, when its owner has signed in there as this very person. */
  browser: string | null
}

export class SignInLimits {
  /** @param guesses under one name before each further one must wait */
  constructor(private readonly orm: MikroORM, private readonly guesses: () => number) {}

  /**
   * Counts an attempt before anything is compared, so that guesses made at once are counted too.
   * @returns how many seconds to wait, when it must not be made yet; else null
   */
  async begin(attempt: Attempt): Promise<number | null> {
    let longest: number | null = null
    for (const [key, allowed] of keysOf(attempt, this.guesses())) {
      const wait = await this.count(key, allowed)
      if (wait !== null) longest = Math.max(longest ?? 0, wait)
    }
    return longest
  }

  /** The attempt was right: it is no guess. What others have guessed from the same address goes on counting. */
  async succeeded(attempt: Attempt): Promise<void> {
    const em = this.orm.em.fork()
    for (const [key] of keysOf(attempt, this.guesses())) {
      if (key.startsWith('address:')) await em.execute('update sign_in_limit set failures = greatest(failures - 1, 0), until = null where key = ?', [key])
      else await em.execute('delete from sign_in_limit where key = ?', [key])
    }
    await em.execute(`delete from sign_in_limit where at < now() - interval '1 day'`)
  }

  /** One statement: two servers, and guesses at the same moment, count one after the other. */
  private async count(key: string, allowed: number): Promise<number | null> {
    const em = this.orm.em.fork()
    const counted = await em.execute<{ failures: number }[]>(
      `
      insert into sign_in_limit as known (key, failures, until, at) values (?, 1, null, now())
      on conflict (key) do update set
        failures = case when known.at < now() - make_interval(secs => ${forgotten}) then 1 else known.failures + 1 end,
        until = case when known.at < now() - make_interval(secs => ${forgotten}) or known.failures + 1 < ? then null
          else now() + make_interval(secs => least(${firstWait} * power(2, least(known.failures + 1 - ?, 20)), ${longestWait})) end,
        at = now()
      where known.until is null or known.until <= now()
      returning failures`,
      [key, allowed, allowed],
    )
    if (counted.length > 0) return null
    const [limit] = await em.execute<{ seconds: number }[]>('select ceil(extract(epoch from until - now()))::int as seconds from sign_in_limit where key = ?', [
      key,
    ])
    return Math.max(1, limit?.seconds ?? 1)
  }
}

function keysOf({ signIn, address, browser }: Attempt, guesses: number): [string, number][] {
  if (browser) return [[`known:${browser}:${signIn}`, free.known]]
  return [[`name:${signIn}`, guesses], [`address:${address}`, free.address]]
}

const mostNames = 5

/** The cookie of a browser at which people have signed in: its id, and for each of them a seal that only this server can make. */
export function knownBrowser(cookie: string | undefined, signIn: string, secret: string): { id: string | null, remembering: string } {
  const [id = '', ...seals] = (cookie ?? '').split('.')
  const valid = /^[\w-]{22}$/.test(id)
  const browser = valid ? id : randomBytes(16).toString('base64url')
  const own = createHmac('sha256', secret).update(`${browser}\n${signIn}`).digest('base64url')
  const known = valid && seals.slice(0, mostNames).some(seal => seal.length === own.length && timingSafeEqual(Buffer.from(seal), Buffer.from(own)))
  const others = valid ? seals.filter(seal => seal !== own) : []
  return { id: known ? browser : null, remembering: [browser, own, ...others].slice(0, mostNames + 1).join('.') }
}
