import { describe, expect, it } from 'vitest'
import { presenceOf } from '../../presence/presence'
import { memberPlace } from '../../queues/serving'
import { Tryout } from '../tryout'
import { isConnected } from '../questions'

/** Of Keziah Ravelstone, who has no console; and of an operator. */
const [keziah, ines] = ['t2104', 't2100']

function house(registered: boolean | null, device = keziah): Tryout {
  const day = new Tryout()
  day.must({ service: 'reportTelephone', device, registered })
  return day
}

describe('a telephone of the network', () => {
  it('that nobody has connected is as good as none: it does not ring, calls nobody, serves no queue, and is seen so', () => {
    const day = house(false)
    const call = day.begins(() => day.must({ service: 'makeCall', device: 't2105', number: '2104' }))
    expect(day.call(call).connections.some(({ device }) => device === keziah)).toBe(false)
    expect(day.ask({ service: 'makeCall', device: keziah, number: '2105' })?.code).toBe('outOfService')
    expect(memberPlace(day.state, 'queue:freight', keziah)).toBe('away')
    expect(presenceOf(day.state, keziah)).toMatchObject({ kind: 'disconnected', lit: false })
  })

  it('is one like any other while it is connected, and once it has no account', () => {
    for (const registered of [true, null]) {
      const day = house(false)
      day.must({ service: 'reportTelephone', device: keziah, registered })
      expect(isConnected(day.state, keziah)).toBe(true)
      expect(day.ask({ service: 'makeCall', device: 't2105', number: '2104' })).toBeUndefined()
    }
    expect(house(null).state.devices.get(keziah)).not.toHaveProperty('registered', false)
  })

  it('is not needed by whoever has a console open, or holds the stand-in handset', () => {
    const day = house(false, ines)
    expect(isConnected(day.state, ines)).toBe(true)
    day.must({ service: 'setAgentState', device: ines, attended: false })
    expect(isConnected(day.state, ines)).toBe(false)
    day.must({ service: 'setHandset', device: ines, on: true })
    expect(isConnected(day.state, ines)).toBe(true)
  })

  it('that goes while it rings lets its caller go on to where unanswered ones go', () => {
    const day = house(true)
    const call = day.offer('+441632960104')
    expect(day.call(call).connections.map(({ device, state }) => [device, state])).toContainEqual([keziah, 'alerting'])
    day.must({ service: 'reportTelephone', device: keziah, registered: false })
    expect(day.call(call).connections.some(({ device }) => device === keziah)).toBe(false)
    expect(day.call(call).connections).toHaveLength(2)
  })

  it('that is out of service stays so, connected or not', () => {
    const day = house(true)
    day.change('telephones', keziah, { inService: false })
    expect(isConnected(day.state, keziah)).toBe(false)
  })

  it('is reported by nobody who asks: neither at a console nor at a handset', async () => {
    const { reportTelephone } = await import('./report-telephone')
    expect(reportTelephone.askedBy).toEqual([])
  })
})
