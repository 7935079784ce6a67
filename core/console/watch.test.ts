import { beforeEach, describe, expect, it } from 'vitest'
import { Tryout } from '../calls/tryout'
import { conferencesNow, operatorsNow, whoWaits } from './watch'

const ines = 't2100'
let desk: Tryout
beforeEach(() => {
  desk = new Tryout()
})
const seen = () => whoWaits(desk.state, desk.now).map(({ at, how, used }) => [at, how, Number(used.toFixed(2))])

describe('what whoever answers for the whole sees', () => {
  it('is everybody who waits, wherever, the promise that is used up most first', () => {
    const held = desk.inHand(ines)
    desk.must({ service: 'holdCall', device: ines, call: held })
    const parked = desk.inHand('t2101')
    desk.must({ service: 'parkCall', device: 't2101', call: parked, slot: 'slot:2', for: null })
    const passed = desk.inHand('t2101')
    desk.must({ service: 'singleStepTransferCall', device: 't2101', call: passed, to: 't2105' })
    desk.offer()
    desk.wait(9_000)
    const { settings, lines } = desk.state.company
    const share = (promise: number) => Number((9_000 / promise).toFixed(2))
    expect(seen()).toEqual([
      ['t2105', 'rings', share(settings.transferRecall)], ['operators', 'waits', share(lines.general!.promise)], [ines, 'onHold', share(60_000)],
      ['slot:2', 'parked', share(settings.parkRecall)],
    ].sort((a, b) => Number(b[2]) - Number(a[2])))
    desk.must({ service: 'answerCall', device: 't2105', call: passed })
    expect(seen().map(([at]) => at)).not.toContain('t2105')
  })

  it('is nobody who talks, and nobody of ours who is called', () => {
    desk.inHand(ines)
    desk.must({ service: 'makeCall', device: 't2105', number: '2106' })
    expect(seen()).toEqual([])
  })

  it('is whom every operator has, and who is in a conference', () => {
    const call = desk.inHand(ines)
    const asking = desk.consult(ines, call, 't2105')
    desk.must({ service: 'answerCall', device: 't2105', call: asking })
    expect(operatorsNow(desk.state).find(({ id }) => id === ines)!.calls.map(({ own, other }) => [own.state, other?.device])).toEqual([
      ['held', desk.call(call).calling], ['connected', 't2105'],
    ])
    expect(conferencesNow(desk.state)).toEqual([])
    desk.must({ service: 'conferenceCall', device: ines, call, other: asking })
    const [conference] = conferencesNow(desk.state)
    expect(conference!.members.map(({ device }) => device)).toEqual([desk.call(call).calling, ines, 't2105'])
  })
})
