import type { CallId, ExchangeState, Refusal, Request } from '../../core/calls/model'

/** Moments of a day to begin at. Each is played through the call model, so that nothing in it could not have happened. */
export const scenes = ['busy'] as const
export type Scene = typeof scenes[number]

const second = 1_000

/** How long before the moment the scene's first caller rings, in milliseconds. */
export const prelude = 82 * second

/** An exchange with nobody but us on it, whose clock stands still. */
export interface QuietExchange {
  readonly state: ExchangeState
  /** Carries out a request and says what it began or why not. */
  ask(request: Request): { call?: string, refusal?: Refusal }
  /** Moves the clock on to a time of the exchange. */
  moveTo(at: number): void
}

/**
 * Three callers waiting, two on hold, one colleague being asked, two parked, one coming back: who needs the operator first?
 * Takes `prelude` of the exchange's time.
 */
export function busyMoment(exchange: QuietExchange): void {
  const { company, time } = exchange.state
  const [ines, tomas] = company.groups[company.settings.operators]!.members as [string, string]
  const inDepartment = (id: string, index = 0) =>
    Object.values(company.telephones).filter(({ pickupGroup, inService }) => pickupGroup === id && inService)[index]!.id
  const until = (at: number) => exchange.moveTo(time + at * second)
  const ask = (request: Request): CallId => {
    const { call, refusal } = exchange.ask(request)
    if (refusal) throw new Error(`scene: ${request.service}: ${refusal.sentence}`)
    return call ?? ''
  }
  for (const device of [ines, tomas]) ask({ service: 'setAgentState', device, attended: true })
  const caller = (name: string | null, number: string, says: string, line = 0) => {
    const call = ask({ service: 'offerCall', trunk: 'east', party: { name, number }, number: Object.values(company.lines)[line]!.number })
    return {
      call,
      answer: (device: string) => {
        ask({ service: 'answerCall', device, call })
        ask({ service: 'sendUserInformation', device: exchange.state.calls.get(call)!.calling, call, text: says })
      },
      pass: (device: string, to: string, note?: string) => ask({ service: 'singleStepTransferCall', device, call, to, ...(note && { note }) }),
      park: (device: string, reserved: string | null) => ask({ service: 'parkCall', device, call, slot: null, for: reserved }),
    }
  }

  const captain = inDepartment('curlew')
  const accounts = inDepartment('accounts')
  ask({ service: 'answerCall', device: inDepartment('control'), call: ask({ service: 'makeCall', device: captain, number: inDepartment('control') }) })

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
}
