import { describe, expect, it } from 'vitest'
import { Attendance } from './attendance'

describe('whose consoles are open', () => {
  it('follows the first console that opens and the last that closes', () => {
    const said: string[][] = []
    const attendance = new Attendance(devices => said.push(devices))
    attendance.arrived('t2100')
    attendance.arrived('t2100')
    attendance.arrived('t2101')
    attendance.left('t2100')
    expect(said.at(-1)).toEqual(['t2100', 't2101'])
    attendance.left('t2100')
    expect(said.at(-1)).toEqual(['t2101'])
    attendance.left('t2100')
    attendance.left(null)
    attendance.arrived(null)
    expect(said.at(-1), 'closing what is closed changes nothing').toEqual(['t2101'])
  })
})
