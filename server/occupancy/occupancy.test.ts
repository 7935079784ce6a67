import { beforeEach, expect, it, vi } from 'vitest'
import { ownDatabase } from '../../tests/database/own'
import { merrowby } from '~~/demo/company/merrowby'
import { occupants, takeList } from './occupancy'

/** A list of who is where is the whole truth: whoever is not on it has gone. */
const own = ownDatabase()
const hour = 3_600_000
const now = Date.UTC(2031, 4, 12, 9)
const relay = { company: { current: merrowby(12) }, wallNow: now, get orm() { return own.orm } }
vi.mock('../relay', () => ({ useRelay: () => relay }))

beforeEach(async () => {
  await own.sql('delete from occupancy')
  relay.wallNow = now
})

const list = (...lines: string[]) => takeList(['place,occupant,from,to', ...lines].join('\n'), 'csv')
const seen = async () => (await occupants(own.orm.em.fork(), relay.wallNow)).map(({ telephone, name, from, to }) =>
  `${telephone} ${name} ${(from - now) / hour} ${to === null ? '' : (to - now) / hour}`.trim())

it('who is on it has come, stays as long as they are on it, and has gone when they are not', async () => {
  expect(await list('851,MV Curlew,,', '852,Pilot,,')).toEqual({ stays: 2, unknown: [] })
  expect(await seen()).toEqual(['t851 MV Curlew 0', 't852 Pilot 0'])
  relay.wallNow = now + hour
  await list('851,MV Curlew,,')
  expect(await seen()).toEqual(['t851 MV Curlew 0', 't852 Pilot 0 1'])
  relay.wallNow = now + 2 * hour
  await list('851,MV Curlew,,', '852,Pilot,,')
  expect(await seen(), 'who comes again has been away').toEqual(['t851 MV Curlew 0', 't852 Pilot 0 1', 't852 Pilot 2'])
})

it('who was there is known for a day', async () => {
  await list('851,MV Curlew,,')
  await list()
  relay.wallNow = now + 24 * hour
  expect(await seen()).toEqual(['t851 MV Curlew 0 0'])
  relay.wallNow = now + 24 * hour + 1
  expect(await seen()).toEqual([])
  await list('852,Pilot,,')
  expect(await own.sql('select name from occupancy')).toEqual([{ name: 'Pilot' }])
})

it('a place that is not known is named, and the rest is taken', async () => {
  expect(await list('899,Nobody,,', '851,MV Curlew,,')).toEqual({ stays: 1, unknown: ['899'] })
  expect(await seen()).toEqual(['t851 MV Curlew 0'])
})

it('what is no list is refused with its field, and changes nothing', async () => {
  await list('851,MV Curlew,,')
  await expect(takeList('what, ever\n1,2', 'csv')).rejects.toMatchObject({ statusCode: 422, data: { field: 'csv' } })
  expect(await seen()).toEqual(['t851 MV Curlew 0'])
})
