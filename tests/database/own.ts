import { randomUUID } from 'node:crypto'
import type { MikroORM } from '@mikro-orm/postgresql'
import { createError } from 'h3'
import { afterAll, beforeAll, inject, vi } from 'vitest'
import { prepareDatabase } from '../../scripts/database.mjs'
import { connectDatabase } from '../../server/database/orm'
import { template } from './setup'

/** A database of the file's own with the demo's data, as the server sees it, and what the server's code finds without asking for it. */
export function ownDatabase(): { orm: MikroORM, url: string, sql: <Row extends object>(text: string, values?: unknown[]) => Promise<Row[]> } {
  const own = {} as { orm: MikroORM, url: string }
  beforeAll(async () => {
    vi.stubGlobal('createError', createError)
    own.url = await prepareDatabase(inject('database'), `unit_${randomUUID().replaceAll('-', '')}`, { template })
    own.orm = await connectDatabase(own.url)
  })
  afterAll(() => own.orm.close(true))
  return {
    get orm() {
      return own.orm
    },
    get url() {
      return own.url
    },
    sql: <Row extends object>(text: string, values: unknown[] = []) => own.orm.em.fork().execute<Row[]>(text, values),
  }
}
