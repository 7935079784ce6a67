import { beforeEach, describe, expect, it } from 'vitest'
import { ownDatabase } from '../../tests/database/own'
import type { NewContact } from '~~/shared/contacts'
import { addContact, changeContact, companyOfNumber, contactsFor, contactsSince, mergeContacts, removeContact } from './contacts'

const own = ownDatabase()
const em = () => own.orm.em.fork()
// Nothing of a contact is ever deleted: those of another test are no more.
beforeEach(async () => {
  await own.sql('delete from contact_number')
  await own.sql('update contact set removed = true, company = null')
})

const contact = (name: string, number: string | null, more: Partial<NewContact> = {}): NewContact => ({
  kind: 'individual', name, company: null, numbers: number === null ? [] : [{ number, kind: 'work' }], addresses: [], category: '', private: false,
  language: '', note: '', readFirst: false, mark: 'none', ...more,
})
const add = (name: string, number: string | null, more: Partial<NewContact> = {}, by = 'ines') => addContact(em(), by, contact(name, number, more))
const names = async (who: string) => (await contactsFor(em(), who)).map(({ name }) => name)

describe('contacts', () => {
  it('are seen by all, and one\'s own by oneself alone, in the order of their names', async () => {
    await add('Zed', '07700 900101')
    await add('ada', '07700 900102')
    await add('Mine', '07700 900103', { private: true })
    await add('Theirs', '07700 900104', { private: true }, 'tomas')
    expect(await names('ines')).toEqual(['ada', 'Mine', 'Zed'])
    expect(await names('tomas')).toEqual(['ada', 'Theirs', 'Zed'])
  })

  it('are kept clean: numbers in E.164, texts without what can\'t be read, a company only of a person', async () => {
    const company = await add('Harbour Nets', '01632 960801', { kind: 'company' })
    const kept = await add(' Ada\u0000  Fenn ', '(07700) 900 102', {
      kind: 'person', company: company.id, note: 'one\r\ntwo', addresses: ['a@b.example', 'a@b.example'],
    })
    expect(kept).toMatchObject({
      name: 'Ada Fenn', numbers: [{ number: '+447700900102', kind: 'work' }], company: company.id, note: 'one\ntwo', addresses: ['a@b.example'], version: 1,
    })
    expect((await add('Somebody', null, { kind: 'individual', company: company.id })).company).toBeNull()
  })

  it.each<[string, Partial<NewContact>, RegExp]>([
    ['without a name', { name: ' \u0000 ' }, /^name is missing/],
    ['with an extension for a number', { numbers: [{ number: '2105', kind: 'work' }] }, /^number "2105": A number outside has more digits/],
    ['with one number twice', { numbers: [{ number: '07700 900101', kind: 'work' }, { number: '+447700900101', kind: 'mobile' }] }, /stands there twice/],
    ['of a company that is not there', { kind: 'person', company: '11111111-1111-4111-8111-111111111111' }, /no such company/],
  ])('are refused %s', async (_, more, why) => {
    await expect(add('Ada', '07700 900101', more)).rejects.toThrow(why)
    expect(await names('ines')).toEqual([])
  })

  it('shared are of no company that only one of us sees, nor of themselves, nor of what is no company', async () => {
    const mine = await add('My company', null, { kind: 'company', private: true })
    await expect(add('Ada', null, { kind: 'person', company: mine.id })).rejects.toThrow('no such company')
    expect((await add('Ada', null, { kind: 'person', company: mine.id, private: true })).company).toBe(mine.id)
    const person = await add('Ben', null, { kind: 'person' })
    await expect(add('Cy', null, { kind: 'person', company: person.id })).rejects.toThrow('no such company')
    await expect(changeContact(em(), 'ines', person.id, 1, contact('Ben', null, { kind: 'person', company: person.id }))).rejects.toThrow('no such company')
  })
})

