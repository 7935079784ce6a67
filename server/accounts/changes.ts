import type { EntityManager } from '@mikro-orm/postgresql'

/** What was changed of accounts and of the rules of the house, by whom: written within the transaction that changes it. */

export interface AccountChange {
  /** Whose account; null: the rules of the house. */
  account: string | null
  what: string
  before: string
  after: string
}

export async function recordChanges(tx: EntityManager, by: string, changes: readonly AccountChange[]): Promise<void> {
  for (const { account, what, before, after } of changes) {
    if (before !== after)
      await tx.execute('insert into account_change ("by", account, what, "before", "after") values (?, ?, ?, ?, ?)', [by, account, what, before, after])
  }
}

const shown = 200

/** The latest, the newest first. Times are milliseconds since 1970. */
export function latestChanges(em: EntityManager): Promise<(AccountChange & { id: number, at: number, by: string })[]> {
  return em.execute(
    `select c.id::int as id, (extract(epoch from c.at) * 1000)::float8 as at, coalesce(a.name, c."by") as "by", c.account, c.what, c."before", c."after"
      from account_change c left join account a on a.sign_in = c."by" order by c.id desc limit ${shown}`,
  )
}
