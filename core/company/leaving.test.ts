import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { changedCompany } from './changes'
import { faultsOf } from './check'
import { leaving } from './leaving'
import { telephonesOf } from './lookups'

const company = merrowby(120)
const people = Object.keys(company.people)

describe('somebody who leaves', () => {
  it('leaves a company without a fault, in which nobody is asked for them', () => {
    fc.assert(fc.property(fc.constantFrom(...people), fc.option(fc.constantFrom(...people)), (person, chosen) => {
      const successor = chosen === person ? null : chosen
      const theirs = telephonesOf(company, person).map(({ id }) => id)
      const after = changedCompany(company, company.version, leaving(company, person, successor))
      // Nobody is left to serve a line whose only operator goes.
      expect(faultsOf(after)).toEqual([])
      expect(after.people[person]).toBeUndefined()
      for (const id of theirs) expect(after.telephones[id]?.person).toBe(successor ?? undefined)
      expect(JSON.stringify(Object.values(after.people).map(({ deputies }) => deputies))).not.toContain(`"${person}"`)
      if (successor) expect(telephonesOf(after, successor)).toHaveLength(telephonesOf(company, successor).length + theirs.length)
    }), { numRuns: 60 })
  })

  it('hands the number and the places in groups to who comes after them', () => {
    const [one, other] = [company.telephones.t2105!, company.telephones.t2106!]
    const after = changedCompany(company, company.version, leaving(company, one.person!, other.person))
    expect(after.telephones.t2105).toMatchObject({ number: one.number, person: other.person, rank: 1 })
    const groupsWith = (of: typeof company) => Object.values(of.groups).filter(({ members }) => members.includes('t2105')).map(({ id }) => id)
    expect(groupsWith(after)).toEqual(groupsWith(company))
  })
})
