import fc from 'fast-check'
import { expect, it } from 'vitest'
import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { evolve } from '../calls/evolve'
import { deviceName } from '../calls/names'
import { leavesMessage } from '../calls/questions'
import { begin, carryOut, requestOf, runsOf, start, waitOf, wish } from '../calls/wishes'
import { type Scene, type Tiding, tidingsOf } from './tidings'

const operator = 't2100'

it('who is said to have given up or hung up has gone, and who is said to have been taken talks with somebody or leaves a message', () => {
  const told = { gaveUp: 0, taken: 0, leavesMessage: 0 }
  fc.assert(fc.property(fc.array(wish, { minLength: 100, maxLength: 250, size: 'max' }), (wishes) => {
    let state = begin('told')
    let now = start
    for (const wanted of wishes) {
      if (wanted.kind === 'wait') now += waitOf(wanted)
      const request = requestOf(state, wanted)
      const tidings: Tiding[] = []
      for (const event of request ? carryOut(state, request, now).events : []) {
        const before = 'call' in event ? state.calls.get(event.call) : undefined
        state = evolve(state, event)
        const scene: Scene = {
          state, device: operator, lineName: call => call.line ?? '', greeting: () => null, departmentOf: () => null, timeOf: String, t: english,
          nameOf: (device, party) => party?.name ?? spoken(english, deviceName(state.company, device) ?? device),
        }
        tidings.push(...tidingsOf(scene, event, before))
      }
      for (const { about, text, ending } of tidings) {
        const call = state.calls.get(about)
        if (/ hung up( while on hold)?$/.test(text)) expect(call, `${text}: ${JSON.stringify(request)}`).toBeUndefined()
        if (!ending) continue
        told[ending.how]++
        if (ending.how === 'gaveUp') expect(call, `${text}: ${JSON.stringify(request)}`).toBeUndefined()
        if (ending.how === 'taken' && call) expect(call.connections.some(one => one.state === 'connected' && one.device !== call.calling), text).toBe(true)
        if (ending.how === 'leavesMessage' && call) expect(leavesMessage(call), text).toBe(true)
      }
    }
  }), { numRuns: runsOf(80), endOnFailure: true })
  expect(Math.min(told.gaveUp, told.taken)).toBeGreaterThan(3)
})
