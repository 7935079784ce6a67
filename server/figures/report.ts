import { t } from '../language'
import { spoken, type Spoken } from '~~/words/phrase'
import type { EntityManager } from '@mikro-orm/postgresql'
import { deviceName } from '~~/core/calls/names'
import type { Company } from '~~/core/company/company'
import { lookUp } from '~~/core/company/lookups'
import { directLine, outsidePlace } from '~~/core/figures/legs'
import { type Report, ReportMaker } from '~~/core/figures/report'
import type { Figures } from '~~/shared/figures'
import { daysOf } from '../validation/period'
import { type Asked, figuresOf } from './days'

/**
 * The report of a period of days; null when whoever asked has gone meanwhile.
 * @throws 422 for a period that is none
 */
export async function readReport(asked: Asked, query: { from: string, to: string, line: string, queue: string }): Promise<Figures | null> {
  const { first, last } = daysOf(query)
  const maker = new ReportMaker(asked.company.settings.zone, first, last)
  for await (const [local, figures] of figuresOf(asked, first, last, { line: query.line || null, queue: query.queue || null })) maker.add(local, figures)
  if (asked.gone()) return null
  const report = maker.finish()
  return { ...report, from: query.from, to: query.to, names: await namesOf(asked.em, asked.company, idsIn(report)) }
}

function idsIn({ byLine, byQueue, byDestination, operators, flow, parkings }: Report): Set<string> {
  const flowing = flow.flatMap(({ from, to }) => [from, to].filter(name => name.includes(' ')).map(name => name.slice(name.indexOf(' ') + 1)))
  return new Set([...[byLine, byQueue, byDestination, operators].flatMap(list => list.map(({ id }) => id)), ...flowing, ...parkings.map(({ slot }) => slot)])
}

/** What is no more is called as it was called in the latest call that had to do with it. */
async function namesOf(em: EntityManager, company: Company, ids: ReadonlySet<string>): Promise<Record<string, string>> {
  const names: Record<string, string> = {}
  const unknown: string[] = []
  for (const id of ids) {
    const name = id === directLine
      ? t('figures.directNumbers')
      : id === outsidePlace
        ? t('figures.numbersOutside')
        : lookUp(company.lines, id)?.name
          ?? deviceName(company, id)
    if (name === null) unknown.push(id)
    else names[id] = spoken(t, name)
  }
  if (unknown.length > 0) {
    const rows = await em.execute<{ id: string, name: Spoken | null }[]>(
      `select id, (select r.names->id from call_record r where r.devices @> array[id] and r.names->id is not null order by r.started_at desc limit 1) as name
        from jsonb_array_elements_text(?::jsonb) id`,
      [JSON.stringify(unknown)],
    )
    for (const { id, name } of rows) names[id] = name === null ? t('figures.noLongerThere', { id }) : spoken(t, name)
  }
  return names
}
