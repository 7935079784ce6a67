import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { changedCompany, changesBetween, parts } from './changes'
import { faultsOf } from './check'
import { type Company, isNewId, nobody } from './company'
import { groupWithNumber, isMemberOf, lineWithNumber, pickupGroupOf, telephonesOf, telephoneWithDirectNumber, telephoneWithNumber } from './lookups'

const company = merrowby(30)

/** A company of which some things are missing, renamed or moved elsewhere. */
const altered: fc.Arbitrary<Company> = fc
  .array(fc.record({ part: fc.constantFrom(...parts), which: fc.nat(), how: fc.constantFrom('remove', 'rename', 'add') }), { maxLength: 12 })
  .map(changes => {
    const next = structuredClone(company)
    for (const { part, which, how } of changes) {
      const ids = Object.keys(next[part])
      const id = ids[which % ids.length]
      if (id === undefined) continue
      if (how === 'remove') Reflect.deleteProperty(next[part], id)
      else if (how === 'rename') Object.assign(next[part][id]!, { name: `renamed ${which}` })
      else Object.assign(next[part], { [`new${which}`]: { ...next[part][id], id: `new${which}` } })
    }
    return next
  })

describe('changes of a company', () => {
  it('lead from one to any other, and say nothing of what stayed', () => {
    fc.assert(fc.property(altered, altered, (before, after) => {
      const changes = changesBetween(before, after)
      expect(changedCompany(before, after.version, JSON.parse(JSON.stringify(changes)))).toEqual(after)
      expect(changesBetween(after, structuredClone(after))).toEqual([])
    }), { numRuns: 100 })
  })

  it('from nobody are everything, and leave the old one as it was', () => {
    const frozen = Object.freeze({ ...nobody, telephones: Object.freeze({ ...nobody.telephones }) })
    expect(changedCompany(frozen, 1, changesBetween(frozen, company))).toEqual(company)
    expect(Object.keys(frozen.telephones)).toEqual([])
  })

  it('share what did not change', () => {
    const next = changedCompany(company, 2, [{ part: 'slots', id: 'slot:1', value: null }])
    expect(next.telephones).toBe(company.telephones)
    expect(next.slots).not.toHaveProperty('slot:1')
  })
})

