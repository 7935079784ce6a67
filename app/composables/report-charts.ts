import type { Company } from '~~/core/company/company'
import { spell } from '~~/core/durations/durations'
import { type LevelRule, meanTalk, meanWait, serviceLevel, type Tally } from '~~/core/figures/service-level'
import {
  againInWords, callsInWords, cameBackInWords, clockOf, givingUp, givingUpInWords, levelInWords, minutesInWords, operatorsInWords, parkingsInWords, share,
  waitsInWords,
} from '~~/core/figures/words'
import type { Link } from '~~/core/figures/report'
import type { Figures, figureTables } from '~~/shared/figures'
import { flowOf } from './flow'

/** The charts of a report, as data: what each shows, says in words, and holds as a table. */

interface Said {
  title: string
  words: string
  warning?: string
  compared?: boolean
  columns: string[]
  rows: (string | number)[][]
  table?: typeof figureTables[number]
  wide?: boolean
}
export interface Series { name: string, shade: string, values: number[] }
export type ReportChart = Said & (
  | { kind: 'bars', labels: string[], series: Series[], legend?: { name: string, shade: string }[], earlier?: number[] | null, every?: number }
  | { kind: 'level', labels: string[], values: (number | null)[], earlier?: (number | null)[] | null, every: number }
  | { kind: 'rows', bars: { name: string, value: number, words: string }[], shade: string, most?: number }
  | { kind: 'flow', links: Link[], nameOf: (end: string) => string }
)

export interface Shown {
  report: Figures
  before: Figures | null
  rule: LevelRule
  company: Company | null
  ofQueue: boolean
}

const parts = [
  { name: 'answered within the promise', shade: 'within' }, { name: 'answered later', shade: 'late' }, { name: 'gave up', shade: 'gaveUp' },
  { name: 'voicemail, moved on, to be called back or turned away', shade: 'other' },
]
const partsOf = ({ within, answered, abandoned, offered, waiting }: Tally) => [within, answered - within, abandoned, offered - answered - abandoned - waiting]
/** Whoever waits now is a part of today. */
const stillWaits = { name: 'waiting now', shade: 'waiting' }
const stacked = (tallies: readonly Tally[]): Series[] => [
  ...parts.map((part, at) => ({ ...part, values: tallies.map(tally => partsOf(tally)[at]!) })),
  ...tallies.some(({ waiting }) => waiting > 0) ? [{ ...stillWaits, values: tallies.map(({ waiting }) => waiting) }] : [],
]
const seconds = (ms: number | null) => ms === null ? '–' : spell(ms)
const sum = (list: readonly { calls: number }[]) => list.reduce((all, { calls }) => all + calls, 0)

const tallyColumns = ['Offered', 'Answered', 'Within', 'Gave up', 'Other', 'Level', 'Mean wait', 'Longest', 'Mean length']
const tallyCells = (tally: Tally, rule: LevelRule) => [
  tally.offered, tally.answered, tally.within, tally.abandoned, partsOf(tally)[3]!, share(serviceLevel(tally, rule)), seconds(meanWait(tally)),
  spell(tally.longest), seconds(meanTalk(tally)),
]

/** Waits from so many seconds on, to the next. */
const bounds = [0, 5, 10, 15, 20, 30, 45, 60, 90, 120, 180, 300, 600]
const boundLabels = bounds.map(from => from === 600 ? '10 min+' : from < 60 ? `${from} s` : from % 60 ? spell(from * 1_000) : `${from / 60} min`)
const inBounds = (list: readonly number[]) => bounds.map((from, at) => list.slice(from, bounds[at + 1] ?? Infinity).reduce((all, one) => all + one, 0))

const causeWords: Record<string, string> = {
  noAnswer: 'no answer', busy: 'on the telephone', doNotDisturb: 'do not disturb', declined: 'declined', outOfService: 'no telephone', closed: 'closed',
  overflow: 'waited too long', nobodyServes: 'nobody served', withdrawn: 'taken back',
}

export function chartsOf(shown: Shown): ReportChart[] {
  return [...timeCharts(shown), ...waitCharts(shown), ...peopleCharts(shown)]
}

