import type { ExchangeState } from '~~/core/calls/model'
import type { Projection } from './projection'

/** When operators are there, by their consoles: table `attendance`. */

export type AttendanceChange
  = | { kind: 'attended', device: string, epoch: string, seq: number, at: number }
    | { kind: 'left', device: string, epoch: string, seq: number, at: number }
    /** A run of the exchange begins: whoever was there in an earlier one was so until then. */
    | { kind: 'allLeft', epoch: string, at: number }

export const attendance: Projection<AttendanceChange> = {
  changes(event, before, after) {
    if (before.agents === after.agents) return []
    const { epoch, clockOffset } = after
    const at = event.at + clockOffset
    return [...new Set([...before.agents.keys(), ...after.agents.keys()])].flatMap((device): AttendanceChange[] => {
      const [was, is] = [before, after].map(state => state.agents.get(device)?.attended ?? false)
      return was === is ? [] : [{ kind: is ? 'attended' : 'left', device, epoch, seq: event.seq, at }]
    })
  },

  async write(em, changes) {
    for (const change of changes) {
      const at = new Date(change.at)
      if (change.kind === 'attended') await em.execute(begin, [change.device, change.epoch, change.seq, at, change.device, change.epoch])
      else if (change.kind === 'left') await em.execute(end, [at, change.device, change.epoch, change.seq])
      else await em.execute(endAll, [at, change.epoch, change.epoch])
    }
  },
}

/** Who is there in a state with which the journal begins, or begins again. */
export function thereAtFirst({ epoch, seq, agents }: ExchangeState, at: number): AttendanceChange[] {
  return [
    { kind: 'allLeft', epoch, at },
    ...[...agents].filter(([, { attended }]) => attended).map(([device]): AttendanceChange => ({ kind: 'attended', device, epoch, seq, at })),
  ]
}

const begin = `
  insert into "attendance" ("device", "epoch", "seq", "at") select ?, ?, ?, ?
  where not exists (select 1 from "attendance" where "device" = ? and "epoch" = ? and "until" is null) on conflict do nothing`

const end = `
  update "attendance" set "until" = greatest("at", ?) where "device" = ? and "epoch" = ? and "seq" < ? and "until" is null`

/** They were there until their exchange was last heard. */
const endAll = `
  update "attendance" set "until" = greatest("at", least(?, (select j.at from journal j where j.epoch = "attendance".epoch order by j.seq desc limit 1)))
    where "until" is null and "epoch" <> ?
    and "epoch" not in (select epoch from journal_state where position > coalesce((select min(position) from journal_state where epoch = ?), 0))`
