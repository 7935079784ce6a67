import { english } from '../../../words/english'
import { describe, expect, it } from 'vitest'
import { channelsUsed } from '../questions'
import { recordOf } from '../record'
import { tellStory } from '../story'
import { sentenceOf, Tryout } from '../tryout'

const one = 't2105'
/** A telephone whose owner's mobile rings along with it. */
function ringingAlong() {
  const on = new Tryout()
  const person = on.state.company.telephones[one]!.person!
  on.change('people', person, { mobile: '+447700900777' })
  on.must({ service: 'setRingAlong', device: one, on: true })
  return on
}
const direct = (on: Tryout) => on.offer(on.state.company.telephones[one]!.direct!)
const mobileOf = (on: Tryout, call: string) => on.call(call).connections.find(({ party }) => party?.number === '+447700900777')

describe('a mobile that rings along', () => {
  it('rings with the telephone; whoever answers first has the call, and the other one stops', () => {
    const on = ringingAlong()
    const desk = direct(on)
    expect(mobileOf(on, desk)).toMatchObject({ state: 'alerting', along: one })
    on.must({ service: 'answerCall', device: one, call: desk })
    expect(on.call(desk).connections.map(({ device }) => device)).toEqual([on.call(desk).calling, one])
    on.must({ service: 'clearConnection', device: one, call: desk })

    const away = direct(on)
    on.must({ service: 'answerCall', device: mobileOf(on, away)!.device, call: away })
    expect(on.call(away).connections).toHaveLength(2)
    expect(mobileOf(on, away)).toMatchObject({ state: 'connected' })
    expect(on.state.indexes.callsAt.get(one) ?? []).toEqual([])
    const name = (device: string) => device === one ? 'Marit' : 'The caller'
    expect(tellStory(english, on.call(away).story,
      name).map(({ text }) => text)).toEqual(expect.arrayContaining(['rang at Marit (mobile)', 'Marit (mobile) answered']))
    expect(recordOf(on.state, on.call(away), null)).toMatchObject({ answeredBy: one, endedWith: one })
  })

  it('on which somebody of ours talks is theirs: nobody takes the call, and it is not parted as if two outside talked', () => {
    const on = ringingAlong()
    const call = direct(on)
    const mobile = mobileOf(on, call)!.device
    on.must({ service: 'answerCall', device: mobile, call })
    expect(on.ask({ service: 'directedPickupCall', device: 't2100', call })?.code).toBe('alreadyAnswered')
    expect(on.ask({ service: 'clearCall', device: 't2100', call })?.code).toBeDefined()
    on.wait(on.state.company.settings.outsideLongest + 1_000)
    expect(on.call(call).connections).toHaveLength(2)
    expect(on.call(call).watched).toBeNull()
    // At their desk they take it over from their own mobile.
    on.must({ service: 'directedPickupCall', device: one, call })
    expect(on.call(call).connections.map(({ device }) => device)).toEqual([on.call(call).calling, one])
  })

  it('that is declined leaves the telephone ringing, and the other way round; when nobody answers the caller goes where they would have', () => {
    const on = ringingAlong()
    const call = on.inHand('t2100')
    on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: one })
    on.must({ service: 'clearConnection', device: mobileOf(on, call)!.device, call })
    expect(on.call(call).connections.find(({ device }) => device === one)).toMatchObject({ state: 'alerting' })
    on.wait(21_000)
    expect(on.call(call).recall).toMatchObject({ to: 't2100', cause: 'noAnswer' })
    expect(mobileOf(on, call)).toBeUndefined()

    const again = direct(on)
    on.must({ service: 'clearConnection', device: one, call: again })
    expect(mobileOf(on, again)).toMatchObject({ state: 'alerting' })
    on.wait(60_000)
    expect(mobileOf(on, again)).toBeUndefined()
    expect(on.call(again).connections.some(({ state }) => state === 'queued')).toBe(true)
  })

  it('does not ring when no line is free, when it is the one who calls, or when it was turned off; nor along with a console', () => {
    const on = ringingAlong()
    for (const id of ['east', 'west']) on.change('trunks', id, { channels: 1, kept: 0 })
    on.must({ service: 'setTrunkService', device: 't2100', trunk: 'west', on: false })
    const call = direct(on)
    expect(mobileOf(on, call)).toBeUndefined()
    expect(channelsUsed(on.state, 'east')).toBe(1)
    on.must({ service: 'clearConnection', device: one, call })
    on.must({ service: 'setTrunkService', device: 't2100', trunk: 'west', on: true })
    for (const { device } of [...on.call(call).connections]) on.ask({ service: 'clearConnection', device, call })
    const own = on.offer(on.state.company.telephones[one]!.direct!, { number: '+447700900777', name: null })
    expect(on.call(own).connections.filter(({ party }) => party)).toHaveLength(1)
    on.must({ service: 'setRingAlong', device: 't2100', of: one, on: false })
    expect(sentenceOf(on.ask({ service: 'setRingAlong', device: 't2100', on: true }))).toContain('no mobile rings along with a console')
    expect(sentenceOf(on.ask({ service: 'setRingAlong', device: 't2106', of: one, on: true }))).toContain('Only operators')
  })
})
