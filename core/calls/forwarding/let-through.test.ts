import { expect, it } from 'vitest'
import { sentenceOf, Tryout } from '../tryout'

const [one, two] = ['t2105', 't2106'] as const
const [daughter, other] = ['+447700900321', '+447700900322']

it('a number that is let through rings in spite of do not disturb: called directly, passed on, from outside and from inside; others do not', () => {
  const on = new Tryout()
  const let1 = (number: string, onOff = true) => on.ask({ service: 'setLetThrough', device: one, number, on: onOff })
  on.must({ service: 'setDoNotDisturb', device: one, on: true })
  expect(let1('07700 900321')).toBeUndefined()
  expect(let1('2106')).toBeUndefined()
  const rings = (call: string) => on.call(call).connections.some(({ device, state }) => device === one && state === 'alerting')
  const direct = on.state.company.telephones[one]!.direct!
  const offer = (number: string | null, to = direct) => on.offer(to, { number, name: null })
  expect(rings(offer(daughter))).toBe(true)
  on.must({ service: 'clearConnection', device: one, call: [...on.state.calls.keys()].at(-1)! })
  for (const stranger of [other, null]) expect(rings(offer(stranger))).toBe(false)

  // An operator passes both on.
  const general = Object.values(on.state.company.lines)[0]!.number
  const passOn = (number: string) => {
    const call = offer(number, general)
    on.must({ service: 'answerCall', device: 't2100', call })
    const refused = sentenceOf(on.ask({ service: 'singleStepTransferCall', device: 't2100', call, to: one }))
    return { call, refused }
  }
  expect(passOn(other).refused).toContain('has do not disturb on')
  const through = passOn(daughter)
  expect(through.refused).toBeUndefined()
  expect(rings(through.call)).toBe(true)
  on.must({ service: 'clearConnection', device: one, call: through.call })

  // A colleague dials.
  const call = on.begins(() => on.must({ service: 'makeCall', device: two, number: '2105' }))
  expect(rings(call)).toBe(true)
  on.must({ service: 'clearConnection', device: two, call })
  let1('2106', false)
  expect(rings(on.begins(() => on.must({ service: 'makeCall', device: two, number: '2105' })))).toBe(false)
})

it('nonsense, too many and somebody else\'s are refused with a sentence; saying it twice changes nothing', () => {
  const on = new Tryout()
  const ask = (device: string, number: string, of?: string) => sentenceOf(on.ask({ service: 'setLetThrough', device, number, on: true, ...(of && { of }) }))
  expect(ask(one, '+44 20')).toContain('not a complete telephone number')
  expect(ask(two, daughter, one)).toContain('Only operators')
  expect(ask('t2100', daughter, one)).toBeUndefined()
  expect(ask(one, '07700 900321')).toBeUndefined()
  expect(on.state.devices.get(one)!.letThrough).toEqual([daughter])
  for (let i = 0; i < 19; i++) expect(ask(one, `2${120 + i}`)).toBeUndefined()
  expect(ask(one, '2199')).toContain('20 numbers at most')
})
