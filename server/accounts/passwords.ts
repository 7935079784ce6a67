import { randomBytes, timingSafeEqual } from 'node:crypto'
import { Worker } from 'node:worker_threads'
import { t } from '../language'

/**
 * Scrypt (RFC 7914) with the cost that OWASP's Password Storage Cheat Sheet asks for: N = 2^17, r = 8, p = 1. Each password has a salt of its own.
 * Kept in the PHC string format: `$scrypt$n=131072,r=8,p=1$salt$key`, both in base64.
 */
const wanted = { n: 2 ** 17, r: 8, p: 1 } as const
const keyLength = 32
const mostWaiting = 24

/** Shown to whoever chooses a password that is too easy to guess. */
export function passwordRule(least: number): string {
  return t('answers.passwordRule', { least })
}

/** @param least so many characters, as the rules of the house say */
export function isGoodPassword(password: string, signIn: string, least: number): boolean {
  return password.length >= least && !password.toLowerCase().includes(signIn.toLowerCase())
}

/** Too many people sign in at once, or the thread has ended: try again. */
export class TooManyHashes extends Error {}

interface Job { password: string, salt: Buffer, n: number, r: number, p: number, length: number }

/** The thread's whole program. It computes one key at a time, so that signing in takes one processor at most and nothing that calls need. */
const program = `
  const { parentPort } = require('node:worker_threads')
  const { scryptSync } = require('node:crypto')
  parentPort.on('message', ({ id, password, salt, n, r, p, length }) => {
    try {
      parentPort.postMessage({ id, key: scryptSync(password, salt, length, { N: n, r, p, maxmem: 256 * n * r }) })
    }
    catch (error) {
      parentPort.postMessage({ id, error: error.message })
    }
  })`

/** Hashes and verifies passwords on a thread of its own, away from the pool that files, names and everything else need. */
export class Passwords {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, { resolve: (key: Buffer) => void, reject: (error: Error) => void }>()
  private serial = 0
  private unknown: string | undefined

  async hash(password: string): Promise<string> {
    const salt = randomBytes(16)
    const { n, r, p } = wanted
    const key = await this.derive({ password, salt, n, r, p, length: keyLength })
    return `$scrypt$n=${n},r=${r},p=${p}$${base64(salt)}$${base64(key)}`
  }

  /**
   * Whether a password is the one that was hashed. Takes as long when there is no hash, so that the time taken tells nothing.
   * @throws TooManyHashes
   */
  async verify(hash: string | undefined, password: string): Promise<boolean> {
    const read = readHash(hash ?? (this.unknown ??= await this.hash('nobody has this password')))
    if (!read) return false
    const key = await this.derive({ password, salt: read.salt, n: read.n, r: read.r, p: read.p, length: read.key.length })
    return hash !== undefined && timingSafeEqual(key, read.key)
  }

  /** True for a hash made with less than today's cost. */
  isOld(hash: string): boolean {
    const read = readHash(hash)
    return !read || read.n < wanted.n || read.r < wanted.r
  }

  close(): void {
    void this.worker?.terminate()
    this.worker = null
  }

  private derive(job: Job): Promise<Buffer> {
    if (this.waiting.size >= mostWaiting) return Promise.reject(new TooManyHashes())
    return new Promise((resolve, reject) => {
      const id = ++this.serial
      this.waiting.set(id, { resolve, reject })
      this.thread().postMessage({ id, ...job })
    })
  }

  private thread(): Worker {
    if (this.worker) return this.worker
    const worker = new Worker(program, { eval: true })
    worker.unref()
    worker.on('message', ({ id, key, error }: { id: number, key?: Uint8Array, error?: string }) => {
      const waiting = this.waiting.get(id)
      this.waiting.delete(id)
      if (key) waiting?.resolve(Buffer.from(key))
      else waiting?.reject(new Error(error))
    })
    const gone = () => {
      if (this.worker === worker) this.worker = null
      for (const { reject } of this.waiting.values()) reject(new TooManyHashes())
      this.waiting.clear()
    }
    worker.once('error', gone)
    worker.once('exit', gone)
    return this.worker = worker
  }
}

function base64(bytes: Buffer): string {
  return bytes.toString('base64').replace(/=+$/, '')
}

function readHash(hash: string): { n: number, r: number, p: number, salt: Buffer, key: Buffer } | null {
  const [, n, r, p, salt, key] = /^\$scrypt\$n=(\d+),r=(\d+),p=(\d+)\$([^$]+)\$([^$]+)$/.exec(hash) ?? []
  return key && salt ? { n: Number(n), r: Number(r), p: Number(p), salt: Buffer.from(salt, 'base64'), key: Buffer.from(key, 'base64') } : null
}
