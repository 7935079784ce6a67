import { beforeEach, describe, expect, it } from 'vitest'
import { mostPages, type SpeedKey } from '../../core/speed-keys/key'
import { merrowby } from '../../demo/company/merrowby'
import { ownDatabase } from '../../tests/database/own'
import { addPage, changePage, keysToKeep, pageFor, pagesFor, removePage } from './pages'

const own = ownDatabase()
const em = () => own.orm.em.fork()
const key = (of: string, label: string | null = null): SpeedKey => ({ kind: 'person', of, label })

beforeEach(async () => {
  await own.sql('delete from key_page')
})

describe('pages of speed keys', () => {
  it('are those that are shared, then one\'s own; of another\'s nobody hears', async () => {
    const mine = await addPage(em(), 'ines', { name: 'Mine', shared: false, keys: [key('p2105')] })
    const shared = await addPage(em(), 'ines', { name: 'Ours', shared: true, keys: [] })
    await addPage(em(), 'ines', { name: 'Mine too', shared: false, keys: [] })
    expect((await pagesFor(em(), 'ines')).map(({ name, shared }) => [name, shared])).toEqual([['Ours', true], ['Mine', false], ['Mine too', false]])
    expect((await pagesFor(em(), 'tomas')).map(({ name }) => name)).toEqual(['Ours'])
    expect(await pageFor(em(), 'ines', mine.id)).toEqual(mine)
    await expect(pageFor(em(), 'tomas', mine.id)).rejects.toMatchObject({ statusCode: 404 })
    await expect(changePage(em(), 'tomas', mine.id, 1, { keys: [] })).rejects.toMatchObject({ statusCode: 404 })
    await expect(removePage(em(), 'tomas', mine.id, 1)).rejects.toMatchObject({ statusCode: 404 })
    await removePage(em(), 'tomas', shared.id, 1)
    expect((await pagesFor(em(), 'ines')).map(({ name }) => name)).toEqual(['Mine', 'Mine too'])
  })

  it('are never changed or removed over what another has changed', async () => {
    const { id } = await addPage(em(), 'ines', { name: 'Ours', shared: true, keys: [] })
    expect(await changePage(em(), 'ines', id, 1, { keys: [key('p2105')] })).toMatchObject({ name: 'Ours', version: 2, keys: [key('p2105')] })
    expect(await changePage(em(), 'tomas', id, 2, { name: 'Renamed', keys: [] })).toMatchObject({ name: 'Renamed', version: 3 })
    await expect(changePage(em(), 'ines', id, 2, { keys: [key('p2106')] })).rejects.toMatchObject({ statusCode: 409 })
    await expect(removePage(em(), 'ines', id, 2)).rejects.toMatchObject({ statusCode: 409 })
    expect(await pageFor(em(), 'ines', id)).toMatchObject({ name: 'Renamed', keys: [], version: 3 })
  })

  it('are as many as there may be, of one\'s own and of all together, also when two add the last one', async () => {
    for (let count = 1; count < mostPages; count++) await addPage(em(), 'ines', { name: `${count}`, shared: false, keys: [] })
    const last = await Promise.allSettled(['a', 'b'].map(name => addPage(em(), 'ines', { name, shared: false, keys: [] })))
    expect(last.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    await addPage(em(), 'ines', { name: 'Ours', shared: true, keys: [] })
    await addPage(em(), 'tomas', { name: 'Another\'s', shared: false, keys: [] })
    expect((await pagesFor(em(), 'ines')).at(-1)!.name).toMatch(/^[ab]$/)
  })
})

describe('keys that are kept', () => {
  const company = merrowby(12)

  it('are about somebody who is there, but for those that stand there already', () => {
    expect(keysToKeep(company, [key('p2105', '  A\u0000 label  ')])).toEqual([key('p2105', 'A label')])
    expect(() => keysToKeep(company, [key('p2105'), key('p-gone')])).toThrow(expect.objectContaining({ statusCode: 422 }) as Error)
    expect(keysToKeep(company, [key('p-gone', '')], [key('p-gone', 'Old')])).toEqual([key('p-gone', null)])
    expect(() => keysToKeep(company, [{ ...key('p-gone'), kind: 'group' }], [key('p-gone')])).toThrow()
  })
})
