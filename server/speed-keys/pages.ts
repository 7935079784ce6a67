import { spoken } from '~~/words/phrase'
import { t } from '../language'
import { randomUUID } from 'node:crypto'
import type { EntityManager } from '@mikro-orm/postgresql'
import { plainText } from '~~/core/calls/text'
import type { Company } from '~~/core/company/company'
import { type KeyPage, longestLabel, mostPages, type SpeedKey } from '~~/core/speed-keys/key'
import { faultOf } from '~~/core/speed-keys/meaning'
import { KeyPageEntity } from '../database/entities'
import { inTurn } from '../database/turns'
import { wrongInput } from '../validation/read'

/** The pages of speed keys that somebody sees: those that are shared, and their own. Of somebody else's nobody hears that they are there. */

const channel = 'key_pages'
const columns = 'id, name, owner, version, keys'
interface Row { id: string, name: string, owner: string | null, version: number, keys: SpeedKey[] }

const pageOf = ({ id, name, owner, version, keys }: Row): KeyPage => ({ id, name, shared: owner === null, version, keys })

const longestOf = 80

export async function pagesFor(em: EntityManager, signIn: string): Promise<KeyPage[]> {
  const rows = await em.execute<Row[]>(
    `select ${columns} from key_page where owner is null or owner = ? order by owner is not null, position, id`,
    [signIn],
  )
  return rows.map(pageOf)
}

/** @throws 404 */
export async function pageFor(em: EntityManager, signIn: string, id: string): Promise<KeyPage> {
  const [row] = await em.execute<Row[]>(`select ${columns} from key_page where id = ? and (owner is null or owner = ?)`, [id, signIn])
  if (!row) throw createError({ statusCode: 404, message: t('answers.noSuchPageOfKeys') })
  return pageOf(row)
}

/** @throws 409 when there are as many pages as there may be */
export async function addPage(em: EntityManager, signIn: string, page: { name: string, shared: boolean, keys: SpeedKey[] }): Promise<KeyPage> {
  const owner = page.shared ? null : signIn
  // Two who add the last page at once: the second is told.
  return inTurn(em, `${channel} ${owner ?? ''}`, async (tx) => {
    const [{ count, next } = { count: 0, next: 0 }] = await tx.execute<{ count: number, next: number }[]>(
      'select count(*)::int as count, coalesce(max(position) + 1, 0)::int as next from key_page where owner is not distinct from ?', [owner],
    )
    if (count >= mostPages) {
      throw createError({
        statusCode: 409,
        message: t(page.shared ? 'answers.tooManySharedPages' : 'answers.tooManyOwnPages', { most: mostPages }),
      })
    }
    const added = { id: randomUUID(), name: page.name, owner, position: next, version: 1, keys: page.keys }
    await tx.insert(KeyPageEntity, added)
    await tx.execute(`select pg_notify('${channel}', '')`)
    return pageOf(added)
  })
}

/** @throws 404, or 409 when somebody else has changed the page since */
export async function changePage(em: EntityManager, signIn: string, id: string, seen: number, change: { name?: string, keys: SpeedKey[] }): Promise<KeyPage> {
  return em.transactional(async (tx) => {
    const [row] = await tx.execute<Row[]>(
      `update key_page set name = coalesce(?, name), keys = ?::jsonb, version = version + 1
       where id = ? and (owner is null or owner = ?) and version = ? returning ${columns}`,
      [change.name ?? null, JSON.stringify(change.keys), id, signIn, seen],
    )
    if (!row) return changedMeanwhile(await pageFor(tx, signIn, id))
    await tx.execute(`select pg_notify('${channel}', '')`)
    return pageOf(row)
  })
}

/** @throws 404, or 409 when somebody else has changed the page since */
export async function removePage(em: EntityManager, signIn: string, id: string, seen: number): Promise<void> {
  await em.transactional(async (tx) => {
    const [row] = await tx.execute<Row[]>(
      'delete from key_page where id = ? and (owner is null or owner = ?) and version = ? returning id', [id, signIn, seen],
    )
    if (!row) return changedMeanwhile(await pageFor(tx, signIn, id))
    await tx.execute(`select pg_notify('${channel}', '')`)
  })
}

function changedMeanwhile(page: KeyPage): never {
  throw createError({
    statusCode: 409,
    message: t('answers.pageChangedMeanwhile', { name: page.name }),
  })
}

/**
 * Keys as they may be kept: each about something that is there, its label safe to show.
 * Keys that the page has already may stay, also of somebody who has left since.
 * @throws 422 naming the key
 */
export function keysToKeep(company: Company, keys: readonly SpeedKey[], before: readonly SpeedKey[] = []): SpeedKey[] {
  const known = new Set(before.map(({ kind, of }) => `${kind} ${of}`))
  return keys.map(({ kind, of: named, label }, index) => {
    const of = plainText(named, longestOf)
    const fault = known.has(`${kind} ${of}`) ? null : faultOf(company, { kind, of })
    if (fault !== null) throw wrongInput(`keys[${index}].of`, spoken(t, fault))
    return { kind, of, label: (label && plainText(label, longestLabel)) || null }
  })
}
