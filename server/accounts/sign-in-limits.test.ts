import { beforeEach, describe, expect, it } from 'vitest'
import { ownDatabase } from '../../tests/database/own'
import { type Attempt, SignInLimits } from './sign-in-limits'

const own = ownDatabase()
const limits = () => new SignInLimits(own.orm, () => 5)
const stranger: Attempt = { signIn: 'ines', address: '192.0.2.1', browser: null }
const owner: Attempt = { ...stranger, browser: 'known-browser' }

/** As if so many seconds had passed. */
const pass = (seconds: number) =>
  own.sql('update sign_in_limit set at = at - make_interval(secs => ?), until = until - make_interval(secs => ?)', [seconds, seconds])

async function guess(times: number, attempt = stranger): Promise<(number | null)[]> {
  const waits = []
  for (let at = 0; at < times; at++) waits.push(await limits().begin(attempt))
  return waits
}

beforeEach(async () => {
  await own.sql('delete from sign_in_limit')
})

describe('guesses', () => {
  it('are free until there are too many under one name; then each waits, twice as long every time, up to a quarter of an hour', async () => {
    expect(await guess(5)).toEqual([null, null, null, null, null])
    expect(await guess(2), 'a guess too early is none').toEqual([10, 10])
    for (const [at, wait] of [10, 20, 40, 80, 160, 320, 640, 900, 900].entries()) {
      expect(await guess(1), `the ${at}th wait`).toEqual([wait])
      await pass(wait - 1)
      expect(await guess(1)).toEqual([1])
      await pass(1)
      expect(await guess(1)).toEqual([null])
    }
  })

  it('are forgotten after an hour without another', async () => {
    await guess(6)
    await pass(3_590)
    await guess(1)
    expect(await guess(1)).toEqual([20])
    await pass(3_601)
    expect(await guess(5)).toEqual([null, null, null, null, null])
    expect(await guess(1)).toEqual([10])
  })

  it('are counted by name and by address each; the longer wait counts', async () => {
    for (let at = 0; at < 40; at++) await limits().begin({ ...stranger, signIn: `name${at}` })
    expect(await limits().begin({ ...stranger, signIn: 'fresh' }), 'from one address').toBe(10)
    expect(await limits().begin({ ...stranger, signIn: 'fresh', address: '192.0.2.2' })).toBeNull()
    await guess(6, { ...stranger, address: '192.0.2.3' })
    expect(await limits().begin({ ...stranger, address: '192.0.2.4' }), 'under one name').toBe(10)
  })

  it('of strangers lock nobody out of the browser that is their own, which has a few of its own', async () => {
    await guess(20)
    expect(await guess(8, owner)).toEqual(Array(8).fill(null))
    expect(await guess(1, owner)).toEqual([10])
    expect(await guess(1, { ...owner, browser: 'another' })).toEqual([null])
  })

  it('are over when one was right, but for those of others at the same address', async () => {
    for (let at = 0; at < 39; at++) await limits().begin({ ...stranger, signIn: `name${at}` })
    await limits().begin(stranger)
    await limits().succeeded(stranger)
    expect(await guess(1), 'one of the address is given back').toEqual([null])
    expect(await guess(1)).toEqual([10])
    await own.sql('delete from sign_in_limit where key like \'address:%\'')
    expect(await guess(4), 'the name has begun anew, and both of these count').toEqual([null, null, null, 10])
    await own.sql(`update sign_in_limit set at = now() - interval '25 hours' where key = 'name:name3'`)
    await limits().succeeded(stranger)
    expect(await own.sql('select 1 from sign_in_limit where key = \'name:name3\''), 'what is old is let go').toEqual([])
  })

  it('made at one moment count one after the other', async () => {
    const waits = await Promise.all(Array.from({ length: 12 }, () => limits().begin(stranger)))
    expect(waits.filter(wait => wait === null)).toHaveLength(5)
  })
})
