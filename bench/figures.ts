import { merrowby } from '../demo/company/merrowby'
import { readReport } from '../server/figures/report'
import { prepareDays } from '../server/figures/days'
import { connectDatabase } from '../server/database/orm'

/** Reports over a year of calls, beside plain SQL over the raw records. Figures are milliseconds, medians of several runs. */

const from = '2030-01-01'
const to = '2030-12-31'
const now = Date.UTC(2031, 0, 2)
const runs = 9

const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!

async function timed(what: () => Promise<unknown>): Promise<number> {
  const times: number[] = []
  for (let run = 0; run < runs; run++) {
    const begun = performance.now()
    await what()
    times.push(performance.now() - begun)
  }
  return median(times)
}

/** @param url the database, as its owner */
export async function figuresOfYear(url: string, calls: number): Promise<object[]> {
  const orm = await connectDatabase(url, { query: 0 })
  try {
    const em = orm.em.fork()
    const company = merrowby(182)
    await made(em, calls)
    const begun = performance.now()
    await prepareDays(orm, () => company, () => now, () => false)
    const prepared = performance.now() - begun
    const asked = { em, company, now, gone: () => false }
    const report = (line: string, queue: string) => timed(() => readReport(asked, { from, to, line, queue }))
    const plain = await timed(() => em.execute(`
      select extract(hour from started_at at time zone 'Europe/London') as hour, line, count(*), count(answered_at),
        avg(extract(epoch from answered_at - started_at)),
        max(extract(epoch from coalesce(answered_at, ended_at) - started_at)), avg(extract(epoch from ended_at - answered_at))
      from call_record where direction = 'inbound' and started_at >= '${from}' and started_at < '${to}'::date + 1 group by 1, 2`))
    return [
      { what: 'counting every day of the year once', ms: Math.round(prepared) },
      { what: 'all calls', ms: Math.round(await report('', '')) },
      { what: 'the busiest line', ms: Math.round(await report('general', '')) },
      { what: 'a queue', ms: Math.round(await report('', 'operators')) },
      { what: 'a queue and a line', ms: Math.round(await report('general', 'operators')) },
      { what: 'one day of it', ms: Math.round(await timed(() => readReport(asked, { from: '2030-06-03', to: '2030-06-03', line: '', queue: '' }))) },
      { what: 'plain SQL over the raw records: calls, waits and lengths by hour and line alone', ms: Math.round(plain) },
    ]
  }
  finally {
    await orm.close(true)
  }
}

/** Calls of a year, spread over its days from eight to six, most on one line; every call waits for the operators, and two in three are passed on. */
async function made(em: { execute: (sql: string) => Promise<unknown> }, calls: number): Promise<void> {
  await em.execute('select setseed(0.5)')
  await em.execute(`
    create unlogged table made as
    select n, case when random() < 0.6 then 'general' else 'reservations' end as line, random() < 0.06 as gave_up, (random() * 40000)::bigint as waited,
      (20000 + random() * 200000)::bigint as talked, 't' || (2100 + (random() * 2)::int) as operator, 't' || (2105 + (random() * 120)::int) as colleague,
      '+4477009' || lpad(((random() * 99999)::int)::text, 5, '0') as number,
      timestamptz '${from} 08:00+00' + ((n * 365) / ${calls}) * interval '1 day' + random() * interval '10 hours' as at
    from generate_series(0, ${calls} - 1) n`)
  await em.execute(`
    insert into call_record (
      id, epoch, seq, direction, number, dialled, line, started_at, answered_at, ended_at, outcome, answered_by, ended_with, devices, names, story, searchable
    )
    select 'made-' || n, 'made', 1, 'inbound', number, '+441632960000', line, at, case when not gave_up then at + waited * interval '1 ms' end,
      at + (waited + talked) * interval '1 ms', case when gave_up then 'missed' else 'answered' end, operator, colleague, array[operator, colleague], '{}',
      jsonb_build_array(jsonb_build_object('at', 0, 'type', 'originated', 'device', 'east#1')),
      number
    from made`)
  const columns = 'call, seq, kind, place, epoch, at, began, direction, line, number, passed_by, back, "end", "by", waited, talked, next'
  const ended = `case when gave_up then 'abandoned' else 'answered' end, case when not gave_up then operator end, waited, case when not gave_up then talked end`
  await em.execute(`
    insert into leg (${columns})
    select 'made-' || n, 1, 'line', line, 'made', at, 0, 'inbound', line, number, null, false, ${ended}, null from made
    union all select 'made-' || n, 2, 'group', 'operators', 'made', at, 0, 'inbound', line, null, null, false, ${ended},
      case when n % 3 > 0 and not gave_up then colleague end from made
    union all select 'made-' || n, 3, 'telephone', colleague, 'made', at + (waited + talked) * interval '1 ms', 0, 'inbound', line, null, operator, false,
      'answered', colleague, 4000, talked, null from made where n % 3 > 0 and not gave_up`)
  await em.execute('analyze leg; analyze call_record')
}
