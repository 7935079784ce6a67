import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './processes.mjs'

/** The secret that seals the session cookies: made once, so that people stay signed in over a restart. */
export function sessionSecret() {
  const file = join(root, '.data/session-secret')
  if (!existsSync(file)) {
    mkdirSync(join(root, '.data'), { recursive: true })
    writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600, flag: 'wx' })
  }
  return readFileSync(file, 'utf8').trim()
}
