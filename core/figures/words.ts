import { clockOfMinute } from '../calendar/zones'
import { spell } from '../durations/durations'
import type { Operator, Report } from './report'
import { type LevelRule, meanTalk, meanWait, serviceLevel, type Tally } from './service-level'

/** What charts say, in a sentence or two: for who does not see them, and for who has no time to. */

/** Fewer calls than this say little: whoever draws conclusions is told. */
export const few = 20

export const share = (of: number | null) => of === null ? '–' : `${Math.round(of * 100)} %`
export const clockOf = (halfHour: number) => clockOfMinute(halfHour * 30)
const calls = (count: number) => `${count.toLocaleString('en-GB')} call${count === 1 ? '' : 's'}`
const most = <T>(list: readonly T[], of: (one: T) => number): T | null =>
  list.reduce<T | null>((best, one) => best === null || of(one) > of(best) ? one : best, null)

/** How a way of calls ends in the flow, where it does not end with somebody. */
export const flowEnds: Record<string, string> = {
  stayed: 'ended there', abandoned: 'gave up', mailbox: 'voicemail', turnedAway: 'turned away', promised: 'to be called back', lost: 'lost',
  waiting: 'still waits', movedOn: 'moved on', failed: 'not reached',
}

/** How far a period can be trusted to say something; null when it can. */
export function warningOf(offered: number): string | null {
  if (offered === 0) return 'Nobody called in this period.'
  return offered < few ? `Only ${calls(offered)}: too few to say much.` : null
}

export function callsInWords({ byHalfHour, total }: Report): string {
  const busiest = most(byHalfHour.map(({ tally: { offered } }, at) => ({ offered, at })), ({ offered }) => offered)
  if (!busiest || busiest.offered === 0) return 'No calls.'
  const lost = most(byHalfHour.map(({ tally: { abandoned } }, at) => ({ abandoned, at })), ({ abandoned }) => abandoned)!
  const worst = lost.abandoned > 0 ? `, most of them from ${clockOf(lost.at)} (${lost.abandoned})` : ''
  return `${calls(total.offered)}, most from ${clockOf(busiest.at)} to ${clockOf(busiest.at + 1)} (${busiest.offered}). ${total.abandoned} gave up${worst}.`
}

export function minutesInWords({ byHalfHour }: Report): string {
  const sum = byHalfHour.reduce((all, { minutes }) => all + minutes, 0)
  const busiest = most(byHalfHour.map(({ minutes }, at) => ({ minutes, at })), ({ minutes }) => minutes)!
  if (sum === 0) return 'Nobody talked.'
  return `${Math.round(sum).toLocaleString('en-GB')} minutes of conversation, most from ${clockOf(busiest.at)} (${Math.round(busiest.minutes)}).`
}

/** How long so many of those who waited had to wait at most; seconds. `share` from 0 to 1. */
export function waitWithin(seconds: readonly number[], of: number): number | null {
  const all = seconds.reduce((sum, count) => sum + count, 0)
  if (all === 0) return null
  let sum = 0
  return seconds.findIndex(count => (sum += count) >= of * all - 1e-9)
}

export function waitsInWords({ waits: { answered } }: Report): string {
  const [half, most] = [waitWithin(answered, 0.5), waitWithin(answered, 0.9)]
  if (half === null || most === null) return 'Nobody was answered.'
  return `Half of those answered waited less than ${spell((half + 1) * 1_000)}, nine in ten less than ${spell((most + 1) * 1_000)}.`
}

