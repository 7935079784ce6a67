import { decide } from '../calls/decide'
import { evolveAll, numbered } from '../calls/evolve'
import type { CallId, ExchangeState, Request } from '../calls/model'
import type { World } from '../world/merrowby'

/** Moments of a day to begin at. Each is played through the call model, so that nothing in it could not have happened. */
export const scenes = ['busy'] as const
export type Scene = typeof scenes[number]

const second = 1_000

/** How long before the moment the scene's first caller rings, in milliseconds. */
export const prelude = 82 * second

/**
 * Three callers waiting, two on hold, one colleague being asked, two parked, one coming back: who needs the operator first?
 * @param quiet an exchange where nobody calls, at `prelude` before the moment
 * @returns the exchange at the moment, with nobody at the consoles yet
 */
export function busyMoment(quiet: ExchangeState, world: World): ExchangeState {
  const [ines, tomas] = world.operatorsGroup.members as [string, string]
  const inDepartment = (id: string, index = 0) => world.people.filter(person => person.department === id && quiet.devices[person.extension]!.inService)[index]!.extension
  let state = { ...quiet, agents: Object.fromEntries(Object.entries(quiet.agents).map(([id, agent]) => [id, { ...agent, attended: true }])) }
  let now = quiet.time
  const until = (at: number) => {
    now = quiet.time + at * second
    ask({ service: 'tick' })
  }
  const ask = (request: Request): CallId => {
    const decision = decide(state, request, now)
    if ('refusal' in decision) throw new Error(`scene: ${request.service}: ${decision.refusal.sentence}`)
    const before = state.calls
    state = evolveAll(state, numbered(state, decision.events, now))
    return Object.keys(state.calls).find(id => !before[id]) ?? ''
  }
  const caller = (name: string | null, number: string, says: string, line = 0) => {
    const call = ask({ service: 'offerCall', trunk: 'east', party: { name, number }, number: world.lines[line]!.number })
    return {
      call,
      answer: (device: string) => {
        ask({ service: 'answerCall', device, call })
        ask({ service: 'sendUserInformation', device: state.calls[call]!.calling, call, text: says })
      },
      pass: (device: string, to: string, note?: string) => ask({ service: 'singleStepTransferCall', device, call, to, ...(note && { note }) }),
      park: (device: string, reserved: string | null) => ask({ service: 'parkCall', device, call, slot: null, for: reserved }),
    }
  }

  const captain = inDepartment('curlew')
  const accounts = inDepartment('accounts')
  ask({ service: 'makeCall', device: captain, number: inDepartment('control') })
  ask({ service: 'answerCall', device: inDepartment('control'), call: Object.keys(state.calls)[0]! })

  const parked = caller('Hallow Island Dairy', '+447700900118', 'The morning milk for the Curlew: where do you want it?')
  until(3)
  parked.answer(ines)
  until(9)
  parked.park(ines, captain)
  const back = caller('Gesa Tidemark', '+442079460177', 'The invoice is wrong again. Who looks after that?')
  until(14)
  back.answer(ines)
  until(20)
  const second1 = caller('Oswald Brine', '+447700900231', 'I left my telephone on the Sandpiper.')
  until(24)
  second1.answer(tomas)
  until(30)
  second1.park(tomas, null)
  until(33)
  const held = caller('Piet Lanthorn', '+447700900064', 'A coach party of forty for the sixth, please.')
  until(36)
  held.answer(ines)
  until(44)
  const asks = caller('Pennick & Vale Haulage', '+442079460409', 'Dangerous goods for Thursday: is there room on deck?', 1)
  until(47)
  back.pass(ines, accounts, 'third time she calls')
  until(49)
  asks.answer(ines)
  until(56)
  const consultation = ask({ service: 'consultationCall', device: ines, call: asks.call, number: inDepartment('freight') })
  until(60)
  ask({ service: 'answerCall', device: inDepartment('freight'), call: consultation })
  ask({ service: 'sendUserInformation', device: inDepartment('freight'), call: consultation, text: 'Two lorries, yes. Put them through.' })
  caller('Tern Valley School', '+442079460310', '', 0)
  until(67)
  caller(null, '+447700900555', '', 3)
  until(71)
  caller('Clover Plimsole', '+447700900489', '', 2)
  until(prelude / second)
  return { ...state, agents: quiet.agents }
}
