import { clockOfMinute } from '../calendar/zones'
import { spell } from '../durations/durations'
import type { Operator, Report } from './report'
import { type LevelRule, meanTalk, meanWait, serviceLevel, type Tally } from './service-level'
import type { PlainKey, Speaker } from '../../words/speaker'

/** What charts say, in a sentence or two: for who does not see them, and for who has no time to. */

/** Fewer calls than this say little: whoever draws conclusions is told. */
export const few = 20

export const share = (of: number | null) => of === null ? '–' : `${Math.round(of * 100)} %`
export const clockOf = (halfHour: number) => clockOfMinute(halfHour * 30)
const calls = (t: Speaker, count: number) => t('reports.countCalls', { number: count.toLocaleString('en-GB'), count })
const most = <T>(list: readonly T[], of: (one: T) => number): T | null =>
  list.reduce<T | null>((best, one) => best === null || of(one) > of(best) ? one : best, null)

/** How a way of calls ends in the flow, where it does not end with somebody. */
export const flowEnds: Record<string, PlainKey> = {
  stayed: 'reports.endedThere', abandoned: 'reports.gaveUp', mailbox: 'reports.voicemail', turnedAway: 'reports.turnedAway',
  promised: 'reports.toBeCalledBack', lost: 'reports.lost',
  waiting: 'reports.stillWaits', movedOn: 'reports.movedOn', failed: 'reports.notReached',
}

/** How far a period can be trusted to say something; null when it can. */
export function warningOf(t: Speaker, offered: number): string | null {
  if (offered === 0) return t('reports.nobodyCalledInThisPeriod')
  return offered < few ? t('reports.onlyTooFewToSay', { calls: calls(t, offered) }) : null
}

export function callsInWords(t: Speaker, { byHalfHour, total }: Report): string {
  const busiest = most(byHalfHour.map(({ tally: { offered } }, at) => ({ offered, at })), ({ offered }) => offered)
  if (!busiest || busiest.offered === 0) return t('reports.noCalls')
  const lost = most(byHalfHour.map(({ tally: { abandoned } }, at) => ({ abandoned, at })), ({ abandoned }) => abandoned)!
  const worst = lost.abandoned > 0 ? t('reports.mostOfThemFrom', { at: clockOf(lost.at), abandoned: lost.abandoned }) : ''
  return t('reports.mostFromToGaveUp', {
    calls: calls(t, total.offered), at: clockOf(busiest.at), at2: clockOf(busiest.at + 1), offered: busiest.offered, abandoned: total.abandoned, worst,
  })
}

export function minutesInWords(t: Speaker, { byHalfHour }: Report): string {
  const sum = byHalfHour.reduce((all, { minutes }) => all + minutes, 0)
  const busiest = most(byHalfHour.map(({ minutes }, at) => ({ minutes, at })), ({ minutes }) => minutes)!
  if (sum === 0) return t('reports.nobodyTalked')
  return t('reports.minutesOfConversationMostFrom', {
    sum: Math.round(sum).toLocaleString('en-GB'), at: clockOf(busiest.at), minutes: Math.round(busiest.minutes),
  })
}

/** How long so many of those who waited had to wait at most; seconds. `share` from 0 to 1. */
export function waitWithin(seconds: readonly number[], of: number): number | null {
  const all = seconds.reduce((sum, count) => sum + count, 0)
  if (all === 0) return null
  let sum = 0
  return seconds.findIndex(count => (sum += count) >= of * all - 1e-9)
}

export function waitsInWords(t: Speaker, { waits: { answered } }: Report): string {
  const [half, most] = [waitWithin(answered, 0.5), waitWithin(answered, 0.9)]
  if (half === null || most === null) return t('reports.nobodyWasAnswered')
  return t('reports.halfOfThoseAnsweredWaited', { time: spell((half + 1) * 1_000), time2: spell((most + 1) * 1_000) })
}

const lowestWas = { day: 'reports.theLowestWasOn', week: 'reports.theLowestWasTheWeekFrom', month: 'reports.theLowestWasTheMonthFrom' } as const

export function levelInWords(t: Speaker, { bySteps, step, total }: Report, rule: LevelRule): string {
  const levels = bySteps.flatMap(({ from, tally }) => {
    const level = serviceLevel(tally, rule)
    return level === null ? [] : [{ from, level }]
  })
  const worst = most(levels, ({ level }) => -level)
  const all = serviceLevel(total, rule)
  if (!worst || all === null) return t('reports.thereIsNobodyOfWhom')
  const weekday = step === 'day' ? 'short' : undefined
  const when = new Date(worst.from).toLocaleDateString('en-GB', { timeZone: 'UTC', weekday, day: 'numeric', month: 'short' })
  const lowest = t(lowestWas[step], { share: share(worst.level), when })
  return [t('reports.withinThePromise', { share: share(all) }), ...levels.length > 1 ? [lowest] : []].join(' ')
}

