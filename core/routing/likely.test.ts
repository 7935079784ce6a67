import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { foretelling } from '../../bench/routing'
import { merrowby } from '../../demo/company/merrowby'
import type { CallRecord } from '../calls/record'
import { type Conversation, conversationOf } from './conversation'
import { likelyDestinations } from './likely'

const company = merrowby(182)
const nameOf = (id: string) => company.groups[id]?.name ?? company.telephones[id]?.name ?? id
const day = 24 * 60 * 60_000
const now = Date.UTC(2031, 4, 12, 9)
const freight = company.groups['group:freight']!
const groups = Object.values(company.groups).filter(({ department }) => department).map(({ id }) => id)
const call = { caller: 'Northgate Stores', company: 'Northgate Stores', line: 'general', lineName: 'General line', now }

let count = 0
const talked = (daysAgo: number, device: string, group: string | null = null, number = '+442079460100'): Conversation =>
  ({ call: `c${count++}`, number, line: 'general', at: now - daysAgo * day, device, group })

/** With their reasons as people read them. */
const told = (known: Parameters<typeof likelyDestinations>[1]) =>
  likelyDestinations(company, known, call, nameOf).map(one => ({ ...one, because: spoken(english, one.because) }))

describe('likely destinations', () => {
  it('are said with a reason that counts', () => {
    const mine = Array.from({ length: 9 }, (_, index) => talked(index + 1, freight.members[index % 5]!, index < 7 ? 'group:freight' : 'group:accounts'))
      .map(one => one.group === 'group:accounts' ? { ...one, device: company.groups['group:accounts']!.members[0]! } : one)
    const [first, second] = told({ number: mine, company: mine, line: mine })
    expect(first).toMatchObject({ destination: 'group:freight', because: '7 of 9 calls from Northgate Stores went to Freight' })
    expect(second).toMatchObject({ destination: 'group:accounts', because: '2 of 9 calls from Northgate Stores went to Accounts' })
  })

  it('are a person for who always asks for them, their group for who talks now with one and now with another', () => {
    const [one, ...others] = freight.members
    const same = [1, 4, 9, 12].map(days => talked(days, one!))
    expect(likelyDestinations(company, { number: same, company: same, line: same }, call, nameOf)[0]!.destination).toBe(one)
    const several = others.slice(0, 5).map((device, index) => talked(index + 1, device))
    expect(likelyDestinations(company, { number: several, company: several, line: several }, call, nameOf)[0]!.destination).toBe('group:freight')
  })

  it('follow a habit that has changed after a few calls', () => {
    const changed = [...[1, 2, 4].map(days => talked(days, freight.members[0]!, 'group:freight')),
      ...[40, 45, 50, 55, 60, 65].map(days => talked(days, company.groups['group:accounts']!.members[0]!, 'group:accounts'))]
    expect(likelyDestinations(company, { number: changed, company: changed, line: changed }, call, nameOf)[0]!.destination).toBe('group:freight')
  })

  it('come from the company, then from the line, when the number says little', () => {
    const firm = [1, 2, 3].map(days => talked(days, freight.members[0]!, 'group:freight', '+442079460199'))
    expect(told({ number: [], company: firm, line: firm })[0]).toMatchObject({
      destination: 'group:freight', because: '3 of 3 calls from Northgate Stores went to Freight',
    })
    const [onTheLine] = likelyDestinations(company, { number: [], company: [], line: firm }, { ...call, company: null }, nameOf)
    expect(spoken(english, onTheLine!.because)).toContain('on the General line')
    expect(likelyDestinations(company, { number: [], company: [], line: [] }, call, nameOf)).toEqual([])
  })

  it('never name who has left, nor a group that is no more', () => {
    const gone = [talked(1, 't-gone'), talked(2, 't-gone', 'no-such-group'), talked(3, freight.members[0]!, 'no-such-group')]
    const found = likelyDestinations(company, { number: gone, company: gone, line: gone }, call, nameOf)
    expect(found.map(({ destination }) => destination)).toEqual([freight.members[0]])
  })

  const [clerk, colleague] = freight.members as [string, string]
  const accountant = company.groups['group:accounts']!.members[0]!
  const none: Record<'number' | 'company' | 'line', Conversation[]> = { number: [], company: [], line: [] }
  const chancesOf = (experience: Partial<Record<keyof typeof none, Conversation[]>>, of = company, at = now) =>
    Object.fromEntries(likelyDestinations(of, { ...none, ...experience }, { ...call, now: at }, nameOf, 9).map(one => [one.destination, one.chance]))

  it('are shares of what the number and its company say, each conversation worth half after its time', () => {
    const chances = chancesOf({
      number: [talked(14, clerk, 'group:freight')], company: [talked(0, accountant, 'group:accounts'), talked(21, clerk, 'group:freight')],
    })
    // By the formula: of the company a third and two thirds; then (0.5 + 0.8 / 3) / 1.3 and (0.8 * 2 / 3) / 1.3.
    expect(chances['group:freight']).toBeCloseTo(0.58974, 5)
    expect(chances['group:accounts']).toBeCloseTo(0.41026, 5)
  })

  it('are worth less on a line the further the hour is away, round the clock, and on another day of the week', () => {
    const ofLine = (at: number, ...line: [end: string, at: number][]) =>
      chancesOf({ line: line.map(([group, at]) => ({ ...talked(0, company.groups[group]!.members[0]!, group), at })) }, company, at)
    const ratio = (at: number, one: number, other: number) => {
      const chances = ofLine(at, ['group:freight', one], ['group:accounts', other])
      return chances['group:freight']! / chances['group:accounts']!
    }
    const hour = day / 24
    expect(ratio(now, now - 7 * day, now - 7 * day)).toBeCloseTo(1, 9)
    expect(ratio(now, now - 7 * day, now - 67 * day + 4 * day), 'by its age, 56 days older').toBeCloseTo(2 ** (56 / 60), 9)
    // exp(-9 / 4.5), and 3 hours older.
    expect(ratio(now, now - 7 * day, now - 7 * day - 3 * hour)).toBeCloseTo(Math.exp(2) * 2 ** (3 / 24 / 60), 6)
    expect(ratio(now, now - 7 * day, now - 7 * day + 3 * hour)).toBeCloseTo(Math.exp(2) * 2 ** (-3 / 24 / 60), 6)
    expect(ratio(now, now - 7 * day, now - 6 * day), 'a Tuesday for a Monday').toBeCloseTo(2.5 * 2 ** (-1 / 60), 9)
    const midnight = Date.UTC(2031, 4, 12)
    expect(ratio(midnight + hour / 2, midnight - 7 * day + hour / 2, midnight - 7 * day + 23.5 * hour), 'an hour away, across midnight')
      .toBeCloseTo(Math.exp(1 / 4.5) * 2 ** (-23 / 24 / 60), 6)
  })

  it('that are equally likely stand in one order, and what is less likely than one in twenty is not said', () => {
    const equal = [talked(1, clerk, 'group:freight'), talked(1, accountant, 'group:accounts')]
    expect(Object.keys(chancesOf({ number: equal }))).toEqual(['group:accounts', 'group:freight'])
    const mostly = (times: number) => Array.from({ length: times }, () => talked(0, clerk, 'group:freight'))
    expect(Object.keys(chancesOf({ number: [talked(0, accountant, 'group:accounts'), ...mostly(19)] }))).toEqual(['group:freight', 'group:accounts'])
    expect(Object.keys(chancesOf({ number: [talked(0, accountant, 'group:accounts'), ...mostly(20)] }))).toEqual(['group:freight'])
  })

  it('are whoever gets half of what goes to their department, and for the rest its group or queue that is mostly used', () => {
    const accounts = talked(0, accountant, 'group:accounts')
    expect(chancesOf({ number: [talked(0, clerk), talked(0, colleague, 'group:freight'), accounts, accounts] }))
      .toEqual({ [clerk]: 0.25, 'group:freight': 0.25, 'group:accounts': 0.5 })
    const third = chancesOf({ number: [talked(0, clerk), talked(0, colleague, 'group:freight'), talked(0, colleague, 'group:freight')] })
    expect(third).toEqual({ 'group:freight': 1 })
    const queued = talked(0, clerk, 'queue:freight')
    expect(chancesOf({ number: [queued, queued, talked(0, clerk, 'group:freight'), talked(0, colleague)] }))
      .toEqual({ 'queue:freight': 1 })
    expect(chancesOf({ number: [talked(0, clerk, 'queue:freight'), talked(0, clerk, 'group:freight'), talked(0, clerk, 'group:freight')] }))
      .toEqual({ 'group:freight': 1 })
    // Where a department has no group everybody stands for themselves.
    const alone = { ...company, groups: {} }
    expect(chancesOf({ number: [talked(0, clerk), talked(0, clerk), talked(0, colleague), talked(0, accountant)] }, alone))
      .toEqual({ [clerk]: 0.5, [colleague]: 0.25, [accountant]: 0.25 })
  })

  it('have reasons that count the latest twelve; a group has what its people took, and a person their own', () => {
    const reasonsOf = (number: Conversation[]) =>
      likelyDestinations(company, { ...none, number }, call, nameOf).map(({ destination, because }) => [destination, spoken(english, because)])
    const times = (count: number, one: Conversation) => Array.from({ length: count }, () => one)
    const many = [...times(11, talked(0, colleague, 'group:freight')), talked(1, clerk), ...times(5, talked(2, colleague))]
    expect(reasonsOf(many)).toEqual([['group:freight', '12 of 12 calls from Northgate Stores went to Freight']])
    const mine = [talked(0, clerk), talked(0, clerk), talked(0, colleague)]
    expect(reasonsOf(mine)[0]).toEqual([clerk, `2 of 3 calls from Northgate Stores went to ${nameOf(clerk)}`])
  })

  it('are at most three different ones, best first, with chances that are shares', () => {
    const ends = fc.oneof(fc.constantFrom(...groups), fc.constantFrom(...Object.keys(company.telephones).slice(0, 40)))
    const conversations = fc.array(fc.tuple(ends, fc.nat(400)), { maxLength: 40 }).map(all => all
      .map(([end, daysAgo]) => company.groups[end] ? talked(daysAgo, company.groups[end]!.members[0]!, end) : talked(daysAgo, end))
      .sort((a, b) => b.at - a.at))
    fc.assert(fc.property(conversations, conversations, (mine, line) => {
      const found = likelyDestinations(company, { number: mine, company: mine, line }, call, nameOf)
      expect(found.length).toBeLessThanOrEqual(3)
      expect(new Set(found.map(({ destination }) => destination)).size).toBe(found.length)
      expect(found.map(({ chance }) => chance)).toEqual(found.map(({ chance }) => chance).sort((a, b) => b - a))
      expect(found.reduce((sum, { chance }) => sum + chance, 0)).toBeLessThanOrEqual(1 + 1e-9)
    }), { numRuns: 200 })
  })

  it('foretell better than the most frequent and the last destination, and not far from the habit itself', () => {
    const { learned, mostFrequent, last, best } = foretelling(company, 29, 4)
    expect(learned.first).toBeGreaterThan(last.first + 0.1)
    expect(learned.first).toBeGreaterThan(mostFrequent.first + 0.3)
    expect(learned.first).toBeGreaterThan(0.8 * best.first)
    expect(learned.three).toBeGreaterThan(0.85 * best.three)
  }, 30_000)
})

