import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Tryout } from '~~/core/calls/tryout'
import { Attendance } from './attendance'
import type { ExchangeLink } from './link'

const [ines, tomas] = ['2100', '2101']
let desk: Tryout
let said: string[]
let attendance: Attendance

beforeEach(() => {
  vi.useFakeTimers()
  desk = new Tryout(undefined, { attended: [ines, tomas] })
  said = []
  const link: ExchangeLink = {
    up: true,
    close: () => {},
    request: (_, request) => {
      if (request.service === 'setAgentState') said.push(`${request.device} ${request.attended ? 'here' : 'gone'}`)
      desk.ask(request)
      return Promise.resolve({ seq: desk.state.seq })
    },
  }
  attendance = new Attendance(desk, () => link)
})

afterEach(() => {
  attendance.close()
  vi.useRealTimers()
})

describe('whether an operator is there', () => {
  it('follows the first console that opens and the last that closes', () => {
    attendance.arrived(ines)
    attendance.arrived(ines)
    attendance.left(ines)
    expect(said).toEqual([`${ines} here`])
    attendance.left(ines)
    expect(said).toEqual([`${ines} here`, `${ines} gone`])
    attendance.left(ines)
    expect(said, 'closing what is closed says nothing').toHaveLength(2)
  })

  it('is said of operators alone', () => {
    attendance.arrived('2105')
    attendance.arrived(null)
    attendance.left('2105')
    expect(said).toEqual([])
  })

  it('is said again to an exchange that has come back', () => {
    attendance.arrived(ines)
    attendance.exchangeUp()
    expect(said).toEqual([`${ines} here`, `${ines} here`])
  })

  it('is put right when another server says that somebody here has gone', () => {
    attendance.arrived(ines)
    attendance.event({ type: 'agentStateChanged', device: ines, attended: false, leavesAt: 1, seq: 9, at: 0 })
    expect(said.at(-1)).toBe(`${ines} here`)
    attendance.event({ type: 'agentStateChanged', device: tomas, attended: false, leavesAt: 1, seq: 10, at: 0 })
    expect(said).toHaveLength(2)
  })

  it('some seconds after a start, whoever has not come back is counted as gone', () => {
    attendance.arrived(ines)
    vi.advanceTimersByTime(14_000)
    expect(said).toEqual([`${ines} here`])
    vi.advanceTimersByTime(2_000)
    expect(said).toEqual([`${ines} here`, `${tomas} gone`])
  })
})