/** The half-hours in which anybody called, or talked, in either period, from the first to the last. */
function busyHours(report: Figures, before: Figures | null): number[] {
  const isBusy = (figures: Figures, at: number) => figures.byHalfHour[at]!.tally.offered + figures.byHalfHour[at]!.minutes > 0
  const busy = report.byHalfHour.flatMap((_, at) => isBusy(report, at) || (before && isBusy(before, at)) ? [at] : [])
  return busy.length === 0 ? [] : Array.from({ length: busy.at(-1)! - busy[0]! + 1 }, (_, at) => busy[0]! + at)
}

function timeCharts({ report, before, rule }: Shown): ReportChart[] {
  const hours = busyHours(report, before)
  const labels = hours.map(clockOf)
  const now = hours.map(at => report.byHalfHour[at]!)
  const series = stacked(now.map(({ tally }) => tally))
  const then = before && hours.map(at => before.byHalfHour[at]!)
  const dayOf = (from: number) => new Date(from).toLocaleDateString('en-GB', {
    timeZone: 'UTC', month: 'short', ...report.step === 'month' ? { year: '2-digit' } : { day: 'numeric' },
  })
  const days = report.bySteps.map(({ from }) => dayOf(from))
  const twice = (times: number) => report.bySteps.length === 1 && times > 1 ? ' (twice)' : ''
  return [
    {
      kind: 'bars', title: 'Calls by half-hour', words: callsInWords(report), compared: before !== null, table: 'halfHours', legend: series, labels, every: 2,
      columns: ['From', ...tallyColumns], rows: now.map(({ tally, times }, at) => [`${labels[at]}${twice(times)}`, ...tallyCells(tally, rule)]),
      series, earlier: then?.map(({ tally }) => tally.offered),
    },
    {
      kind: 'level', title: 'Service level', words: levelInWords(report, rule), compared: before !== null, table: 'days', labels: days,
      ...days.length === 1 && { warning: 'One day is one point.' },
      columns: ['From', ...tallyColumns],
      rows: report.total.offered ? report.bySteps.map(({ tally }, at) => [days[at]!, ...tallyCells(tally, rule)]) : [],
      values: report.bySteps.map(({ tally }) => serviceLevel(tally, rule)), every: Math.ceil(days.length / 8),
      earlier: before?.bySteps.map(({ tally }) => serviceLevel(tally, rule)),
    },
    {
      kind: 'bars', title: 'Minutes by half-hour', words: minutesInWords(report), compared: before !== null, table: 'halfHours', labels, every: 2,
      columns: ['From', 'Minutes'], rows: now.map(({ minutes }, at) => [labels[at]!, Math.round(minutes)]),
      series: [{ name: 'minutes', shade: 'talk', values: now.map(({ minutes }) => minutes) }], earlier: then?.map(({ minutes }) => minutes),
    },
  ]
}

function waitCharts({ report }: Shown): ReportChart[] {
  const { waits, total } = report
  const series = [
    { name: 'answered', shade: 'within', values: inBounds(waits.answered) }, { name: 'gave up', shade: 'gaveUp', values: inBounds(waits.abandoned) },
  ]
  const hazards = givingUp(waits, bounds)
  const inHundred = hazards.map(({ waited, gaveUp }) => waited ? 100 * gaveUp / waited : 0)
  return [
    {
      kind: 'bars', title: 'Waits', words: waitsInWords(report), table: 'waits', legend: series, labels: boundLabels, series,
      columns: ['Waited from', 'Answered', 'Gave up'],
      rows: total.offered ? boundLabels.map((label, at) => [label, series[0]!.values[at]!, series[1]!.values[at]!]) : [],
    },
    {
      kind: 'bars', title: 'Who gives up, by how long they have waited', words: givingUpInWords(report), table: 'waits', labels: boundLabels,
      columns: ['Waited from', 'Still waited', 'Gave up before the next', 'In a hundred'],
      rows: total.abandoned ? hazards.map(({ waited, gaveUp }, at) => [boundLabels[at]!, waited, gaveUp, inHundred[at]!.toFixed(1)]) : [],
      series: [{ name: 'gave up, in a hundred of those who still waited', shade: 'gaveUp', values: inHundred }],
    },
  ]
}

