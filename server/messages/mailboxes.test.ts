import { beforeEach, describe, expect, it, vi } from 'vitest'
import { smallHouse } from '~~/core/calls/small-house'
import type { Role } from '~~/shared/roles'
import { mailboxesOf } from './mailboxes'

const relay = { company: { current: smallHouse() } }
vi.mock('../relay', () => ({ useRelay: () => relay }))

let demo = false
beforeEach(() => {
  demo = false
  vi.stubGlobal('useRuntimeConfig', () => ({ demo }))
  vi.stubGlobal('createError', ({ statusCode, message }: { statusCode: number, message: string }) => Object.assign(new Error(message), { statusCode }))
})

const lines = Object.keys(relay.company.current.lines)
const of = (role: Role, device: string | null, handset?: string) => mailboxesOf({ role, device } as Parameters<typeof mailboxesOf>[0], handset)

describe('whose messages somebody reads', () => {
  it('one\'s own, and those of the lines who answers for the company', () => {
    expect(of('staff', 't2105')).toEqual(['t2105', 'person:p2105', 'queue:freight'])
    expect(of('staff', null)).toEqual([])
    expect(of('operator', 't2100')).toEqual(['t2100', 'person:p2100', 'operators', ...lines])
    expect(of('operator', null)).toEqual(lines)
  })

  it('those of the groups in which any of one\'s telephones is', () => {
    const { groups, telephones } = relay.company.current
    const others = Object.values(groups).filter(({ members }) => !members.includes('t2105')).map(({ id }) => id)
    expect(others).not.toEqual([])
    expect(of('staff', 't2105').filter(id => others.includes(id))).toEqual([])
    const spare = { ...telephones.t2105!, id: 't9105', number: '9105' }
    relay.company.current = { ...relay.company.current, telephones: { ...telephones, t9105: spare } }
    expect(of('staff', 't9105')).toEqual(['t9105', ...of('staff', 't2105').slice(1)])
    relay.company.current = { ...relay.company.current, telephones }
  })

  it('at the handset that is held: one\'s own everywhere, another\'s in the demo alone', () => {
    expect(of('operator', 't2100', 't2100')).toEqual(['t2100', 'person:p2100', 'operators'])
    expect(() => of('operator', 't2100', 't2105')).toThrow(expect.objectContaining({ statusCode: 403 }))
    expect(() => of('staff', null, 't2105')).toThrow(expect.objectContaining({ statusCode: 403 }))
    demo = true
    expect(of('operator', 't2100', 't2105')).toEqual(['t2105', 'person:p2105', 'queue:freight'])
  })

  it('a telephone that is none is not found, also under a name that every object has', () => {
    demo = true
    for (const handset of ['t9', 'constructor', ''])
      expect(() => of('operator', 't2100', handset), handset).toThrow(expect.objectContaining({ statusCode: 404 }))
  })
})
