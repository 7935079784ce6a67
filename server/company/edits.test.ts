import { beforeEach, describe, expect, it } from 'vitest'
import { type CompanyChange, thingOf } from '../../core/company/changes'
import type { Company } from '../../core/company/company'
import { ownDatabase } from '../../tests/database/own'
import { editCompany, recordedEdits, replaceCompany, undoEdit } from './edits'
import { companyIn } from './rows'
import { messagesOfPerson } from '../../core/calls/names'
import { mailboxesReadBy } from '../messages/readers'

const own = ownDatabase()
const em = () => own.orm.em.fork()
const now = (): Promise<Company> => companyIn(em())
const person = (company: Company, change: Partial<Company['people'][string]>): CompanyChange =>
  ({ part: 'people', id: 'p2105', value: { ...company.people.p2105!, ...change } })
const seen = (company: Company): CompanyChange => ({ part: 'people', id: 'p2105', value: company.people.p2105! })
const records = () => own.sql<{ by: string, part: string, thing: string }>('select "by", part, thing from company_change order by id')

let company: Company
beforeEach(async () => {
  company = await now()
})

describe('an edit of the company', () => {
  it('is carried out and on record, with who did it, what it was and what it is', async () => {
    const before = (await records()).length
    expect(await editCompany(em(), 'admin', [seen(company)], [person(company, { room: 'Q9' })])).toMatchObject({ changes: 1 })
    expect((await now()).people.p2105!.room).toBe('Q9')
    expect((await records()).slice(before)).toEqual([{ by: 'admin', part: 'people', thing: 'p2105' }])
    const [latest] = await recordedEdits(em(), 0)
    expect(latest).toMatchObject({ by: 'Administrator', part: 'people', thing: 'p2105' })
    expect(JSON.parse(latest!.before)).toMatchObject({ room: company.people.p2105!.room })
    expect(JSON.parse(latest!.after)).toMatchObject({ room: 'Q9' })
    expect((await recordedEdits(em(), latest!.id)).every(({ id }) => id < latest!.id)).toBe(true)
  })

  it('that changes nothing is none', async () => {
    const before = (await records()).length
    expect(await editCompany(em(), 'admin', [seen(company)], [seen(company)])).toEqual({ edit: '', changes: 0 })
    expect(await records()).toHaveLength(before)
  })

  it('is never made over what somebody else has changed: it says who, what, and changes nothing', async () => {
    await editCompany(em(), 'bryony', [seen(company)], [person(company, { room: 'Q1' })])
    const other = { part: 'people' as const, id: 'p2106', value: { ...company.people.p2106!, room: 'Q2' } }
    await expect(editCompany(em(), 'admin', [{ ...other, value: company.people.p2106! }, seen(company)], [other, person(company, { room: 'Q3' })]))
      .rejects.toMatchObject({ statusCode: 409, message: expect.stringMatching(/^Bryony Lusk has changed .+ meanwhile: room is "Q1" now/) as string })
    const after = await now()
    expect([after.people.p2105!.room, after.people.p2106!.room]).toEqual(['Q1', company.people.p2106!.room])
  })

  it('is whole or not at all: what would not fit together is refused with what is wrong', async () => {
    const gone: CompanyChange = { part: 'departments', id: company.people.p2105!.department, value: null }
    const there: CompanyChange = { ...gone, value: company.departments[gone.id]! }
    await expect(editCompany(em(), 'admin', [seen(company), there], [person(company, { room: 'Q8' }), gone])).rejects.toMatchObject({ statusCode: 422 })
    expect((await now()).people.p2105!.room).toBe(company.people.p2105!.room)
    await expect(editCompany(em(), 'admin', [], [seen(company)])).rejects.toMatchObject({ statusCode: 422 })
  })

  it.each(['constructor', '__proto__', '1st', 'a b', ''])('takes no new thing with the id %j', async (id) => {
    const value = { ...company.sites[Object.keys(company.sites)[0]!]!, id, name: 'A new site' }
    await expect(editCompany(em(), 'admin', [{ part: 'sites', id, value: null }], [{ part: 'sites', id, value }])).rejects.toMatchObject({ statusCode: 422 })
    await expect(editCompany(em(), 'admin', [{ part: 'sites', id: 'fine', value: null }], [{ part: 'sites', id: 'fine', value }]))
      .rejects.toMatchObject({ statusCode: 422 })
  })

  it('takes with it the sounds of lines and telephones that are no more, and of whoever had a telephone before', async () => {
    const keep = (...places: string[]) => own.sql(`insert into own_sound (place, version, sound, name, "by", at)
      select place, place, '\\x00'::bytea, '', 'admin', now() from unnest(array['${places.join('\',\'')}']) place`)
    const places = async () => (await own.sql<{ place: string }>('select place from own_sound order by place')).map(({ place }) => place)
    await keep('music', 'greeting:usual:t2105', 'greeting:lunch:t2105', 'greeting:usual:t2106', 'line:freight', 'line:general')
    const telephone = (id: string, change: object): CompanyChange => ({ part: 'telephones', id, value: { ...company.telephones[id]!, ...change } })
    const edits = (...changes: CompanyChange[]) => editCompany(em(), 'admin', changes.map(change => thingOf(company, change)), changes)
    await edits(telephone('t2105', { number: '2399' }), telephone('t2106', { number: '2398' }))
    expect(await places()).toHaveLength(6)
    company = await now()
    await edits(telephone('t2105', { person: company.telephones.t2107!.person }))
    expect(await places()).toEqual(['greeting:usual:t2106', 'line:freight', 'line:general', 'music'])
    company = await now()
    await edits({ part: 'lines', id: 'freight', value: null })
    expect(await places()).toEqual(['greeting:usual:t2106', 'line:general', 'music'])
  })

  it('leaves messages with whoever they were for: who has that telephone next reads none of them', async () => {
    const leave = (id: string, to: string) => own.sql(`insert into message (id, kind, "to", "from", from_name, text, urgent, call_back, at)
      values ('${id}', 'text', '${to}', 'ines', 'Ines', 'x', false, false, now())`)
    const all = () => own.sql<{ id: string, to: string }>('select id, "to" from message where id like \'own%\' order by id')
    const whose = async () => (await all()).map(({ id, to }) => [id, to])
    await leave('own1', 't2110')
    await leave('own2', 't2112')
    const [was, other] = [company.telephones.t2110!, company.telephones.t2111!]
    const give = (value: CompanyChange['value']) => {
      const change = { part: 'telephones', id: 't2110', value } as CompanyChange
      return editCompany(em(), 'admin', [thingOf(company, change)], [change])
    }
    await give({ ...was, number: '2397' })
    expect(await whose()).toEqual([['own1', 't2110'], ['own2', 't2112']])
    company = await now()
    const { edit } = await give({ ...company.telephones.t2110!, person: other.person })
    expect(await whose()).toEqual([['own1', messagesOfPerson(was.person!)], ['own2', 't2112']])
    await leave('own3', 't2110')
    await undoEdit(em(), 'admin', edit)
    expect(await whose()).toEqual([['own1', messagesOfPerson(was.person!)], ['own2', 't2112'], ['own3', messagesOfPerson(other.person!)]])
    const readers = (device: string) => mailboxesReadBy(company, { device, role: 'staff' })
    expect(readers('t2110')).toContain(messagesOfPerson(was.person!))
    expect(readers('t2111')).not.toContain(messagesOfPerson(was.person!))
  })

  it('gives the operators what was left for a group or a line that is no more', async () => {
    const leave = (id: string, to: string) => own.sql(`insert into message (id, kind, "to", "from", from_name, text, urgent, call_back, at)
      values ('${id}', 'text', '${to}', 'ines', 'Ines', 'x', false, false, now())`)
    const used = new Set([...Object.values(company.lines).map(({ target }) => target), company.settings.operators])
    const group = Object.values(company.groups).find(({ id }) => id.startsWith('group:') && !used.has(id))!
    await leave('gone1', group.id)
    const change: CompanyChange = { part: 'groups', id: group.id, value: null }
    await editCompany(em(), 'admin', [thingOf(company, change)], [change])
    expect(await own.sql('select "to" from message where id = \'gone1\'')).toEqual([{ to: company.settings.operators }])
  })

  it('is undone as long as nobody has changed the same since', async () => {
    const { edit } = await editCompany(em(), 'admin', [seen(company)], [person(company, { room: 'R1' })])
    await undoEdit(em(), 'bryony', edit)
    expect((await now()).people.p2105).toEqual(company.people.p2105)
    await expect(undoEdit(em(), 'bryony', edit)).rejects.toMatchObject({ statusCode: 409 })
    await expect(undoEdit(em(), 'bryony', 'nothing')).rejects.toMatchObject({ statusCode: 404 })
  })

  it('for a whole company says what it would change, and does so only when told', async () => {
    const given = { ...company, people: { ...company.people, p2105: { ...company.people.p2105!, room: 'S1' } } }
    const answer = await replaceCompany(em(), 'admin', given, false)
    expect(answer).toEqual({ changes: [{ part: 'people', id: 'p2105', what: 'changed' }], faults: [], edit: null })
    expect((await now()).people.p2105!.room).toBe(company.people.p2105!.room)
    const broken = { ...given, departments: {} }
    const refused = await replaceCompany(em(), 'admin', broken, true)
    expect(refused.faults.length).toBeGreaterThan(0)
    expect(refused.edit).toBeNull()
    const done = await replaceCompany(em(), 'admin', given, true)
    expect(done.edit).not.toBeNull()
    expect((await now()).people.p2105!.room).toBe('S1')
    expect((await replaceCompany(em(), 'admin', await now(), true)).edit, 'nothing to do').toBeNull()
  })
})