function peopleCharts({ report, rule, company, ofQueue }: Shown): ReportChart[] {
  const nameOf = (id: string) => report.names[id] ?? id
  const operators = report.operators.filter(({ attended }) => attended > 0).sort((a, b) => b.engaged / b.attended - a.engaged / a.attended)
  const others = report.operators.filter(({ attended }) => attended === 0).sort((a, b) => b.calls - a.calls)
  const destinations = [...report.byDestination].sort((a, b) => b.calls - a.calls)
  const backs = destinations.map(({ id, calls, back }) => ({ id, calls, backs: sum(back) })).filter(one => one.backs > 0).sort((a, b) => b.backs - a.backs)
  const flow = flowOf(report.flow, company, nameOf)
  const [widest] = [...flow.links].filter(({ from, to }) => !from.startsWith('line ') && to !== 'others').sort((a, b) => b.calls - a.calls)
  const places = [...report.byLine, ...report.byQueue]
  const before = [['had been answered', report.again.answered], ['had given up', report.again.abandoned], ['had gone elsewhere', report.again.other]] as const
  const load: ReportChart = {
    kind: 'rows', title: 'Operators on calls', words: operatorsInWords(operators, nameOf), table: 'operators', shade: 'talk', most: 1,
    columns: ['Who', 'Calls', 'On calls', 'Callers on hold', 'There', 'Of it on calls'],
    rows: operators.map(({ id, calls, talked, held, attended, engaged }) =>
      [nameOf(id), calls, spell(talked), spell(held), spell(attended), share(engaged / attended)]),
    bars: operators.map(({ id, attended, engaged }) => ({ name: nameOf(id), value: engaged / attended, words: share(engaged / attended) })),
  }
  const again: ReportChart = {
    kind: 'rows', title: 'Called again within a day', words: againInWords(report), shade: 'other',
    columns: ['The call before', 'Calls'], rows: report.again.calls ? before.map(([name, calls]) => [name, calls]) : [],
    bars: before.map(([name, value]) => ({ name, value, words: String(value) })),
  }
  return [
    {
      kind: 'rows', title: 'Lines and queues', words: `${report.byLine.length} lines and ${report.byQueue.length} queues had calls.`, table: 'queues',
      columns: ['Which', ...tallyColumns], rows: places.map(one => [nameOf(one.id), ...tallyCells(one, rule)]), shade: 'within', most: 1,
      bars: places.map(one => ({ name: nameOf(one.id), value: serviceLevel(one, rule) ?? 0, words: `${share(serviceLevel(one, rule))} of ${one.offered}` })),
    },
    {
      kind: 'flow', title: 'Where calls go', table: 'flow', wide: true, ...flow,
      words: widest ? `The widest stream: ${flow.nameOf(widest.from)} to ${flow.nameOf(widest.to)}, ${widest.calls} calls.` : 'No calls.',
      columns: ['From', 'To', 'Calls'], rows: flow.links.map(({ from, to, calls }) => [flow.nameOf(from), flow.nameOf(to), calls]),
    },
    {
      kind: 'rows', title: 'Passed on, and back again', words: cameBackInWords(report, nameOf), table: 'destinations', shade: 'gaveUp',
      columns: ['To', 'Calls', 'Answered', 'Back or further', 'Why'],
      rows: destinations.map(({ id, calls, answered, back }) =>
        [nameOf(id), calls, answered, sum(back), back.map(one => `${causeWords[one.cause] ?? one.cause} ${one.calls}`).join(', ')]),
      bars: backs.slice(0, 8).map(one => ({ name: nameOf(one.id), value: one.backs, words: `${one.backs} of ${one.calls}` })),
    },
    {
      kind: 'rows', title: 'Colleagues on calls', words: `${others.length} colleagues who are no operators answered or made calls.`, table: 'operators',
      columns: ['Who', 'Calls', 'On calls', 'Callers on hold'],
      rows: others.map(({ id, calls, talked, held }) => [nameOf(id), calls, spell(talked), spell(held)]),
      bars: others.slice(0, 8).map(({ id, calls, talked }) => ({ name: nameOf(id), value: calls, words: `${calls}, ${spell(talked)}` })), shade: 'talk',
    },
    ...ofQueue ? [] : [load, again],
    {
      kind: 'rows', title: 'Parkings', words: parkingsInWords(report), table: 'parkings', shade: 'other',
      columns: ['Slot', 'Parked', 'Mean wait', 'Longest', 'Taken', 'Gave up'],
      rows: report.parkings.map(({ slot, stays, waited, longest, taken, gaveUp }) =>
        [nameOf(slot), stays, spell(waited / stays), spell(longest), taken, gaveUp]),
      bars: report.parkings.map(({ slot, stays }) => ({ name: nameOf(slot), value: stays, words: String(stays) })),
    },
  ]
}
