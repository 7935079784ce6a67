import type { Projection } from './projection'

/** Whose calls we do not take: table `blocked_number`. Times are those that people read. */

export type BlockChange
  = | { kind: 'block', number: string, reason: string, by: string, at: number }
    | { kind: 'unblock', number: string }

export const blocks: Projection<BlockChange> = {
  changes(event, _before, { clockOffset }) {
    if (event.type === 'numberBlocked') return [{ kind: 'block', number: event.number, reason: event.reason, by: event.device, at: event.at + clockOffset }]
    return event.type === 'numberUnblocked' ? [{ kind: 'unblock', number: event.number }] : []
  },

  async write(em, changes) {
    for (const change of changes) {
      if (change.kind === 'unblock') await em.execute('delete from blocked_number where number = ?', [change.number])
      else await em.execute(upsertBlock, [change.number, change.reason, change.by, new Date(change.at)])
    }
  },
}

const upsertBlock = `
  insert into "blocked_number" ("number", "reason", "by", "at") values (?, ?, ?, ?)
  on conflict ("number") do update set "reason" = excluded."reason", "by" = excluded."by", "at" = excluded."at"`
