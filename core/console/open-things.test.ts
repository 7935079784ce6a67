import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { Tryout } from '../calls/tryout'
import { standingOf } from './call-backs'
import { clockOf, namesIn, openThings } from './open-things'

const minute = 60_000
const [ines, tomas, colleague] = ['t2100', 't2101', 't2105'] as const

function things(on: Tryout) {
  const { state } = on
  return openThings(state, on.now, namesIn(state.company),
    clockOf(state.company)).map(({ kind, who, words }) => [kind, spoken(english, who), spoken(english, words)])
}
const name = (on: Tryout, device: string) => on.state.company.telephones[device]!.name

describe('what is open at the end of a shift', () => {
  it('is nothing when nothing is; who has just begun to wait is not in it', () => {
    const on = new Tryout(merrowby(12))
    on.offer()
    expect(things(on)).toEqual([])
    on.wait(minute)
    expect(things(on)).toEqual([['waiting', '07700 900001', 'waits for Operators, longer than promised']])
  })

  it('is whoever is on hold or parked, and for how long too long', () => {
    const on = new Tryout(merrowby(12))
    const held = on.inHand(ines)
    on.must({ service: 'holdCall', device: ines, call: held })
    const parked = on.inHand(tomas)
    on.must({ service: 'parkCall', device: tomas, call: parked, slot: null, for: colleague })
    expect(things(on)).toEqual([
      ['onHold', '07700 900001', `on hold with ${name(on, ines)}`], ['parked', '07700 900001', `in park slot 1, kept for ${name(on, colleague)}`],
    ])
    on.wait(61_000)
    expect(things(on)).toContainEqual(['onHold', '07700 900001', `on hold with ${name(on, ines)}, longer than promised`])
  })

  it('is whom we promised a call, and what somebody has set by hand, not what hours or owners say', () => {
    const on = new Tryout(merrowby(12), { now: Date.UTC(2031, 4, 12, 9) })
    on.must({ service: 'promiseCallBack', device: ines, number: '07700 900321', name: '<b>Bo</b>', queue: 'queue:freight' })
    on.must({ service: 'setOpening', device: ines, of: 'harbour', open: false, until: Date.UTC(2031, 4, 12, 13, 5) })
    on.must({ service: 'setDoNotDisturb', device: colleague, on: true })
    on.must({ service: 'setForwarding', device: ines, of: 't2106', when: 'always', to: '07700 900111', until: null })
    on.must({ service: 'setLineServed', device: tomas, line: 'freight', on: false, until: null })
    on.must({ service: 'setTrunkService', device: ines, trunk: 'west', on: false })
    expect(things(on)).toEqual([
      ['callBack', '<b>Bo</b>', 'to be called back by the Freight queue'],
      ['opening', 'Harbour line', `closed by ${name(on, ines)} until 14:05`],
      ['trunk', 'Trunk west', `taken out of service by ${name(on, ines)}`],
      ['line', name(on, tomas), 'leaves to the others: Freight line until further notice'],
      ['telephone', name(on, 't2106'), `calls go to 07700 900111, set by ${name(on, ines)} until further notice`],
    ])
    const [promise] = on.state.callBacks.values()
    on.must({ service: 'assignCallBack', device: ines, callBack: promise!.id, to: colleague })
    expect(things(on)[0]![2]).toBe(`to be called back by ${name(on, colleague)}`)
  })
})

describe('how a promise stands', () => {
  it('is told from whoever has it to whoever is on the line', () => {
    const on = new Tryout(merrowby(12))
    on.change('groups', 'queue:freight', { members: [colleague], voluntary: [], ringing: 'none' })
    on.must({ service: 'promiseCallBack', device: ines, number: '07700 900001', queue: 'queue:freight' })
    const [id] = [...on.state.callBacks.keys()] as [string]
    const stands = () => standingOf(on.state, on.state.callBacks.get(id)!)
    expect(stands()).toMatchObject({ how: 'waits' })
    on.must({ service: 'assignCallBack', device: ines, callBack: id, to: tomas })
    expect(stands()).toMatchObject({ how: 'taken', device: tomas })
    on.must({ service: 'makeCallBack', device: tomas, callBack: id })
    expect(stands()).toMatchObject({ how: 'calling', device: tomas })
    on.wait(30_000)
    on.wait(5_000)
    expect(stands()).toMatchObject({ how: 'later', device: tomas, at: on.now + on.state.company.settings.callBackAgain })
    on.wait(on.state.company.settings.callBackAgain)
    on.must({ service: 'assignCallBack', device: ines, callBack: id, to: null })
    on.must({ service: 'setOpening', device: ines, of: 'queue:freight', open: false, until: on.now + on.state.clockOffset + 3_600_000 })
    expect(stands()).toMatchObject({ how: 'closed' })
    on.inHand(ines)
    expect(stands()).toMatchObject({ how: 'onTheLine', device: ines })
  })
})
