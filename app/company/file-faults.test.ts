import { createPinia, setActivePinia } from 'pinia'
import { beforeAll, describe, expect, it } from 'vitest'
import { company } from '~~/core/company/schema'
import { refusalOf } from '~~/words/in-english'
import { merrowby } from '../../demo/company/merrowby'
import { inWords, jsonFault } from './file-faults'

beforeAll(() => setActivePinia(createPinia()))

describe('what is wrong with a company file', () => {
  it('is told where it can\'t be read', () => {
    const text = '{\n  "format": "estafette-company",\n  "company": }\n'
    expect(jsonFault(text)).toMatch(/^This is no JSON: line 3, column 14 can't be read\./)
    expect(jsonFault('\u0000PNG')).toMatch(/^This is no JSON: line 1, column 1 /)
    expect(jsonFault('{"format": "estafette')).toMatch(/^This is no JSON: line 1, column 12 /)
  })

  it('is told in the words of the forms, with the thing\'s name', () => {
    const house = merrowby(20)
    const queue = house.groups['queue:reservations']!
    const file = { company: { ...house, groups: { ...house.groups, 'queue:reservations': { ...queue, ringTime: 0 } } } }
    const said = refusalOf(() => company.validateSync(file.company))
    expect(inWords(`file.company.${said}`, file)).toBe('In the file, Groups and queues, Reservations queue: for seconds must be at least 3 seconds.')
    expect(inWords('file.company.settings.country is missing: please fill it in.', file)).toBe('In the file, Settings: Country is missing: please fill it in.')
    expect(inWords('file.company.lines is a required field', file)).toBe('In the file, Lines: Lines is a required field')
    expect(inWords('The server is busy.', file)).toBe('The server is busy.')
  })
})