describe('a change', () => {
  it('is not written over by who has not seen it: they are told who made it', async () => {
    const { id } = await add('Ada', '07700 900101')
    await changeContact(em(), 'tomas', id, 1, contact('Ada Fenn', '07700 900101'))
    const refused = changeContact(em(), 'ines', id, 1, contact('Ada Vane', '07700 900101'))
    await expect(refused).rejects.toMatchObject({ statusCode: 409, message: expect.stringMatching(/^Tomas .* has changed this contact meanwhile/) })
    await expect(removeContact(em(), 'ines', id, 1)).rejects.toMatchObject({ statusCode: 409 })
    expect(await names('ines')).toEqual(['Ada Fenn'])
    await removeContact(em(), 'ines', id, 2)
    await expect(removeContact(em(), 'ines', id, 3)).rejects.toMatchObject({ statusCode: 404 })
  })

  it('of somebody else\'s own is that of something that is not there', async () => {
    const { id } = await add('Theirs', '07700 900101', { private: true }, 'tomas')
    await expect(changeContact(em(), 'ines', id, 1, contact('Mine', null))).rejects.toMatchObject({ statusCode: 404 })
    await expect(removeContact(em(), 'ines', id, 1)).rejects.toMatchObject({ statusCode: 404 })
    expect(await names('tomas')).toEqual(['Theirs'])
  })

  it('of what an address book keeps is made there', async () => {
    const { id } = await add('Ada', '07700 900101')
    const [book] = await own.sql<{ id: string, name: string }>(
      `insert into address_book (id, name, address, user_name, secret, next_at) values ('harbour-book', 'Harbour book', 'http://127.0.0.1:1/', '', '', now())
      returning id, name`,
    )
    await own.sql('update contact set book = ? where id = ?', [book!.id, id])
    await expect(changeContact(em(), 'ines', id, 1, contact('Ada Vane', null))).rejects.toMatchObject({
      statusCode: 409, message: `Ada comes from the address book ${book!.name}, and is changed there. Nothing was changed.`,
    })
  })

  it('that makes a company one\'s own, or none, leaves nobody of others with it', async () => {
    const company = await add('Harbour Nets', null, { kind: 'company' })
    const [theirs, mine] = [
      await add('Theirs', null, { kind: 'person', company: company.id, private: true }, 'tomas'),
      await add('Mine', null, { kind: 'person', company: company.id, private: true }),
    ]
    await changeContact(em(), 'ines', company.id, 1, contact('Harbour Nets', null, { kind: 'company', private: true }))
    const of = async (id: string) => (await own.sql<{ company: string | null }>('select company from contact where id = ?', [id]))[0]!.company
    expect([await of(theirs.id), await of(mine.id)]).toEqual([null, company.id])
    await changeContact(em(), 'ines', company.id, 2, contact('Harbour Nets', null, { kind: 'individual', private: true }))
    expect(await of(mine.id)).toBeNull()
  })

  it('is asked for by its number: what has come, what is no more, and nothing of another\'s own', async () => {
    const { latest: known } = await contactsSince(em(), 'ines', 0)
    const ada = await add('Ada', '07700 900101')
    const first = await contactsSince(em(), 'ines', known)
    expect(first).toMatchObject({ latest: known + 1, changed: [{ name: 'Ada' }], removed: [] })
    const theirs = await add('Theirs', null, { private: true }, 'tomas')
    await removeContact(em(), 'ines', ada.id, 1)
    expect(await contactsSince(em(), 'ines', first.latest)).toEqual({ latest: known + 3, changed: [], removed: [theirs.id, ada.id] })
    expect(await contactsSince(em(), 'ines', known + 3)).toEqual({ latest: known + 3, changed: [], removed: [] })
  })
})

describe('two that are the same', () => {
  it('become one, with the numbers, the notes and the people of both', async () => {
    const into = await add('Harbour Nets', '01632 960801', { kind: 'company', note: 'pays late', addresses: ['a@b.example'] })
    const other = await add('Harbor Nets', '01632 960802', {
      kind: 'company', note: 'since May', mark: 'important', readFirst: true, language: 'Dutch', addresses: ['a@b.example', 'c@d.example'],
      numbers: [{ number: '01632 960801', kind: 'work' }, { number: '01632 960802', kind: 'work' }],
    })
    const person = await add('Ada', null, { kind: 'person', company: other.id })
    const merged = await mergeContacts(em(), 'ines', into.id, 1, other.id)
    expect(merged).toMatchObject({
      name: 'Harbour Nets', note: 'pays late\nsince May', mark: 'important', readFirst: true, language: 'Dutch', addresses: ['a@b.example', 'c@d.example'],
      version: 2,
    })
    expect(merged.numbers.map(({ number }) => number)).toEqual(['+441632960801', '+441632960802'])
    expect(await names('ines')).toEqual(['Ada', 'Harbour Nets'])
    expect((await contactsFor(em(), 'ines'))[0]).toMatchObject({ id: person.id, company: into.id })
  })

  it('are not one with itself, nor with what is not there or another\'s own, nor longer than one may be', async () => {
    const into = await add('Ada', '07700 900101', { note: 'x'.repeat(600) })
    const theirs = await add('Theirs', null, { private: true }, 'tomas')
    const long = await add('Long', null, { note: 'y'.repeat(400) })
    const merge = (other: string) => mergeContacts(em(), 'ines', into.id, 1, other)
    await expect(merge(into.id)).rejects.toMatchObject({ statusCode: 422 })
    await expect(merge(theirs.id)).rejects.toMatchObject({ statusCode: 404 })
    await expect(merge(long.id)).rejects.toThrow('more than 1000 letters')
    expect((await names('ines')).sort()).toEqual(['Ada', 'Long'])
  })
})

describe('who calls from a number', () => {
  it('is of a company, whose every number is known, as far as one may see it', async () => {
    const company = await add('Harbour Nets', '01632 960801', { kind: 'company' })
    await add('Ada', '07700 900101', { kind: 'person', company: company.id })
    await add('Secret', '07700 900102', { kind: 'person', company: company.id, private: true }, 'tomas')
    const asked = async (who: string, number: string) => {
      const found = await companyOfNumber(em(), who, number)
      return found && [found.caller, found.company, found.numbers.sort()]
    }
    expect(await asked('ines', '+447700900101')).toEqual(['Ada', 'Harbour Nets', ['+441632960801', '+447700900101']])
    expect(await asked('ines', '+441632960801')).toEqual(['Harbour Nets', 'Harbour Nets', ['+441632960801', '+447700900101']])
    expect(await asked('ines', '+447700900102')).toBeNull()
    expect(await asked('tomas', '+447700900102')).toEqual(['Secret', 'Harbour Nets', ['+441632960801', '+447700900101', '+447700900102']])
    await add('Alone', '07700 900103')
    expect(await asked('ines', '+447700900103')).toEqual(['Alone', null, ['+447700900103']])
  })

  it('is the person, when their company has the same number', async () => {
    const company = await add('Harbour Nets', '01632 960801', { kind: 'company' })
    await add('Ada', '01632 960801', { kind: 'person', company: company.id })
    expect(await companyOfNumber(em(), 'ines', '+441632960801')).toMatchObject({ caller: 'Ada', company: 'Harbour Nets' })
  })
})
