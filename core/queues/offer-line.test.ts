import { describe, expect, it } from 'vitest'
import { sentenceOf, Tryout } from '../calls/tryout'

const [ines, tomas] = ['t2100', 't2101'] as const
const line = 'freight'

describe('who takes which line', () => {
  it('is changed by a word between two operators: until the other says yes nothing changes', () => {
    const on = new Tryout()
    const unserved = (device: string) => on.state.agents.get(device)!.unserved
    on.must({ service: 'setLineServed', device: tomas, line, on: false, until: null })
    on.must({ service: 'offerLine', device: ines, line, to: tomas })
    expect([unserved(ines), unserved(tomas)]).toEqual([{}, { [line]: null }])
    on.must({ service: 'answerLineOffer', device: tomas, from: ines, line, yes: true })
    expect(unserved(tomas)).toEqual({})
    expect(Object.keys(unserved(ines))).toEqual([line])
    on.wait(12 * 60 * 60_000)
    expect(unserved(ines), 'on the next day it is as before').toEqual({})
  })

  it('stays as it was when the other does not want it, does not answer, or is asked no more', () => {
    const on = new Tryout()
    const asked = () => on.must({ service: 'offerLine', device: ines, line, to: tomas })
    const answer = (yes: boolean) => on.ask({ service: 'answerLineOffer', device: tomas, from: ines, line, yes })
    asked()
    expect(answer(false)).toBeUndefined()
    expect(answer(true)?.code).toBe('notPossibleNow')
    asked()
    on.wait(2 * 60_000)
    expect(sentenceOf(answer(true))).toContain('any more')
    asked()
    on.must({ service: 'offerLine', device: ines, line, to: null })
    expect(answer(true)?.code).toBe('notPossibleNow')
    expect(on.state.agents.get(ines)!.unserved).toEqual({})
  })

  it('is asked of operators who are there, of lines that one serves, and by nobody else', () => {
    const on = new Tryout()
    const offer = (device: string, to: string, of: string = line) => on.ask({ service: 'offerLine', device, line: of, to })?.code
    expect(offer('t2105', tomas)).toBe('notAllowed')
    expect(offer(ines, ines)).toBe('toSelf')
    expect(offer(ines, tomas, 'nonsense')).toBe('unallocatedNumber')
    on.must({ service: 'setAgentState', device: tomas, attended: false })
    expect(offer(ines, tomas)).toBe('nobodyServes')
    on.must({ service: 'setAgentState', device: tomas, attended: true })
    on.must({ service: 'setLineServed', device: ines, line, on: false, until: null })
    expect(offer(ines, tomas)).toBe('notPossibleNow')
  })
})

describe('a line that was taken over', () => {
  it('comes back when whoever took it goes, and its callers wait for who gave it', () => {
    const on = new Tryout()
    for (const device of Object.keys(on.state.agents.toObject()).filter(id => id !== ines && id !== tomas))
      on.must({ service: 'setAgentState', device, attended: false })
    on.must({ service: 'offerLine', device: ines, line, to: tomas })
    on.must({ service: 'answerLineOffer', device: tomas, from: ines, line, yes: true })
    const number = on.state.company.lines[line]!.number
    on.must({ service: 'setAgentState', device: tomas, attended: false })
    const call = on.offer(number, { number: '+447700900001', name: 'Ada Fenn' })
    on.wait(on.state.company.settings.absence + 1_000)
    expect(on.state.agents.get(ines)!.unserved).toEqual({})
    expect(on.call(call).connections.map(({ device }) => device)).toContain('operators')
  })

  it('comes back when whoever took it leaves it to the others', () => {
    const on = new Tryout()
    on.must({ service: 'offerLine', device: ines, line, to: tomas })
    on.must({ service: 'answerLineOffer', device: tomas, from: ines, line, yes: true })
    on.must({ service: 'setLineServed', device: tomas, line, on: false, until: null })
    expect(on.state.agents.get(ines)!.unserved).toEqual({})
  })
})