/** Of those who still waited after so long, how many gave up before the next: the hazard of a wait. Bounds are seconds; the last stands for all longer. */
export function givingUp({ answered, abandoned }: Report['waits'], bounds: readonly number[]): { from: number, waited: number, gaveUp: number }[] {
  const sumFrom = (list: readonly number[], from: number, until: number) => list.slice(from, until).reduce((sum, count) => sum + count, 0)
  return bounds.map((from, at) => ({
    from,
    waited: sumFrom(answered, from, Infinity) + sumFrom(abandoned, from, Infinity),
    gaveUp: sumFrom(abandoned, from, bounds[at + 1] ?? Infinity),
  }))
}

export function givingUpInWords(t: Speaker, { total: { abandoned, abandonedAfter, offered } }: Report): string {
  if (abandoned === 0) return t('reports.nobodyGaveUp')
  return t('reports.ofGaveUpOnAverage', { abandoned, offered, share: share(abandoned / offered), time: spell(abandonedAfter / abandoned) })
}

export function operatorsInWords(t: Speaker, operators: readonly Operator[], nameOf: (id: string) => string): string {
  const there = operators.filter(({ attended }) => attended > 0)
  const busiest = most(there, ({ attended, engaged }) => engaged / attended)
  if (!busiest) return t('reports.noOperatorWasThere')
  return t('reports.wasOnCallsForOf', {
    name: nameOf(busiest.id), share: share(busiest.engaged / busiest.attended), time: spell(busiest.attended), count: there.length,
  })
}

export function cameBackInWords(t: Speaker, { byDestination }: Report, nameOf: (id: string) => string): string {
  const passed = byDestination.reduce((sum, one) => sum + one.calls, 0)
  const backs = byDestination.map(({ id, back }) => ({ id, back: back.reduce((sum, one) => sum + one.calls, 0) }))
  const all = backs.reduce((sum, { back }) => sum + back, 0)
  const worst = most(backs, ({ back }) => back)
  if (passed === 0) return t('reports.noCallWasPassedOn')
  if (all === 0 || !worst) return t('reports.passedOnNoneCameBack', { calls: calls(t, passed) })
  return t('reports.ofPassedOnCameBack', { all, passed, share: share(all / passed), name: nameOf(worst.id), back: worst.back })
}

export function againInWords(t: Speaker, { again, total }: Report): string {
  if (again.calls === 0) return t('reports.nobodyCalledAgainWithinA')
  const { calls: many, answered, abandoned } = again
  return t('reports.ofWereFromSomebodyWho', { many, offered: total.offered, answered, abandoned })
}

export function parkingsInWords(t: Speaker, { parkings }: Report): string {
  const stays = parkings.reduce((sum, one) => sum + one.stays, 0)
  const waited = parkings.reduce((sum, one) => sum + one.waited, 0)
  const gaveUp = parkings.reduce((sum, one) => sum + one.gaveUp, 0)
  return stays === 0 ? t('reports.nobodyWasParked') : t('reports.parkedOnAverageGaveUp', { stays, time: spell(waited / stays), gaveUp })
}

/** How a figure has changed against an earlier period: "12 % more", "the same"; null when there is nothing to compare with. */
export function changeInWords(t: Speaker, now: number | null, before: number | null): string | null {
  if (now === null || before === null || before === 0) return null
  const change = now / before - 1
  return Math.abs(change) < 0.005 ? t('reports.theSame') : t(change > 0 ? 'reports.shareMore' : 'reports.shareLess', { share: share(Math.abs(change)) })
}

/** What stands at the head of a report. */
export function headline(t: Speaker, total: Tally, rule: LevelRule): { name: string, value: string, of: number | null }[] {
  const { offered, answered, abandoned, longest } = total
  const level = serviceLevel(total, rule)
  const wait = meanWait(total)
  const length = meanTalk(total)
  return [
    { name: t('reports.offered'), value: offered.toLocaleString('en-GB'), of: offered },
    { name: t('reports.answered'), value: answered.toLocaleString('en-GB'), of: answered },
    { name: t('reports.gaveUp'), value: abandoned.toLocaleString('en-GB'), of: abandoned },
    { name: t('reports.serviceLevel'), value: share(level), of: level },
    { name: t('reports.meanWait'), value: wait === null ? '–' : spell(wait), of: wait },
    { name: t('reports.longestWait'), value: offered === 0 ? '–' : spell(longest), of: longest },
    { name: t('reports.meanLength'), value: length === null ? '–' : spell(length), of: length },
  ]
}
