import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { CallId, DeviceId } from '../core/calls/model'
import { SipHouse, until } from './sip-house'
import { accountOf, Baresip, Lamp, ownCertificate } from './telephone-set'

const house = new SipHouse()
const { exchange } = house
const at: SipHouse['at'] = device => house.at(device)
const stateOf: SipHouse['stateOf'] = (call, device) => house.stateOf(call, device)
const ask: SipHouse['ask'] = request => house.ask(request)
let [keziah, hester, jory]: Baresip[] = []

const accounts = [
  accountOf('t2104', '2104', 'keziahs-secret'), accountOf('t2105', '2105', 'hesters-secret'), accountOf('t2108', '2108', 'jorys-secret'),
  accountOf('t2110', '2110', 'floras-secret'),
]

async function rings(set: Baresip): Promise<void> {
  await until(() => set.saw('CALL_INCOMING')).toBe(true)
}

/** A call from outside to a direct number. */
function outside(number: string): CallId {
  return ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900321', name: 'Wilf <"Tarn">\r\nX: y' }, number }).call!
}

async function talking(from: Baresip, number: string, to: Baresip, device: DeviceId): Promise<CallId> {
  from.press('dial', number)
  await rings(to)
  to.press('accept')
  await until(() => at(device).find(({ id }) => stateOf(id, device) === 'connected')).toBeDefined()
  await until(() => from.saw('CALL_ESTABLISHED') && to.saw('CALL_ESTABLISHED')).toBe(true)
  return at(device)[0]!.id
}

async function allQuiet(): Promise<void> {
  await house.clear()
  for (const set of [keziah!, hester!, jory!]) {
    await until(() => set.count('CALL_INCOMING') + set.count('CALL_OUTGOING') - set.count('CALL_CLOSED')).toBeLessThanOrEqual(0)
  }
}

beforeAll(async () => {
  await house.open({ tls: ownCertificate() })
  house.gate.know(accounts)
  ;[keziah, hester, jory] = await Promise.all([
    Baresip.start('2104', 'keziahs-secret', house.where, 700),
    Baresip.start('2105', 'hesters-secret', house.where, 1_100),
    Baresip.start('2108', 'jorys-secret', house.where, 1_500),
  ])
}, 30_000)

afterAll(async () => {
  await Baresip.stopAll()
  house.close()
})

beforeEach(() => {
  for (const set of [keziah!, hester!, jory!]) set.clear()
})

