import type { Company } from '~~/core/company/company'
import { spell } from '~~/core/durations/durations'
import { type LevelRule, meanTalk, meanWait, serviceLevel, type Tally } from '~~/core/figures/service-level'
import {
  againInWords, callsInWords, cameBackInWords, clockOf, givingUp, givingUpInWords, levelInWords, minutesInWords, operatorsInWords, parkingsInWords, share,
  waitsInWords,
} from '~~/core/figures/words'
import type { Link } from '~~/core/figures/report'
import type { Figures, figureTables } from '~~/shared/figures'
import type { PlainKey } from '~~/words/speaker'
import { flowOf } from './flow'
import { t } from '~/composables/language'

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

const parts: { name: PlainKey, shade: string }[] = [
  { name: 'figures.answeredWithinThePromise', shade: 'within' }, { name: 'figures.answeredLater', shade: 'late' }, { name: 'figures.gaveUp', shade: 'gaveUp' },
  { name: 'figures.voicemailMovedOnToBe', shade: 'other' },
]
const partsOf = ({ within, answered, abandoned, offered, waiting }: Tally) => [within, answered - within, abandoned, offered - answered - abandoned - waiting]
const stacked = (tallies: readonly Tally[]): Series[] => [
  ...parts.map(({ name, shade }, at) => ({ name: t(name), shade, values: tallies.map(tally => partsOf(tally)[at]!) })),
  // Whoever waits now is a part of today.
  ...tallies.some(({ waiting }) => waiting > 0) ? [{ name: t('figures.waitingNow'), shade: 'waiting', values: tallies.map(({ waiting }) => waiting) }] : [],
]
const seconds = (ms: number | null) => ms === null ? '–' : spell(ms)
const sum = (list: readonly { calls: number }[]) => list.reduce((all, { calls }) => all + calls, 0)

const tallyKeys = [
  'figures.offered', 'common.answered', 'figures.within', 'figures.gaveUp2', 'figures.other', 'figures.level', 'figures.meanWait', 'figures.longest',
  'figures.meanLength',
] as const satisfies PlainKey[]
const tallyColumns = () => tallyKeys.map(key => t(key))
const tallyCells = (tally: Tally, rule: LevelRule) => [
  tally.offered, tally.answered, tally.within, tally.abandoned, partsOf(tally)[3]!, share(serviceLevel(tally, rule)), seconds(meanWait(tally)),
  spell(tally.longest), seconds(meanTalk(tally)),
]

/** Waits from so many seconds on, to the next. */
const bounds = [0, 5, 10, 15, 20, 30, 45, 60, 90, 120, 180, 300, 600]
const boundLabels = () => bounds.map(from => from === 600
  ? t('figures.n10Min')
  : from < 60
    ? `${from} s`
    : from % 60
      ? spell(from * 1_000)
      : t('figures.nMin', { n: from / 60 }))
const inBounds = (list: readonly number[]) => bounds.map((from, at) => list.slice(from, bounds[at + 1] ?? Infinity).reduce((all, one) => all + one, 0))

const causeWords: Record<string, PlainKey> = {
  noAnswer: 'figures.noAnswer', busy: 'figures.onTheTelephone', doNotDisturb: 'figures.doNotDisturb', declined: 'figures.declined',
  outOfService: 'common.noTelephone', closed: 'figures.closed',
  overflow: 'figures.waitedTooLong', nobodyServes: 'figures.nobodyServed', withdrawn: 'figures.takenBack',
}

function causeOf(cause: string): string {
  const key = causeWords[cause]
  return key ? t(key) : cause
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
  const twice = (times: number) => report.bySteps.length === 1 && times > 1 ? t('figures.twice') : ''
  return [
    {
      kind: 'bars', title: t('figures.callsByHalfHour'), words: callsInWords(t, report), compared: before !== null, table: 'halfHours', legend: series, labels,
      every: 2,
      columns: [t('common.from'), ...tallyColumns()], rows: now.map(({ tally, times }, at) => [`${labels[at]}${twice(times)}`, ...tallyCells(tally, rule)]),
      series, earlier: then?.map(({ tally }) => tally.offered),
    },
    {
      kind: 'level', title: t('figures.serviceLevel'), words: levelInWords(t, report, rule), compared: before !== null, table: 'days', labels: days,
      ...days.length === 1 && { warning: t('figures.oneDayIsOnePoint') },
      columns: [t('common.from'), ...tallyColumns()],
      rows: report.total.offered ? report.bySteps.map(({ tally }, at) => [days[at]!, ...tallyCells(tally, rule)]) : [],
      values: report.bySteps.map(({ tally }) => serviceLevel(tally, rule)), every: Math.ceil(days.length / 8),
      earlier: before?.bySteps.map(({ tally }) => serviceLevel(tally, rule)),
    },
    {
      kind: 'bars', title: t('figures.minutesByHalfHour'), words: minutesInWords(t, report), compared: before !== null, table: 'halfHours', labels, every: 2,
      columns: [t('common.from'), t('figures.minutes')], rows: now.map(({ minutes }, at) => [labels[at]!, Math.round(minutes)]),
      series: [{ name: t('figures.minutesInline'), shade: 'talk', values: now.map(({ minutes }) => minutes) }], earlier: then?.map(({ minutes }) => minutes),
    },
  ]
}

