import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { nobody } from './company'
import { lacking } from './readiness'

describe('what is missing before the first call can be answered', () => {
  it('is everything of a house of which nothing is known, and nothing of one at work', () => {
    expect(lacking(nobody)).toEqual(['name', 'trunk', 'line', 'emergency', 'people', 'operators'])
    expect(lacking(merrowby(60))).toEqual([])
  })

  it('is each thing by itself', () => {
    const company = merrowby(60)
    const operators = company.groups.operators!
    expect(lacking({ ...company, settings: { ...company.settings, name: ' ' } })).toEqual(['name'])
    expect(lacking({ ...company, trunks: {} })).toEqual(['trunk'])
    expect(lacking({ ...company, lines: { booking: company.lines.reservations! } }), 'a line that leads elsewhere').toEqual(['line'])
    expect(lacking({ ...company, shortNumbers: { 101: company.shortNumbers['101']! } })).toEqual(['emergency'])
    expect(lacking({ ...company, groups: { ...company.groups, operators: { ...operators, members: [] } } })).toEqual(['operators'])
    const telephones = { ...company.telephones, ...Object.fromEntries(operators.members.map(id => [id, { ...company.telephones[id]!, inService: false }])) }
    expect(lacking({ ...company, telephones })).toEqual(['operatorTelephones'])
  })
})
