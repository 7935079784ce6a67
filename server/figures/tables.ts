import { t } from '../language'
import { writeTable } from '~~/core/formats/csv'
import { type LevelRule, meanTalk, meanWait, serviceLevel, type Tally } from '~~/core/figures/service-level'
import { clockOf, flowEnds } from '~~/core/figures/words'
import type { Figures, figureTables } from '~~/shared/figures'

/** The tables of a report as CSV (RFC 4180). Durations are whole seconds. */

export type FigureTable = typeof figureTables[number]

const seconds = (ms: number | null) => ms === null ? '' : String(Math.round(ms / 1_000))
const share = (of: number | null) => of === null ? '' : of.toFixed(4)
const tallyColumns = [
  'offered', 'answered', 'within the promise', 'given up', 'given up at once', 'moved on', 'voicemail', 'turned away', 'to be called back', 'lost',
  'came back', 'service level',
  'mean wait', 'longest wait', 'mean length',
]

function tallyCells(tally: Tally, rule: LevelRule): string[] {
  const { offered, answered, within, abandoned, short, movedOn, mailbox, turnedAway, promised, lost, back, longest } = tally
  return [
    ...[offered, answered, within, abandoned, short, movedOn, mailbox, turnedAway, promised, lost, back].map(String),
    share(serviceLevel(tally, rule)), seconds(meanWait(tally)), seconds(longest), seconds(meanTalk(tally)),
  ]
}

/** What a link of the flow says at one of its ends: "line general", "at operators", "to t2105", or how a wait ended. */
export function endInWords(end: string, names: Record<string, string>): string {
  const gap = end.indexOf(' ')
  if (gap < 0) return flowEnds[end] ? t(flowEnds[end]) : end
  const id = end.slice(gap + 1)
  return names[id] ?? id
}

export function figureTable(figures: Figures, table: FigureTable, rule: LevelRule): string {
  const { names } = figures
  const named = (head: string, list: Figures['byLine']) => writeTable(
    [head, ...tallyColumns], list.map(({ id, ...tally }) => [names[id] ?? id, ...tallyCells(tally, rule)]),
  )
  switch (table) {
    case 'halfHours': return writeTable(
      ['from', 'times the clock showed it', 'minutes', ...tallyColumns],
      figures.byHalfHour.map(({ tally, minutes, times }, at) => [clockOf(at), String(times), minutes.toFixed(1), ...tallyCells(tally, rule)]),
    )
    case 'days': return writeTable(
      [`${figures.step} from`, ...tallyColumns],
      figures.bySteps.map(({ from, tally }) => [new Date(from).toISOString().slice(0, 10), ...tallyCells(tally, rule)]),
    )
    case 'lines': return named('line', figures.byLine)
    case 'queues': return named('queue', figures.byQueue)
    case 'operators': return writeTable(
      ['who', 'calls', 'seconds on calls', 'of them on hold', 'seconds there as operator', 'of them on calls'],
      figures.operators.map(({ id, calls, talked, held, attended, engaged }) =>
        [names[id] ?? id, String(calls), seconds(talked), seconds(held), seconds(attended), seconds(engaged)]),
    )
    case 'destinations': return writeTable(
      ['to', 'calls', 'answered', 'came back', 'why'],
      figures.byDestination.map(({ id, calls, answered, back }) => [
        names[id] ?? id, String(calls), String(answered), String(back.reduce((sum, one) => sum + one.calls, 0)),
        back.map(one => `${one.cause} ${one.calls}`).join(', '),
      ]),
    )
    case 'waits': return writeTable(
      ['seconds', 'answered', 'given up'],
      figures.waits.answered.flatMap((answered, at) => {
        const abandoned = figures.waits.abandoned[at] ?? 0
        return answered + abandoned > 0 ? [[String(at), String(answered), String(abandoned)]] : []
      }),
    )
    case 'flow': return writeTable(
      ['from', 'to', 'calls'], figures.flow.map(({ from, to, calls }) => [endInWords(from, names), endInWords(to, names), String(calls)]),
    )
    case 'parkings': return writeTable(
      ['slot', 'stays', 'mean wait', 'longest wait', 'taken', 'given up'],
      figures.parkings.map(({ slot, stays, waited, longest, taken, gaveUp }) =>
        [names[slot] ?? slot, String(stays), seconds(waited / stays), seconds(longest), String(taken), String(gaveUp)]),
    )
  }
}
