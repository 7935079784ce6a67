import type { CallId, ExchangeState, Refusal, Request } from '../../core/calls/model'

/** Moments of a day to begin at. Each is played through the call model, so that nothing in it could not have happened. */
const second = 1_000

export interface Scene {
  play: (exchange: QuietExchange) => void
  /** How long before the moment it begins, in milliseconds. */
  prelude: number
}

const busyPrelude = 82 * second
const cancelledPrelude = 300 * second

/** An exchange with nobody but us on it, whose clock stands still. */
export interface QuietExchange {
  readonly state: ExchangeState
  /** Carries out a request and says what it began or why not. */
  ask(request: Request): { call?: string, refusal?: Refusal }
  /** Moves the clock on to a time of the exchange. */
  moveTo(at: number): void
}

/** What whoever plays a scene on an exchange does with it. */
function directing(exchange: QuietExchange) {
  const { company, time } = exchange.state
  return {
    inDepartment: (id: string, index = 0) =>
      Object.values(company.telephones).filter(({ pickupGroup, inService }) => pickupGroup === id && inService)[index]!.id,
    until: (at: number) => exchange.moveTo(time + at * second),
    ask(request: Request): CallId {
      const { call, refusal } = exchange.ask(request)
      if (refusal) throw new Error(`scene: ${request.service}: ${refusal.why.key}`)
      return call ?? ''
    },
  }
}

/**
 * Three callers waiting, two on hold, one colleague being asked, two parked, one coming back: who needs the operator first?
 */
function busyMoment(exchange: QuietExchange): void {
  const { company } = exchange.state
  const { until, ask, inDepartment } = directing(exchange)
  const [ines, tomas] = company.groups[company.settings.operators]!.members as [string, string]
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
  until(busyPrelude / second)
}

const passengers = [
  'Lark Pemberwick', 'Odo Merrivale', 'Isa Thornquist', 'Bram Oxley-Fenn', 'Petra Saltmarsh', 'Wenna Harrowby', 'Jory Tillinghast', 'Mabel Quince',
  'Edda Farrier', 'Silas Wickerby', 'Nell Ashgrove', 'Toby Larkspur', 'Greta Hollins', 'Rufus Penhale', 'Clover Dunmere', 'Ivo Stanmore', 'Zelda Birkwood',
  'Hugo Netherley', 'Minta Roscoe', 'Davit Sallow',
] as const
const questions = [
  'Does the ten o\'clock sail?', 'We stand at Stennick with two children. What now?', 'Can I change to the evening boat?', 'My lorry has fish in it.',
  'Who pays for the hotel?', 'Is Hallow cut off for the whole day?',
] as const

/**
 * The ten o'clock sailing is cancelled. Everybody calls: whoever knows about sailings talks, others wait there past the promise, some have come on to the
 * operators; one colleague has let calls ring and is paused. One trunk is out of order and the other nearly full. The directors' line is closed, its callers
 * go to the voicemail. One operator speaks in the terminal hall; the pier still has to hear it.
 */
function cancelledSailing(exchange: QuietExchange): void {
  const { company } = exchange.state
  const { until, ask } = directing(exchange)
  const [ines, tomas, bryony] = company.groups[company.settings.operators]!.members as [string, string, string]
  const { general, freight, directors, reservations, control } = company.lines
  let calls = 0
  const caller = (line: { number: string }): CallId => {
    const name = passengers[calls % passengers.length]!
    const party = { name, number: `+447700900${String(700 + calls++)}` }
    const trunk = calls > 2 ? 'east' : 'west'
    return ask({ service: 'offerCall', trunk, party, number: line.number })
  }
  const says = (call: CallId) => {
    const { calling } = exchange.state.calls.get(call)!
    ask({ service: 'sendUserInformation', device: calling, call, text: questions[calls % questions.length]! })
  }
  /** Whoever is rung for it takes it. */
  const taken = (call: CallId) => {
    const rung = exchange.state.calls.get(call)!.connections.find(({ offeredBy }) => offeredBy)
    if (rung) ask({ service: 'answerCall', device: rung.device, call })
  }

  for (const device of [ines, tomas]) ask({ service: 'setAgentState', device, attended: true })
  ask({ service: 'setStatus', device: bryony, reason: 'meeting', until: null })
  ask({ service: 'setOpening', device: tomas, of: directors!.id, open: false, until: null })
  // Nobody is at one desk: its telephone rings twice in vain.
  const patient = [caller(control!), caller(control!)]
  until(4)
  taken(patient[1]!)
  until(36)
  ask({ service: 'reportTrunk', trunk: 'west', faulty: company.trunks.west!.channels })
  for (let at = 40; at < 86; at += 8) {
    const call = caller(control!)
    until(at + 5)
    taken(call)
  }
  for (let at = 92; at < 126; at += 12) {
    taken(caller(reservations!))
    until(at)
  }
  until(150)
  const waiting = [0, 1, 2].map(index => (until(160 + index * 15), caller(control!)))
  says(waiting[0]!)
  until(215)
  const held = caller(general!)
  until(222)
  ask({ service: 'answerCall', device: ines, call: held })
  says(held)
  until(232)
  ask({ service: 'holdCall', device: ines, call: held })
  caller(general!)
  until(244)
  caller(freight!)
  until(252)
  caller(control!)
  until(262)
  const inHand = caller(general!)
  until(266)
  ask({ service: 'answerCall', device: ines, call: inHand })
  says(inHand)
  until(270)
  caller(general!)
  says(caller(directors!))
  const hall = { service: 'openPage', device: tomas, to: 'zone:hall', rank: 'urgent' } as const
  until(288)
  ask(hall)
  const [page] = exchange.state.pages.keys()
  const announcement = Object.values(company.announcements).find(({ text }) => text.includes('cancelled'))!
  ask({ service: 'speakOnPage', device: tomas, page: page!, text: announcement.text })
  until(cancelledPrelude / second)
}

export const scenes: Record<string, Scene | undefined> = {
  busy: { play: busyMoment, prelude: busyPrelude },
  cancelled: { play: cancelledSailing, prelude: cancelledPrelude },
}