export function levelInWords({ bySteps, step, total }: Report, rule: LevelRule): string {
  const levels = bySteps.flatMap(({ from, tally }) => {
    const level = serviceLevel(tally, rule)
    return level === null ? [] : [{ from, level }]
  })
  const worst = most(levels, ({ level }) => -level)
  const all = serviceLevel(total, rule)
  if (!worst || all === null) return 'There is nobody of whom a service level could be counted.'
  const weekday = step === 'day' ? 'short' : undefined
  const when = new Date(worst.from).toLocaleDateString('en-GB', { timeZone: 'UTC', weekday, day: 'numeric', month: 'short' })
  const lowest = `The lowest was ${share(worst.level)}, ${step === 'day' ? 'on' : `the ${step} from`} ${when}.`
  return [`${share(all)} within the promise.`, ...levels.length > 1 ? [lowest] : []].join(' ')
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

export function givingUpInWords({ total: { abandoned, abandonedAfter, offered } }: Report): string {
  if (abandoned === 0) return 'Nobody gave up.'
  return `${abandoned} of ${offered} gave up (${share(abandoned / offered)}), on average after ${spell(abandonedAfter / abandoned)}.`
}

export function operatorsInWords(operators: readonly Operator[], nameOf: (id: string) => string): string {
  const there = operators.filter(({ attended }) => attended > 0)
  const busiest = most(there, ({ attended, engaged }) => engaged / attended)
  if (!busiest) return 'No operator was there.'
  return `${nameOf(busiest.id)} was on calls for ${share(busiest.engaged / busiest.attended)} of ${spell(busiest.attended)} there, the most of ${there.length}.`
}

export function cameBackInWords({ byDestination }: Report, nameOf: (id: string) => string): string {
  const passed = byDestination.reduce((sum, one) => sum + one.calls, 0)
  const backs = byDestination.map(({ id, back }) => ({ id, back: back.reduce((sum, one) => sum + one.calls, 0) }))
  const all = backs.reduce((sum, { back }) => sum + back, 0)
  const worst = most(backs, ({ back }) => back)
  if (passed === 0) return 'No call was passed on.'
  if (all === 0 || !worst) return `${calls(passed)} passed on; none came back.`
  return `${all} of ${passed} passed on came back or went further (${share(all / passed)}), most from ${nameOf(worst.id)} (${worst.back}).`
}

export function againInWords({ again, total }: Report): string {
  if (again.calls === 0) return 'Nobody called again within a day.'
  const { calls: many, answered, abandoned } = again
  return `${many} of ${total.offered} were from somebody who had called within a day before: ${answered} had been answered, ${abandoned} had given up.`
}

export function parkingsInWords({ parkings }: Report): string {
  const stays = parkings.reduce((sum, one) => sum + one.stays, 0)
  const waited = parkings.reduce((sum, one) => sum + one.waited, 0)
  const gaveUp = parkings.reduce((sum, one) => sum + one.gaveUp, 0)
  return stays === 0 ? 'Nobody was parked.' : `${stays} parked, ${spell(waited / stays)} on average; ${gaveUp} gave up there.`
}

/** How a figure has changed against an earlier period: "12 % more", "the same"; null when there is nothing to compare with. */
export function changeInWords(now: number | null, before: number | null): string | null {
  if (now === null || before === null || before === 0) return null
  const change = now / before - 1
  return Math.abs(change) < 0.005 ? 'the same' : `${share(Math.abs(change))} ${change > 0 ? 'more' : 'less'}`
}

/** What stands at the head of a report. */
export function headline(total: Tally, rule: LevelRule): { name: string, value: string, of: number | null }[] {
  const { offered, answered, abandoned, longest } = total
  const level = serviceLevel(total, rule)
  const wait = meanWait(total)
  const length = meanTalk(total)
  return [
    { name: 'offered', value: offered.toLocaleString('en-GB'), of: offered },
    { name: 'answered', value: answered.toLocaleString('en-GB'), of: answered },
    { name: 'gave up', value: abandoned.toLocaleString('en-GB'), of: abandoned },
    { name: 'service level', value: share(level), of: level },
    { name: 'mean wait', value: wait === null ? '–' : spell(wait), of: wait },
    { name: 'longest wait', value: offered === 0 ? '–' : spell(longest), of: longest },
    { name: 'mean length', value: length === null ? '–' : spell(length), of: length },
  ]
}
