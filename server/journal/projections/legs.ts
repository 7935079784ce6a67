import type { EntityManager } from '@mikro-orm/postgresql'
import type { ExchangeState } from '~~/core/calls/model'
import { type LegChange, legChanges, legsOfLiving } from '~~/core/figures/legs'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** Every stay of a call where it waits, and what became of it: table `leg`, from which figures are counted. */

type Placed = LegChange & { epoch: string, seq: number, offset: number }
/** Legs of other epochs, and of calls of this one that are not among the living at this event, have ended without anybody having seen it. */
type Lost = { kind: 'legsLost', epoch: string, seq: number, living: string[] }
export type LegsChange = Placed | Lost
type Of<K extends LegChange['kind']> = Extract<LegChange, { kind: K }> & Pick<Placed, 'epoch' | 'seq' | 'offset'>

export const legs: Projection<LegsChange> = {
  changes: (event, before, after) => placed(legChanges(event, before, after), after, event.seq),

  /**
   * In four steps, each of which finds the leg that it means by the number of its event: the latest that began before. So it does not matter what is written
   * in one batch, or written again by another server.
   */
  async write(em, changes) {
    const of = <K extends LegsChange['kind']>(kind: K) => changes.filter((change): change is Extract<LegsChange, { kind: K }> => change.kind === kind)
    await begin(em, of('legBegun') as Of<'legBegun'>[])
    const waits = firstAnswers(of('legWaited') as Of<'legWaited'>[])
    if (waits.length > 0) await em.execute(waited, [JSON.stringify(waits)])
    const talks = of('legTalked')
    if (talks.length > 0) await em.execute(talked, [JSON.stringify(talks)])
    const overs = of('legsOver')
    if (overs.length > 0) await em.execute(over, [JSON.stringify(overs)])
    for (const { epoch, seq, living } of of('legsLost')) await em.execute(lost, [epoch, epoch, epoch, seq, JSON.stringify(living)])
  },
}

/** Legs of calls that live in a state with which the journal begins, or begins again; whatever else is still open has been lost. */
export function livingLegs(state: ExchangeState): LegsChange[] {
  const { epoch, seq } = state
  return [...placed(legsOfLiving(state), state, seq), { kind: 'legsLost', epoch, seq, living: [...state.calls.keys()] }]
}

function placed(changes: LegChange[], { epoch, clockOffset }: ExchangeState, seq: number): Placed[] {
  return changes.map(change => ({ ...change, epoch, seq, offset: clockOffset }))
}

/** Of a call on a line only the first answer counts, or else what came last. */
function firstAnswers(changes: readonly Of<'legWaited'>[]): Of<'legWaited'>[] {
  const calls = new Map<string, Of<'legWaited'>>()
  for (const change of changes) {
    if (change.of !== 'line' && change.of !== 'made') continue
    const before = calls.get(change.call)
    if (before?.end !== 'answered') calls.set(change.call, change)
  }
  return changes.filter(change => (change.of !== 'line' && change.of !== 'made') || calls.get(change.call) === change)
}

async function begin(em: EntityManager, changes: readonly Of<'legBegun'>[]): Promise<void> {
  if (changes.length === 0) return
  const rows = changes.map(({ call, seq, epoch, of, place, at, offset, direction, line, number, passedBy, back, by, unlessOpen }) => ({
    call, seq, epoch, place, direction, line, number, back, by, kind: of, at: new Date(at + offset), began: at, passed_by: passedBy, held: 0, unlessOpen,
    ...of === 'joined' ? { end: 'answered', waited: 0 } : { end: 'waiting' },
  }))
  const guarded = rows.filter(({ unlessOpen }) => unlessOpen).map(({ call, kind, place }) => ({ call, kind, place }))
  await em.execute(begun, [JSON.stringify(rows), JSON.stringify(guarded)])
}

const columns = [
  'call', 'seq', 'epoch', 'place', 'direction', 'line', 'number', 'back', 'by', 'kind', 'at', 'began', 'passed_by', 'held', 'end', 'waited',
]
const begun = `
  ${insertRows('leg', columns)} r
  where not exists (
    select 1 from jsonb_to_recordset(?::jsonb) as g(call text, kind text, place text)
    join "leg" known on known.call = g.call and known.kind = g.kind and known.place = g.place
      and (known."end" = 'waiting' or (known."end" = 'answered' and known.talked is null))
    where g.call = r.call and g.kind = r.kind and g.place = r.place
  )
  on conflict do nothing`

const waited = `
  update "leg" set "end" = w."end", "cause" = w.cause, "by" = coalesce(w."by", "leg"."by"), "waited" = w.at - "leg".began, "next" = w.next, "ended_seq" = w.seq
  from jsonb_to_recordset(?::jsonb) as w(call text, "of" text, place text, seq int, at bigint, "end" text, cause text, "by" text, next text)
  where "leg".call = w.call and "leg".kind = w."of" and "leg".place = w.place
    and "leg".seq = (select max(seq) from "leg" l where l.call = w.call and l.kind = w."of" and l.place = w.place and l.seq <= w.seq)
    and "leg"."end" <> 'answered' and coalesce("leg".ended_seq, -1) < w.seq`

const talked = `
  update "leg" set "talked" = t.at - "leg".began - "leg".waited, "held" = t.held, "next" = coalesce(t.next, "leg".next)
  from jsonb_to_recordset(?::jsonb) as t(call text, "by" text, seq int, at bigint, held bigint, next text)
  where "leg".call = t.call and "leg"."by" = t."by" and "leg".kind <> 'line' and "leg"."end" = 'answered' and "leg".talked is null
    and "leg".seq = (select max(seq) from "leg" l where l.call = t.call and l."by" = t."by" and l.kind <> 'line' and l.seq < t.seq)`

const over = `
  update "leg" set
    "end" = case when "leg"."end" = 'waiting' then o."end" else "leg"."end" end,
    "cause" = case when "leg"."end" = 'waiting' then o.cause else "leg".cause end,
    "waited" = coalesce("leg".waited, o.at - "leg".began),
    "talked" = case when "leg"."end" = 'answered' then o.at - "leg".began - "leg".waited end,
    "ended_seq" = coalesce("leg".ended_seq, o.seq)
  from jsonb_to_recordset(?::jsonb) as o(call text, seq int, at bigint, "end" text, cause text)
  where "leg".call = o.call and ("leg"."end" = 'waiting' or ("leg"."end" = 'answered' and "leg".talked is null))`

/** What is lost has lasted as long as the journal knows of its exchange. */
const lost = `
  update "leg" set
    "end" = case when "end" = 'waiting' then 'lost' else "end" end,
    "waited" = coalesce("waited", greatest(0, coalesce(heard.last, "began") - "began")),
    "talked" = case when "end" = 'answered' then greatest(0, coalesce(heard.last, "began") - "began" - "waited") end
  from (
    select o.epoch, (select (extract(epoch from j.at) * 1000)::bigint from journal j where j.epoch = o.epoch order by j.seq desc limit 1) as last
    from (select distinct epoch from "leg" where "end" = 'waiting' or ("end" = 'answered' and talked is null)) o
  ) heard
  where "leg".epoch = heard.epoch and ("end" = 'waiting' or ("end" = 'answered' and "talked" is null))
    and (("leg".epoch <> ? and "leg".epoch not in
        (select epoch from journal_state where position > coalesce((select min(position) from journal_state where epoch = ?), 0)))
      or ("leg".epoch = ? and "leg".seq <= ? and not "leg".call in (select jsonb_array_elements_text(?::jsonb))))`