describe('telephones that nobody here wrote', () => {
  it('register, and are seen to be there', async () => {
    await until(() => ['t2104', 't2105', 't2108'].map(device => exchange.state.devices.get(device)?.registered)).toEqual([true, true, true])
  })

  it('call each other, hear each other, and hang up', async () => {
    keziah!.press('dial', '2105')
    await until(() => stateOf(at('t2105')[0]?.id, 't2105')).toBe('alerting')
    const call = at('t2105')[0]!.id
    await until(() => hester!.saw('CALL_INCOMING')).toBe(true)
    hester!.press('accept')
    await until(() => stateOf(call, 't2105')).toBe('connected')
    await until(() => keziah!.hears(1_100) > 0.1 && hester!.hears(700) > 0.1).toBe(true)
    expect(keziah!.hears(700), 'not oneself').toBeLessThan(0.02)
    keziah!.press('hangup')
    await until(() => exchange.state.calls.size).toBe(0)
    await until(() => hester!.saw('CALL_CLOSED')).toBe(true)
  })

  it('put a call on hold and take it back', async () => {
    const call = await talking(keziah!, '2105', hester!, 't2105')
    hester!.press('hold')
    await until(() => stateOf(call, 't2105')).toBe('held')
    await until(() => keziah!.hears(1_100)).toBeLessThan(0.02)
    hester!.press('resume')
    await until(() => stateOf(call, 't2105')).toBe('connected')
    await until(() => keziah!.hears(1_100)).toBeGreaterThan(0.1)
    await allQuiet()
  })

  it('pass a caller on without asking', async () => {
    await talking(keziah!, '2105', hester!, 't2105')
    hester!.press('transfer', `sip:2108@${house.where}`)
    await until(() => at('t2108').length).toBe(1)
    const [call] = at('t2108')
    await until(() => hester!.saw('CALL_CLOSED')).toBe(true)
    await rings(jory!)
    jory!.press('accept')
    await until(() => stateOf(call!.id, 't2108')).toBe('connected')
    await until(() => keziah!.hears(1_500) > 0.1 && jory!.hears(700) > 0.1).toBe(true)
    expect(at('t2105')).toEqual([])
    await allQuiet()
  })

  it('decline, and whoever called hears that by the busy signal', async () => {
    keziah!.press('dial', '2105')
    await rings(hester!)
    hester!.press('hangup')
    await until(() => keziah!.saw('CALL_CLOSED')).toBe(true)
    await until(() => exchange.state.calls.size).toBe(0)
  })

  it('stop ringing where somebody else has answered, and are heard when a console answers for them', async () => {
    const call = outside('+441632960105')
    await rings(hester!)
    ask({ service: 'answerCall', device: 't2105', call })
    // Answered at a console: the telephone is called again, to answer by itself; this make rings, and is lifted.
    await until(() => hester!.count('CALL_INCOMING')).toBe(2)
    hester!.press('accept')
    await until(() => hester!.saw('CALL_ESTABLISHED')).toBe(true)
    expect(stateOf(call, 't2105')).toBe('connected')
    ask({ service: 'clearConnection', device: 't2105', call })
    await until(() => hester!.count('CALL_CLOSED')).toBe(2)
    await allQuiet()
  })

  it('hear busy, and what is not there', async () => {
    const first = await talking(keziah!, '2105', hester!, 't2105')
    jory!.press('dial', '2105')
    await until(() => jory!.events.find(({ type }) => type === 'CALL_CLOSED')?.param).toContain('486')
    jory!.clear()
    jory!.press('dial', '2999')
    await until(() => jory!.events.find(({ type }) => type === 'CALL_CLOSED')?.param).toContain('404')
    expect(stateOf(first, 't2105')).toBe('connected')
    await allQuiet()
  })

  it('do by short numbers what else a telephone does', async () => {
    keziah!.press('dial', '*21*2108%23')
    await until(() => exchange.state.devices.get('t2104')?.forwarding?.always?.to).toBe('2108')
    await until(() => keziah!.saw('CALL_CLOSED')).toBe(true)
    keziah!.press('dial', '%2321%23')
    await until(() => exchange.state.devices.get('t2104')?.forwarding?.always).toBeUndefined()
    keziah!.press('dial', '*26%23')
    await until(() => exchange.state.devices.get('t2104')?.doNotDisturb).toBe(true)
    keziah!.press('dial', '%2326%23')
    await until(() => exchange.state.devices.get('t2104')?.doNotDisturb).toBe(false)
    await allQuiet()
  })

  it('pick up what rings at a colleague', async () => {
    const call = outside('+441632960105')
    await rings(hester!)
    keziah!.press('dial', '*11*2105%23')
    await until(() => stateOf(call, 't2104')).toBe('connected')
    await until(() => hester!.saw('CALL_CLOSED')).toBe(true)
    await until(() => keziah!.saw('CALL_ESTABLISHED')).toBe(true)
    await allQuiet()
  })

  it('ring together where one person has several: whoever lifts first has the call, and the other stops ringing', async () => {
    const second = await Baresip.start('2105', 'hesters-secret', house.where, 900)
    await until(() => second.output).toContain('200 OK')
    const both = [hester!, second]
    for (const lift of [[hester!], [second], both]) {
      for (const set of both) set.clear()
      const call = outside('+441632960105')
      await Promise.all(both.map(rings))
      for (const set of lift) set.press('accept')
      await until(() => stateOf(call, 't2105')).toBe('connected')
      await until(() => both.filter(set => set.saw('CALL_CLOSED')).length).toBe(1)
      await until(() => both.filter(set => set.saw('CALL_ESTABLISHED') && !set.saw('CALL_CLOSED')).length).toBe(1)
      expect(stateOf(call, 't2105'), 'the one who was too late cuts nobody off').toBe('connected')
      ask({ service: 'clearConnection', device: 't2105', call })
      await until(() => both.filter(set => set.saw('CALL_CLOSED')).length).toBe(2)
      await allQuiet()
    }
    await second.stop()
  })

  it('are heard again when the sound process has begun anew, at the port that they know', async () => {
    const call = await talking(keziah!, '2105', hester!, 't2105')
    await until(() => keziah!.hears(1_100)).toBeGreaterThan(0.1)
    let before: number[] = []
    await house.soundBeginsAnew(() => before = [keziah!.heard, hester!.heard])
    // More than the second that is listened to is new.
    await until(() => [keziah!.heard, hester!.heard].every((heard, at) => heard > before[at]! + 20_000)).toBe(true)
    await until(() => keziah!.hears(1_100) > 0.1 && hester!.hears(700) > 0.1).toBe(true)
    expect(stateOf(call, 't2105')).toBe('connected')
    await allQuiet()
  })

  it('wait in a queue, hearing where they stand, until somebody takes the call; and give up there', async () => {
    keziah!.press('dial', '603')
    await until(() => at('t2104')[0]?.connections.map(({ state }) => state) ?? []).toContain('queued')
    await until(() => keziah!.saw('CALL_PROGRESS')).toBe(true)
    const [call] = at('t2104')
    ask({ service: 'answerCall', device: 't2106', call: call!.id })
    await until(() => keziah!.saw('CALL_ESTABLISHED')).toBe(true)
    ask({ service: 'clearConnection', device: 't2106', call: call!.id })
    await until(() => keziah!.saw('CALL_CLOSED')).toBe(true)
    keziah!.clear()
    keziah!.press('dial', '603')
    await until(() => keziah!.saw('CALL_PROGRESS')).toBe(true)
    keziah!.press('hangup')
    await until(() => exchange.state.calls.size).toBe(0)
  })

  it('take a caller from a park slot by its number, and put one there by passing them on', async () => {
    const call = await talking(keziah!, '2105', hester!, 't2105')
    hester!.press('transfer', `sip:702@${house.where}`)
    await until(() => exchange.state.calls.get(call)?.parked?.slot).toBe('slot:2')
    await until(() => hester!.saw('CALL_CLOSED')).toBe(true)
    jory!.press('dial', '702')
    await until(() => [stateOf(call, 't2108'), stateOf(call, 't2104')]).toEqual(['connected', 'connected'])
    await until(() => jory!.hears(700) > 0.1 && keziah!.hears(1_500) > 0.1).toBe(true)
    await allQuiet()
  })

  it('are told of messages in their mailbox, and what others are doing: never with whom', async () => {
    const account = { name: '2105', secret: 'hesters-secret' }
    const [messages, colleague, slot] = await Promise.all([
      Lamp.ask('message-summary', '2105', account, house.where), Lamp.ask('dialog', '2108', account, house.where),
      Lamp.ask('dialog', '701', account, house.where),
    ])
    await until(() => messages.shown).toContain('Messages-Waiting: no')
    house.gate.know(accounts.map(one => ({ ...one, unheard: one.device === 't2105' ? 2 : 0 })))
    await until(() => messages.shown).toBe('Messages-Waiting: yes\r\nVoice-Message: 2/0\r\n')
    const call = outside('+441632960108')
    await until(() => colleague.shown).toContain('direction="recipient"><state>early</state>')
    ask({ service: 'answerCall', device: 't2108', call })
    await until(() => colleague.shown).toContain('<state>confirmed</state>')
    ask({ service: 'parkCall', device: 't2108', call, slot: 'slot:1', for: null })
    await until(() => slot.shown).toContain('<state>confirmed</state>')
    await until(() => colleague.shown).not.toContain('<dialog ')
    expect([colleague.shown, slot.shown].join()).not.toMatch(/Wilf|447700/)
    await expect(Lamp.ask('dialog', '602', account, house.where), 'a queue has none').rejects.toThrow('404')
    for (const lamp of [messages, colleague, slot]) lamp.stop()
    ask({ service: 'directedPickupCall', device: 't2106', call })
    ask({ service: 'clearConnection', device: 't2106', call })
    house.gate.know(accounts)
    await allQuiet()
  })

  it('are connected by TLS and encrypt what is said, each way, also across a hold', async () => {
    const secret = await Baresip.start('2110', 'floras-secret', house.where, 1_900, { secret: true })
    await until(() => exchange.state.devices.get('t2110')?.registered).toBe(true)
    secret.press('dial', '2105')
    await rings(hester!)
    hester!.press('accept')
    await until(() => secret.hears(1_100) > 0.1 && hester!.hears(1_900) > 0.1).toBe(true)
    expect(secret.output).toMatch(/SRTP is enabled/i)
    secret.press('hold')
    await until(() => stateOf(at('t2105')[0]?.id, 't2110')).toBe('held')
    secret.press('resume')
    await until(() => stateOf(at('t2105')[0]?.id, 't2110')).toBe('connected')
    await until(() => hester!.hears(1_900)).toBeGreaterThan(0.1)
    await allQuiet()
    keziah!.press('dial', '2110')
    await rings(secret)
    secret.press('accept')
    await until(() => secret.hears(700) > 0.1 && keziah!.hears(1_900) > 0.1).toBe(true)
    await allQuiet()
    await secret.stop()
    await until(() => exchange.state.devices.get('t2110')?.registered).toBe(false)
  })

  it('are let go at once when their account is taken away', async () => {
    const call = await talking(keziah!, '2105', hester!, 't2105')
    house.gate.know(accounts.slice(0, 2).filter(({ device }) => device !== 't2105'))
    await until(() => hester!.saw('CALL_CLOSED')).toBe(true)
    await until(() => exchange.state.calls.has(call)).toBe(false)
    expect(exchange.state.devices.get('t2105')?.registered).toBeUndefined()
    house.gate.know(accounts)
    expect(exchange.state.devices.get('t2105')?.registered).toBe(false)
  })
})
