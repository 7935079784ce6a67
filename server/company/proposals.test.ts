import { describe, expect, it } from 'vitest'
import { proposalsFor } from './proposals'

describe('what is usual in a country', () => {
  it('is its clock, its languages, whom to call in need, and its holidays by region', () => {
    const england = proposalsFor('GB', 'ENG', 2027)
    expect(england).toMatchObject({ zones: ['Europe/London'], languages: ['English'], emergency: ['999', '112'] })
    expect(england.regions).toContainEqual({ code: 'SCT', name: 'Scotland' })
    expect(england.holidays).toContainEqual({ date: '2027-12-25', name: 'Christmas Day' })
    expect(england.holidays.map(({ date }) => date.slice(0, 4))).toEqual(expect.arrayContaining(['2027', '2028', '2029']))
    const days = england.holidays.map(({ date }) => date)
    expect(days).toEqual([...new Set(days)].sort())
    expect(proposalsFor('GB', 'SCT', 2027).holidays.map(({ date }) => date)).toContain('2027-01-02')
    expect(days).not.toContain('2027-01-02')
  })

  it('is little, and no fault, where nothing is known', () => {
    expect(proposalsFor('ZZ', '', 2027)).toEqual({ zones: [], languages: [], emergency: ['112'], regions: [], holidays: [] })
    expect(proposalsFor('GB', 'NOWHERE', 2027).zones).toEqual(['Europe/London'])
  })
})
