import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import type { Company } from '~~/core/company/company'
import { serviceLevel, tallyFrom } from '~~/core/figures/service-level'
import type { Today } from '~~/shared/figures'
import { rulesOf, todayOf } from './days'

/** Every console asks with every call: whoever asks while it is being asked gets the same answer. */
export class TodayFigures {
  private asked: Promise<Today> | null = null

  constructor(private readonly orm: MikroORM, private readonly company: () => Company, private readonly now: () => number) {}

  read(): Promise<Today> {
    this.asked ??= readToday(this.orm.em.fork(), this.company(), this.now()).finally(() => {
      this.asked = null
    })
    return this.asked
  }
}

/** The figures of each line and queue today, as they stand: what `count` of `core/figures/service-level.ts` counts, by the database. */
async function readToday(em: EntityManager, company: Company, now: number): Promise<Today> {
  const { zone, shortAbandon, promiseOf } = rulesOf(company)
  const promised = [...Object.keys(company.lines), ...Object.keys(company.groups)].map(place => ({ place, promise: promiseOf(place) }))
  const rows = await em.execute<(Record<'offered' | 'answered' | 'within' | 'abandoned' | 'short' | 'movedLate', number> & { place: string })[]>(
    `select l.place, count(*)::int as offered,
      count(*) filter (where l."end" = 'answered')::int as answered,
      count(*) filter (where l."end" = 'answered' and l.waited <= p.promise)::int as within,
      count(*) filter (where l."end" = 'abandoned')::int as abandoned,
      count(*) filter (where l."end" = 'abandoned' and l.waited < ?)::int as short,
      count(*) filter (where l."end" in ('movedOn', 'failed', 'mailbox', 'turnedAway', 'promised') and l.waited > p.promise)::int as "movedLate"
    from leg l join jsonb_to_recordset(?::jsonb) as p(place text, promise float8) on p.place = l.place
    where l.at >= ? and l.kind in ('line', 'group') and not l.back and not (l.kind = 'line' and coalesce(l.cause, '') = 'blocked') group by l.place`,
    [shortAbandon, JSON.stringify(promised), new Date(todayOf(zone, now).begins)],
  )
  const rule = { kind: company.settings.serviceLevel, shortAbandon }
  return {
    places: Object.fromEntries(rows.map(({ place, ...counted }) => {
      const { offered, answered, within, abandoned } = counted
      return [place, { offered, answered, within, abandoned, level: serviceLevel(tallyFrom(counted), rule) }]
    })),
  }
}
