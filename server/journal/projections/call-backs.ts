import { spoken } from '~~/words/phrase'
import { t } from '../../language'
import { promiseOf } from '~~/core/calls/call-backs/call-backs'
import type { CallBack, ExchangeState } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** Whom we have promised to call back, and how that ended: table `call_back`. Times are those that people read. */

export interface CallBackChange { kind: 'callBack', row: Record<string, unknown> }

export const callBacks: Projection<CallBackChange> = {
  changes(event, before, after) {
    if (before.callBacks === after.callBacks) return []
    const id = 'callBack' in event ? event.callBack : 'call' in event ? after.calls.get(event.call)?.callBack : undefined
    const promise = id === undefined ? undefined : promiseOf(after, id)
    return promise && promise !== promiseOf(before, id!) ? [changeOf(after, promise)] : []
  },

  async write(em, changes) {
    for (const { row } of changes) await em.execute(upsert, [JSON.stringify([row])])
  },
}

/** The promises of a state with which the journal begins, or begins again. */
export function openPromises(state: ExchangeState): CallBackChange[] {
  return [...state.callBacks.values(), ...state.callBacksOver].map(promise => changeOf(state, promise))
}

function changeOf({ epoch, seq, clockOffset, company }: ExchangeState, promise: CallBack): CallBackChange {
  const { id, party, line, queue, since, turn, promisedAt, by, assigned, tries, notBefore, end, endedBy, endedAt, word } = promise
  const wall = (at: number | null) => at === null ? null : new Date(at + clockOffset)
  const named = [queue, by, assigned, endedBy].flatMap((device) => {
    const name = device && deviceName(company, device)
    return device && name ? [[device, name]] : []
  })
  return {
    kind: 'callBack',
    row: {
      id, epoch, stands: epoch, seq, number: party.number, name: party.name, line, queue, by, assigned, tries, end, turn: turn ?? null, word: word
        && spoken(t, word),
      names: Object.fromEntries(named),
      since: wall(since), promised_at: wall(promisedAt), not_before: wall(notBefore), ended_by: endedBy, ended_at: wall(endedAt),
    },
  }
}

/** A later event of the same run, or one of a later run, knows better. */
const begun = (of: string) => `(select min(position) from journal_state where epoch = ${of})`
const columns = [
  'id', 'epoch', 'stands', 'seq', 'number', 'name', 'line', 'queue', 'by', 'assigned', 'tries', 'end', 'word', 'turn', 'names', 'since', 'promised_at',
  'not_before', 'ended_by', 'ended_at',
]
const upsert = `
  ${insertRows('call_back', columns, 'known')}
  on conflict ("id") do update set "stands" = excluded."stands", "seq" = excluded."seq", "queue" = excluded."queue", "assigned" = excluded."assigned",
    "tries" = excluded."tries", "not_before" = excluded."not_before", "end" = excluded."end", "ended_by" = excluded."ended_by",
      "ended_at" = excluded."ended_at",
    "word" = excluded."word", "turn" = excluded."turn", "names" = known."names" || excluded."names"
  where (excluded."stands" = known."stands" and excluded."seq" >= known."seq")
    or (excluded."stands" <> known."stands" and known."end" is null and ${begun('excluded."stands"')} > ${begun('known."stands"')})`
