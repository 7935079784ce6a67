import { beforeEach, describe, expect, it } from 'vitest'
import type { Company } from '../../core/company/company'
import { merrowby } from '../../demo/company/merrowby'
import { ownDatabase } from '../../tests/database/own'
import { insertRows } from '../database/rows'
import { chargesOf, chargesTable, correctCharge } from './charges'

const own = ownDatabase()
const company: Company = merrowby(12)
const [listed] = Object.values(company.accountCodes)
const day = { from: '2031-05-12', to: '2031-05-12', code: '' }
const em = () => own.orm.em.fork()

/** What was corrected stays on record: each test has calls of its own. */
let turn = 0
const named = (id: string) => `${turn}-${id}`
const plain = (call: string) => call.replace(/^\d+-/, '')

async function called(id: string, more: Record<string, unknown> = {}): Promise<void> {
  const row = {
    id: named(id), epoch: 'e', seq: 1, direction: 'outbound', dialled: '07700900123', number: '+447700900123', name: null, line: null,
    started_at: '2031-05-12T09:00:00Z',
    answered_at: '2031-05-12T09:00:05Z', ended_at: '2031-05-12T09:01:37Z', outcome: 'answered', devices: ['t2100'], names: { t2100: 'Ines Quillfeather' },
    story: [], searchable: '', account: null, ...more,
  }
  await own.sql(insertRows('call_record', Object.keys(row)), [JSON.stringify([row])])
}

beforeEach(async () => {
  turn++
  await own.sql('delete from call_record')
})

describe('what calls outside are put down to', () => {
  it('counts those that one of ours made and somebody answered, from the answer to the end', async () => {
    await called('one', { account: 'A1' })
    await called('two', { account: 'A1', ended_at: '2031-05-12T09:00:35Z' })
    await called('none')
    await called('in', { direction: 'inbound' })
    await called('unanswered', { answered_at: null })
    await called('talks', { ended_at: null })
    const { sums, calls, more } = await chargesOf(em(), day, 'Europe/London')
    expect(sums).toEqual([{ code: '', calls: 1, length: 92_000 }, { code: 'A1', calls: 2, length: 122_000 }])
    expect(calls.map(({ call }) => plain(call)).sort()).toEqual(['none', 'one', 'two'])
    expect(more).toBe(0)
    expect(calls.find(({ call }) => call === named('one'))).toEqual({
      call: named('one'), code: 'A1', by: 'Ines Quillfeather', number: '+447700900123', name: '', startedAt: Date.UTC(2031, 4, 12, 9), length: 92_000,
      corrected: null,
    })
  })

  it('takes whole days by the clock of the house, the newest first', async () => {
    // In summer a day in London begins at 23:00 UTC.
    for (const [id, at] of [['before', '11T22:59:59'], ['first', '11T23:00:00'], ['last', '12T22:59:59'], ['after', '12T23:00:00']]) {
      await called(id!, { started_at: `2031-05-${at}Z`, answered_at: `2031-05-${at}Z`, ended_at: '2031-05-13T01:00:00Z' })
    }
    expect((await chargesOf(em(), day, 'Europe/London')).calls.map(({ call }) => plain(call))).toEqual(['last', 'first'])
    const three = { ...day, from: '2031-05-11', to: '2031-05-13' }
    expect((await chargesOf(em(), three, 'Europe/London')).calls.map(({ call }) => plain(call))).toEqual(['after', 'last', 'first', 'before'])
  })

  it('shows those of one code, however it is written, or of none, and all sums', async () => {
    await called('one', { account: 'A1' })
    await called('none')
    const shown = async (code: string) => {
      const { sums, calls, more } = await chargesOf(em(), { ...day, code }, 'Europe/London')
      return [sums.length, more, ...calls.map(({ call }) => plain(call))]
    }
    expect(await shown('a1')).toEqual([2, 0, 'one'])
    expect(await shown('none')).toEqual([2, 0, 'none'])
    expect(await shown('B')).toEqual([2, 0])
  })

  it('says how many more there are than are shown', async () => {
    for (let index = 0; index < 503; index++) await called(`c${index}`, { account: index < 501 ? 'A1' : 'B2' })
    const { calls, more } = await chargesOf(em(), day, 'Europe/London')
    expect([calls.length, more]).toEqual([500, 3])
    expect((await chargesOf(em(), { ...day, code: 'a1' }, 'Europe/London')).more).toBe(1)
  })

  it('is corrected with who did it and what it was, never over what another has corrected', async () => {
    await called('one', { account: 'A1' })
    const put = (code: string, seen: string, by = 'bryony') => correctCharge(em(), named('one'), by, { code, seen }, company)
    expect(await put(listed!.code.toLowerCase(), 'A1')).toMatchObject({ code: listed!.code, corrected: { by: 'Bryony Lusk', before: 'A1' } })
    await expect(put('X', 'A1')).rejects.toMatchObject({ statusCode: 409 })
    expect(await put('', listed!.code, 'admin')).toMatchObject({ code: '', corrected: { by: 'Administrator', before: listed!.code } })
    expect((await chargesOf(em(), day, 'Europe/London')).sums).toEqual([{ code: '', calls: 1, length: 92_000 }])
    await expect(correctCharge(em(), named('two'), 'bryony', { code: '', seen: '' }, company)).rejects.toMatchObject({ statusCode: 404 })
    expect(await own.sql('select account from call_record')).toEqual([{ account: 'A1' }])
  })

  it('is any code, or one of the list alone where the house says so', async () => {
    await called('one')
    const strict = { ...company, settings: { ...company.settings, listedCodesOnly: true } }
    await expect(correctCharge(em(), named('one'), 'bryony', { code: 'free text', seen: '' }, strict)).rejects.toMatchObject({ statusCode: 422 })
    expect(await correctCharge(em(), named('one'), 'bryony', { code: 'free text', seen: '' }, company)).toMatchObject({ code: 'free text' })
    expect(await correctCharge(em(), named('one'), 'bryony', { code: '', seen: 'free text' }, strict)).toMatchObject({ code: '' })
  })

  it('is given out with seconds, times of the house and numbers as people write them', async () => {
    await called('one', { account: listed!.code, name: '=cmd' })
    await correctCharge(em(), named('one'), 'bryony', { code: 'Z9', seen: listed!.code }, company)
    const [head, row] = (await chargesTable(em(), day, company)).replace(/^\uFEFF/, '').split('\r\n')
    expect(head).toBe('code,for,begun,by,number,name,seconds,corrected by,code before')
    expect(row).toMatch(new RegExp(`^Z9,,2031-05-12 10:00:00,Ines Quillfeather,07700 900123,"?'=cmd"?,92,Bryony Lusk,${listed!.code}$`))
  })
})
