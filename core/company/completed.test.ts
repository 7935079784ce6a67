import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { completed } from './completed'
import type { Company } from './company'

describe('a company of before', () => {
  it('is completed with what was not known then, and one of today stays as it is', () => {
    const today = merrowby(20)
    expect(completed(today)).toEqual(today)
    const { name: _name, country: _country, ...settings } = today.settings
    const before = {
      ...today, settings, slots: { 'slot:3': { id: 'slot:3', number: '703' } }, trunks: { east: { id: 'east', channels: 4, kept: 1 } },
    } as unknown as Company
    expect(completed(before)).toMatchObject({
      settings: { name: '', country: 'GB' }, slots: { 'slot:3': { name: '3', number: '703' } }, trunks: { east: { name: 'east', channels: 4 } },
    })
  })
})
