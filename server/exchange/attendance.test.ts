import { describe, expect, it } from 'vitest'
import { Attendance } from './attendance'

describe('whose consoles are open', () => {
  it('follows the first console that opens and the last that closes', () => {
    const said: string[][] = []
    const attendance = new Attendance(devices => said.push(devices))
    attendance.arrived('2100')
    attendance.arrived('2100')
    attendance.arrived('2101')
    attendance.left('2100')
    expect(said.at(-1)).toEqual(['2100', '2101'])
    attendance.left('2100')
    expect(said.at(-1)).toEqual(['2101'])
    attendance.left('2100')
    attendance.left(null)
    attendance.arrived(null)
    expect(said.at(-1), 'closing what is closed changes nothing').toEqual(['2101'])
  })
})
