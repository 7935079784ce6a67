import type { MikroORM } from '@mikro-orm/postgresql'
import { type HouseRules, houseRules, rulesAtFirst } from '~~/shared/house-rules'
import { always, type Right } from '~~/shared/rights'
import type { Role } from '~~/shared/roles'
import { recordChanges } from './changes'
import type { Notices } from '../database/notices'
import { t } from '../language'

const channel = 'house_rules'

/** How people sign in here and what each role may do, as administrators have decided: in force at once, on every server, and while the database is away. */
export class HouseRulesKeeper {
  current: HouseRules = rulesAtFirst

  /** @param onChange is told when roles may do something else now */
  constructor(private readonly orm: MikroORM, notices: Notices, private readonly onChange: () => void) {
    notices.on(channel, () => void this.load().catch(() => {}))
    notices.onListening(() => void this.load().catch(() => {}))
  }

  rightsOf(role: Role): Right[] {
    return role === 'staff' ? [] : this.current.may[role]
  }

  async load(): Promise<void> {
    const [row] = await this.orm.em.fork().execute<{ kept: object, version: number }[]>('select kept, version from house_rules')
    if (!row || row.version === this.current.version) return
    const before = this.current
    const kept = { ...rulesAtFirst, ...row.kept, version: row.version }
    // What another version of this program has kept may mean nothing here: nobody is shut out for that.
    this.current = houseRules.isValidSync(kept) ? kept : { ...rulesAtFirst, version: row.version }
    if (JSON.stringify(before.may) !== JSON.stringify(this.current.may)) this.onChange()
  }

  /** @throws 409 when somebody else has changed them since that version */
  async change({ version: seen, may, ...rules }: HouseRules, by: string): Promise<HouseRules> {
    const administrator = [...new Set([...may.administrator, ...always])]
    const kept = { ...rules, may: { operator: may.operator.filter(isGiven), supervisor: may.supervisor.filter(isGiven), administrator } }
    const before = this.current
    const changed = await this.orm.em.fork().transactional(async (tx) => {
      const rows = await tx.execute<object[]>(
        `insert into house_rules as known (id, kept, version, changed_by) values (1, ?::jsonb, ?, ?)
        on conflict (id) do update set kept = excluded.kept, version = excluded.version, changed_by = excluded.changed_by where known.version = ? returning 1`,
        [JSON.stringify(kept), seen + 1, by, seen],
      )
      const inWords = (all: Record<string, unknown>) => Object.entries(all).map(([what, value]) => [what, [value].flat().join(', ') || 'nothing'] as const)
      const was = new Map(inWords({ ...before, ...before.may, may: '' }))
      const changes = inWords({ ...rules, ...kept.may }).map(([what, after]) => ({ account: null, what, before: was.get(what) ?? '', after }))
      if (rows.length > 0) await recordChanges(tx, by, changes)
      return rows
    })
    if (changed.length === 0) throw createError({ statusCode: 409, message: t('answers.rulesChangedMeanwhile') })
    await this.load()
    await this.orm.em.fork().execute(`select pg_notify('${channel}', '')`)
    return this.current
  }
}

/** Who keeps accounts makes administrators: that right is theirs alone. */
const isGiven = (right: Right) => right !== 'keepAccounts'