function waitCharts({ report }: Shown): ReportChart[] {
  const { waits, total } = report
  const series = [
    { name: t('figures.answered'), shade: 'within', values: inBounds(waits.answered) },
    { name: t('figures.gaveUp'), shade: 'gaveUp', values: inBounds(waits.abandoned) },
  ]
  const hazards = givingUp(waits, bounds)
  const inHundred = hazards.map(({ waited, gaveUp }) => waited ? 100 * gaveUp / waited : 0)
  return [
    {
      kind: 'bars', title: t('figures.waits'), words: waitsInWords(t, report), table: 'waits', legend: series, labels: boundLabels(), series,
      columns: [t('figures.waitedFrom'), t('common.answered'), t('figures.gaveUp2')],
      rows: total.offered ? boundLabels().map((label, at) => [label, series[0]!.values[at]!, series[1]!.values[at]!]) : [],
    },
    {
      kind: 'bars', title: t('figures.whoGivesUpByHow'), words: givingUpInWords(t, report), table: 'waits', labels: boundLabels(),
      columns: [t('figures.waitedFrom'), t('figures.stillWaited'), t('figures.gaveUpBeforeTheNext'), t('figures.inAHundred')],
      rows: total.abandoned ? hazards.map(({ waited, gaveUp }, at) => [boundLabels()[at]!, waited, gaveUp, inHundred[at]!.toFixed(1)]) : [],
      series: [{ name: t('figures.gaveUpInAHundred'), shade: 'gaveUp', values: inHundred }],
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
  const before = [[t('figures.hadBeenAnswered'), report.again.answered], [t('figures.hadGivenUp'), report.again.abandoned],
    [t('figures.hadGoneElsewhere'), report.again.other]] as const
  const load: ReportChart = {
    kind: 'rows', title: t('figures.operatorsOnCalls'), words: operatorsInWords(t, operators, nameOf), table: 'operators', shade: 'talk', most: 1,
    columns: [t('common.who'), t('common.calls'), t('figures.onCalls'), t('figures.callersOnHold'), t('figures.there'), t('figures.ofItOnCalls')],
    rows: operators.map(({ id, calls, talked, held, attended, engaged }) =>
      [nameOf(id), calls, spell(talked), spell(held), spell(attended), share(engaged / attended)]),
    bars: operators.map(({ id, attended, engaged }) => ({ name: nameOf(id), value: engaged / attended, words: share(engaged / attended) })),
  }
  const again: ReportChart = {
    kind: 'rows', title: t('figures.calledAgainWithinADay'), words: againInWords(t, report), shade: 'other',
    columns: [t('figures.theCallBefore'), t('common.calls')], rows: report.again.calls ? before.map(([name, calls]) => [name, calls]) : [],
    bars: before.map(([name, value]) => ({ name, value, words: String(value) })),
  }
  return [
    {
      kind: 'rows', title: t('figures.linesAndQueues'), words: t('figures.linesAndQueuesHadCalls', {
        count: report.byLine.length, count2: report.byQueue.length,
      }), table: 'queues',
      columns: [t('figures.which'), ...tallyColumns()], rows: places.map(one => [nameOf(one.id), ...tallyCells(one, rule)]), shade: 'within', most: 1,
      bars: places.map(one => ({ name: nameOf(one.id), value: serviceLevel(one, rule) ?? 0, words: t('figures.shareOfOffered', {
        share: share(serviceLevel(one, rule)), offered: one.offered,
      }) })),
    },
    {
      kind: 'flow', title: t('figures.whereCallsGo'), table: 'flow', wide: true, ...flow,
      words: widest
        ? t('figures.theWidestStreamToCalls', { name: flow.nameOf(widest.from), name2: flow.nameOf(widest.to), calls: widest.calls })
        : t('figures.noCalls'),
      columns: [t('common.from'), t('common.to'), t('common.calls')],
      rows: flow.links.map(({ from, to, calls }) => [flow.nameOf(from), flow.nameOf(to), calls]),
    },
    {
      kind: 'rows', title: t('figures.passedOnAndBackAgain'), words: cameBackInWords(t, report, nameOf), table: 'destinations', shade: 'gaveUp',
      columns: [t('common.to'), t('common.calls'), t('common.answered'), t('figures.backOrFurther'), t('figures.why')],
      rows: destinations.map(({ id, calls, answered, back }) =>
        [nameOf(id), calls, answered, sum(back), back.map(one => `${causeOf(one.cause)} ${one.calls}`).join(', ')]),
      bars: backs.slice(0, 8).map(one => ({ name: nameOf(one.id), value: one.backs, words: t('figures.backsOfCalls', {
        backs: one.backs, calls: one.calls,
      }) })),
    },
    {
      kind: 'rows', title: t('figures.colleaguesOnCalls'), words: t('figures.colleaguesWhoAreNoOperators', { count: others.length }), table: 'operators',
      columns: [t('common.who'), t('common.calls'), t('figures.onCalls'), t('figures.callersOnHold')],
      rows: others.map(({ id, calls, talked, held }) => [nameOf(id), calls, spell(talked), spell(held)]),
      bars: others.slice(0, 8).map(({ id, calls, talked }) => ({ name: nameOf(id), value: calls, words: `${calls}, ${spell(talked)}` })), shade: 'talk',
    },
    ...ofQueue ? [] : [load, again],
    {
      kind: 'rows', title: t('common.parkings'), words: parkingsInWords(t, report), table: 'parkings', shade: 'other',
      columns: [t('figures.slot'), t('figures.parked'), t('figures.meanWait'), t('figures.longest'), t('figures.taken'), t('figures.gaveUp2')],
      rows: report.parkings.map(({ slot, stays, waited, longest, taken, gaveUp }) =>
        [nameOf(slot), stays, spell(waited / stays), spell(longest), taken, gaveUp]),
      bars: report.parkings.map(({ slot, stays }) => ({ name: nameOf(slot), value: stays, words: String(stays) })),
    },
  ]
}