describe('the check of a company', () => {
  const change = (what: (draft: Company) => void) => {
    const draft = structuredClone(company)
    what(draft)
    return faultsOf(draft).map(fault => spoken(english, fault))
  }

  it('finds nothing wrong with the demo, or with nobody at all', () => {
    expect(faultsOf(company)).toEqual([])
    expect(faultsOf(nobody)).toEqual([])
  })

  it('finds nothing wrong with ids of before, which were names', () => {
    const draft = structuredClone(company)
    const [site] = Object.values(draft.sites)
    draft.sites = { ...draft.sites, 'Merrowby Quay, west': { ...site!, id: 'Merrowby Quay, west' } }
    expect(faultsOf(draft)).toEqual([])
    expect(['Merrowby Quay, west', 'site:west', '7', 'constructor', 'é', ''].map(isNewId)).toEqual([false, true, false, false, false, false])
  })

  it.each<[string, (draft: Company) => void, RegExp]>([
    ['a number twice', draft => void (draft.telephones.t2105!.number = '2106'), /same number 2106/],
    ['a number that is a group\'s', draft => void (draft.telephones.t2105!.number = '601'), /same number 601/],
    ['an emergency number given away', draft => void (draft.telephones.t2105!.number = '999'), /same number 999/],
    ['a word for a number', draft => void (draft.telephones.t2105!.number = 'abc'), /which is none/],
    ['a direct number in another notation', draft => void (draft.telephones.t2105!.direct = '01632 960105'), /which is none/],
    ['an id like a number', draft => void (draft.telephones.t2105!.id = '2105'), /begins with a letter/],
    ['a group with an id like a number', draft => void (draft.groups['group:freight']!.id = '650'), /begins with a letter/],
    ['an id that every object has', draft => void (draft.people.p2105!.id = 'constructor'), /no word of the program's own/],
    ['a trunk with an id like a number', draft => void (draft.trunks.east!.id = '7'), /begins with a letter/],
    ['somebody who stands in for themselves', draft => void (draft.people.p2105!.deputies = ['p2105']), /stands in for themselves/],
    ['a telephone of nobody', draft => void (draft.telephones.t2105!.person = 'p1'), /not there/],
    ['a member who has gone', draft => void Reflect.deleteProperty(draft.telephones, 't2105'), /no telephone of the company/],
    ['a line that leads nowhere', draft => void (draft.lines.general!.target = 'group:none'), /is no group/],
    ['a night destination that is not there', draft => void (draft.lines.general!.night = 'mailbox:nobody'), /not there/],
    ['an overflow that is not there', draft => void (draft.groups['queue:freight']!.overflow.to = '8888'), /not there/],
    ['no operators', draft => void (draft.settings.operators = 'group:none'), /operators/],
    ['more channels kept than there are', draft => void (draft.trunks.east!.kept = 99), /more channels than it has/],
    ['a person in no department', draft => void (draft.people.p2105!.department = 'none'), /no department/],
    ['a time zone that is none', draft => void (draft.hours.office!.zone = 'Europe/Merrowby'), /time zone Europe\/Merrowby, which is none/],
    ['a day that closes before it opens', draft => void (draft.hours.office!.week[0]!.closes = 60), /closes before it opens/],
    ['a day that opens twice', draft => void draft.hours.office!.week.push({ day: 1, opens: 600, closes: 700 }), /twice at the same time/],
    ['a holiday that is no day', draft => void (draft.hours.office!.holidays[0]!.date = '2026-02-30'), /which is no date/],
    ['a line with hours that are not there', draft => void (draft.lines.general!.hours = 'never'), /which are no opening hours/],
    ['operators who are rung like a group', draft => void (draft.groups.operators!.distribution = 'all'), /own group is a queue/],
    ['operators whose queue rings them', draft => void (draft.groups.operators!.ringing = 'turn'), /rings on their consoles/],
    ['a queue that rings too briefly', draft => void (draft.groups['queue:reservations']!.ringTime = 2_999), /for 2.999 seconds: at least 3 /],
    ['a queue that tells its callers too often', draft => void (draft.groups['queue:reservations']!.tellEvery = 9_999), /every 9.999 seconds: at least 10 /],
    ['a group of no department', draft => void (draft.groups['queue:reservations']!.department = 'none'), /is no department/],
    ['a rule that leads to an emergency number', draft => void (draft.lines.general!.night = '999'), /an emergency number: no rule leads there/],
    ['pages that go nowhere', draft => void (draft.settings.pageDefault = 'zone:none'), /neither a zone nor a group/],
    ['a zone at no site', draft => void (draft.zones['zone:hall']!.site = 'none'), /which is no site/],
    ['a department at no site', draft => void (draft.departments.freight!.site = 'none'), /which is no site/],
    ['a deputy who is not there', draft => void (draft.people.p2105!.deputies = ['p1']), /stands in for .*, and is not there/],
    ['a duty that is reached nowhere', draft => void (draft.duties['duty:it']!.instead = '8888'), /reached at 8888, which is not there/],
    ['one account code twice', draft => void (draft.accountCodes['code:K-100']!.code = 'k-114'), /same account code/],
    ['an account code with a space around it', draft => void (draft.accountCodes['code:K-100']!.code = ' K-1'), /which is none/],
    ['a house in no time zone', draft => void (draft.settings.zone = 'Europe/Merrowby'), /The house has the time zone/],
    ['a slot without a name', draft => void (draft.slots['slot:1']!.name = ' '), /A park slot has no name/],
    ['a person without a name', draft => void Object.assign(draft.people.p2105!, { first: '', last: ' ' }), /Somebody has no name/],
    ['a telephone without room for a call', draft => void (draft.telephones.t2105!.capacity = 0), /one call at least/],
  ])('names %s', (_, what, fault) => {
    expect(change(what).join('\n')).toMatch(fault)
  })

  it('lets a queue ring as briefly and tell as often as it may', () => {
    expect(change(draft => void Object.assign(draft.groups['queue:reservations']!, { ringTime: 3_000, tellEvery: 10_000 }))).toEqual([])
  })

  it('lets callers be sent to mailboxes, groups, extensions and numbers outside', () => {
    for (const to of ['mailbox:t2105', 'mailbox:general', 'group:freight', '2105', 't2105', '+442079460123', '020 7946 0123']) {
      expect(change(draft => void (draft.lines.general!.night = to)), to).toEqual([])
    }
  })
})

describe('looking things up', () => {
  it('by the numbers that are dialled', () => {
    expect(telephoneWithNumber(company, '2105')?.id).toBe('t2105')
    expect(telephoneWithNumber(company, 't2105')).toBeUndefined()
    expect(groupWithNumber(company, '601')?.id).toBe('queue:reservations')
    expect(lineWithNumber(company, '+441632960010')?.id).toBe('freight')
    expect(telephoneWithDirectNumber(company, company.telephones.t2105!.direct!)?.id).toBe('t2105')
    for (const number of ['__proto__', 'constructor', '']) expect(telephoneWithNumber(company, number)).toBeUndefined()
  })

  it('a person has no, one or several telephones, one of which stands for them', () => {
    const more = changedCompany(company, 2, [
      { part: 'telephones', id: 'ladder', value: { ...company.telephones.t2105!, id: 'ladder', number: '3000', rank: 1, direct: null } },
      { part: 'telephones', id: 't2106', value: { ...company.telephones.t2106!, person: null, name: 'Quay gate' } },
    ])
    expect(telephonesOf(more, 'p2105').map(({ id }) => id)).toEqual(['t2105', 'ladder'])
    expect(telephonesOf(more, 'p2106')).toEqual([])
  })

  it('members and pickup groups', () => {
    expect(isMemberOf(company, 't2100', 'operators')).toBe(true)
    expect(isMemberOf(company, 't2105', 'operators')).toBe(false)
    expect(pickupGroupOf(company, 't2105')).toContain('t2105')
    expect(pickupGroupOf(company, 'nobody')).toEqual([])
  })
})