describe('what is learned from a call', () => {
  const [clerk, other] = freight.members as [string, string]
  const operator = company.groups[company.settings.operators]!.members[0]!
  const record = (story: Partial<CallRecord['story'][number]>[], more: Partial<CallRecord> = {}): CallRecord => ({
    id: 'c1', epoch: 'e', direction: 'inbound', number: '+442079460100', name: null, dialled: '+441632960000', line: 'general', startedAt: now, answeredAt: now,
    endedAt: now + 90_000, outcome: 'answered', answeredBy: operator, endedWith: clerk, account: null, devices: [], numbers: [], names: {},
    story: story.map((step, index) => ({ at: now + index * 1_000, type: 'established', device: operator, ...step })), ...more,
  })

  it('is who talked last, after a blind transfer that was not answered too', () => {
    const story = [
      { type: 'originated' as const, device: 'x' }, { type: 'established' as const, device: operator },
      { type: 'transferred' as const, to: other }, { type: 'delivered' as const, device: other }, { type: 'queued' as const, device: 'operators' },
      { type: 'established' as const, device: operator }, { type: 'transferred' as const, to: clerk }, { type: 'delivered' as const, device: clerk },
      { type: 'established' as const, device: clerk },
    ]
    expect(conversationOf(company, record(story))).toMatchObject({ device: clerk, group: null })
  })

  it('is who talked on a mobile that rang along with their telephone', () => {
    const story = [
      { type: 'established' as const, device: operator }, { type: 'transferred' as const, to: clerk }, { type: 'delivered' as const, device: clerk },
      { type: 'delivered' as const, device: 'west:7', along: clerk }, { type: 'established' as const, device: 'west:7' },
    ]
    expect(conversationOf(company, record(story))).toMatchObject({ device: clerk })
  })

  it('is the group that somebody answered for', () => {
    const story = [
      { type: 'established' as const, device: operator }, { type: 'transferred' as const, to: 'group:freight' }, { type: 'delivered' as const, device: clerk },
      { type: 'established' as const, device: clerk },
    ]
    expect(conversationOf(company, record(story))).toMatchObject({ device: clerk, group: 'group:freight' })
  })

  it('is who was asked first and got the caller', () => {
    expect(conversationOf(company, record([{ type: 'established', device: operator }, { type: 'transferred', to: clerk }])))
      .toMatchObject({ device: clerk, group: null })
  })

  it('is nothing of a few words, of what operators did themselves, of a transfer nobody took, of calls inside', () => {
    const story = [{ type: 'established' as const, device: clerk }]
    expect(conversationOf(company, record(story))).not.toBeNull()
    expect(conversationOf(company, record(story, { endedAt: now + 4_000 }))).toBeNull()
    expect(conversationOf(company, record(story, { direction: 'internal' }))).toBeNull()
    expect(conversationOf(company, record(story, { outcome: 'voicemail' }))).toBeNull()
    expect(conversationOf(company, record([{ device: operator }]))).toBeNull()
    expect(conversationOf(company, record([{ device: operator }, { type: 'transferred', to: clerk }, { type: 'delivered', device: clerk }]))).toBeNull()
  })

  it('is of the shortest that counts, of a call that is over, and of whom there is', () => {
    const story = [{ type: 'established' as const, device: clerk }]
    const { at } = record(story).story[0]!
    expect(conversationOf(company, record(story, { endedAt: at + 10_000 }))).toMatchObject({ device: clerk })
    expect(conversationOf(company, record(story, { endedAt: at + 9_999 }))).toBeNull()
    expect(conversationOf(company, record(story, { endedAt: null }))).toBeNull()
    expect(conversationOf(company, record([]))).toBeNull()
    expect(conversationOf({ ...company, settings: { ...company.settings, operators: 'gone' } }, record(story))).toMatchObject({ device: clerk, group: null })
  })

  it('is that of the group to which it went last, also when a rule or a forwarding sent it there; and of the queue in which it waited', () => {
    const answered = { type: 'established' as const, device: clerk }
    for (const type of ['diverted', 'forwarded'] as const)
      expect(conversationOf(company, record([{ type, device: operator, to: 'group:freight' }, answered])), type).toMatchObject({ group: 'group:freight' })
    expect(conversationOf(company, record([{ type: 'parked', device: operator, to: 'group:freight' }, answered]))).toMatchObject({ group: null })
    expect(conversationOf(company, record([answered, { type: 'transferred', device: clerk, to: 'group:freight' }]))).toMatchObject({ group: null })
    expect(conversationOf(company, record([{ type: 'queued', device: 'group:freight' }, answered]))).toMatchObject({ group: 'group:freight' })
    expect(conversationOf(company, record([{ type: 'delivered', device: 'group:freight' }, answered]))).toMatchObject({ group: null })
    // Who answers for a group is one of its members: others only helped.
    const inside = [...freight.members, ...company.groups.operators!.members]
    const outsider = Object.keys(company.telephones).find(id => !inside.includes(id))!
    expect(conversationOf(company, record([{ type: 'queued', device: 'group:freight' }, { type: 'established', device: outsider }])))
      .toMatchObject({ device: outsider, group: null })
  })

  it('is not with a place to which it was passed on and which then failed', () => {
    for (const type of ['queued', 'failed', 'diverted', 'forwarded', 'refused'] as const)
      expect(conversationOf(company, record([{ device: operator }, { type: 'transferred', to: clerk }, { type, device: clerk }])), type).toBeNull()
    expect(conversationOf(company, record([{ device: operator }, { type: 'held', device: operator, to: clerk }]))).toBeNull()
    expect(conversationOf(company, record([{ device: operator }, { type: 'transferred', to: 'mailbox:l1' }]))).toBeNull()
  })
})
