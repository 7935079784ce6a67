import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { Carrier } from '../exchange/sip/carrier'
import { CarrierSet, fieldOf, isProved } from './carrier-set'
import { SipHouse, until } from './sip-house'
import { accountOf, Baresip } from './telephone-set'

/** The number outside at which somebody is, and that of a line of ours. */
const [wilf, line] = ['+447700900123', '+441632960000']

const house = new SipHouse()
const { exchange, address } = house
let [first, second]: CarrierSet[] = []
/** Somebody outside, as a carrier brings and reaches them; the others are carriers that refuse. */
let outside: Baresip

const carrier = (name: string, port: number, more: Partial<Carrier> = {}): Carrier => ({
  trunk: 'east', name, host: address, port, protocol: 'udp', priority: 0, weight: 1, from: [], account: null, registers: false, ...more,
})
const faulty = () => exchange.state.troubles.get('east')?.faulty ?? 0
const leg = () => [...exchange.state.calls.values()].flatMap(({ connections }) => connections.filter(({ party }) => party))[0]

beforeAll(async () => {
  [first, second] = await Promise.all([CarrierSet.open(address), CarrierSet.open(address)])
  first!.answers.REGISTER = 401
  outside = await Baresip.start(wilf, null, `${address}:5060`, 700)
  await house.open({
    carriers: [
      carrier('first', first!.port, { account: { name: 'merrowby', secret: 'known to the bay' }, registers: true }),
      carrier('second', second!.port, { priority: 1 }),
      carrier('third', outside.port, { priority: 2 }),
    ],
  })
  house.ask({ service: 'setAgentState', device: 't2100', attended: true })
}, 30_000)

afterAll(async () => {
  await Baresip.stopAll()
  first?.close()
  second?.close()
  house.close()
})

beforeEach(async () => {
  outside.clear()
  for (const set of [first!, second!]) {
    await set.appears(house.gate.port)
    set.forget('INVITE')
    set.answers.INVITE = 503
  }
})

afterEach(() => house.clear())

describe('a carrier', () => {
  it('is told where we are, with a proof that we know its secret', async () => {
    const proved = () => first!.all('REGISTER').find(text => isProved(text, 'merrowby', 'known to the bay'))
    await until(proved).toBeDefined()
    expect(fieldOf(proved()!, 'Contact')).toContain(`sip:merrowby@${house.where}`)
    expect(isProved(proved()!, 'merrowby', 'known to nobody'), 'a proof of it alone').toBe(false)
  })

  it('that has no way is left for the next, and the call is made once', async () => {
    const { call } = house.ask({ service: 'makeCall', device: 't2105', number: '07700 900123' })
    await until(() => outside.saw('CALL_INCOMING')).toBe(true)
    expect([first!, second!].map(set => set.all('INVITE').length)).toEqual([1, 1])
    expect(house.stateOf(call, 't2105')).toBe('connected')
    outside.press('accept')
    await until(() => leg()?.state).toBe('connected')
    outside.press('hangup')
    await until(() => exchange.state.calls.size).toBe(0)
  })

  it('that says nothing is left within some two seconds, and not rung once the next has answered', async () => {
    first!.answers.INVITE = second!.answers.INVITE = undefined
    house.ask({ service: 'makeCall', device: 't2105', number: '07700 900123' })
    await until(() => outside.saw('CALL_INCOMING')).toBe(true)
    outside.press('accept')
    await until(() => leg()?.state).toBe('connected')
    await house.clear()
    await until(() => outside.saw('CALL_CLOSED')).toBe(true)
  })

  it('is shown the number of whoever calls, and nobody else is where they have asked for that', async () => {
    house.ask({ service: 'makeCall', device: 't2105', number: '07700 900123' })
    await until(() => second!.all('INVITE').length).toBe(1)
    const [open] = second!.all('INVITE')
    const own = exchange.state.company.telephones.t2105!.direct!
    expect(fieldOf(open!, 'From')).toContain(`sip:${own}@`)
    expect(fieldOf(open!, 'Privacy')).toBeUndefined()
    await house.clear()
    second!.forget('INVITE')
    await second!.appears(house.gate.port)
    house.ask({ service: 'makeCall', device: 't2105', number: '#31#07700 900123' })
    await until(() => second!.all('INVITE').length).toBe(1)
    const [hidden] = second!.all('INVITE')
    expect(fieldOf(hidden!, 'From')).toContain('anonymous@anonymous.invalid')
    expect([fieldOf(hidden!, 'Privacy'), fieldOf(hidden!, 'P-Asserted-Identity')]).toEqual(['id', expect.stringContaining(own)])
    await house.clear()
  })

  it.each([
    [486, 'busy'], [480, 'noAnswer'], [404, 'outOfService'], [603, 'declined'],
  ])('says why nobody is reached: %i is %s, and no other is asked', async (status, cause) => {
    first!.answers.INVITE = second!.answers.INVITE = status
    const { call } = house.ask({ service: 'makeCall', device: 't2105', number: '07700 900123' })
    await until(() => exchange.state.calls.get(call!)?.failed?.cause).toBe(cause)
    expect(outside.saw('CALL_INCOMING')).toBe(false)
    expect(first!.all('INVITE').length + second!.all('INVITE').length).toBe(1)
    await house.clear()
  })

  it('brings a call: whoever it is is known by number, hears us, and is heard', async () => {
    outside.press('dial', `sip:${line}@${house.where}`)
    await until(() => leg()?.party?.number).toBe(wilf)
    const [call] = [...exchange.state.calls.values()]
    expect(call).toMatchObject({ direction: 'inbound', dialled: line })
    expect(leg()?.trunk).toBe('east')
    await until(() => outside.saw('CALL_PROGRESS')).toBe(true)
    house.ask({ service: 'answerCall', device: 't2100', call: call!.id })
    await until(() => outside.saw('CALL_ESTABLISHED')).toBe(true)
    expect(house.stateOf(call!.id, 't2100')).toBe('connected')
    house.ask({ service: 'clearConnection', device: 't2100', call: call!.id })
    await until(() => outside.saw('CALL_CLOSED')).toBe(true)
  })

  it('whose caller gives up leaves nobody waiting; a number that is not ours is told as that', async () => {
    outside.press('dial', `sip:${line}@${house.where}`)
    await until(() => outside.saw('CALL_PROGRESS')).toBe(true)
    outside.press('hangup')
    await until(() => exchange.state.calls.size).toBe(0)
    await until(() => outside.saw('CALL_CLOSED')).toBe(true)
    outside.clear()
    outside.press('dial', `sip:+441632999999@${house.where}`)
    await until(() => outside.events.find(({ type }) => type === 'CALL_CLOSED')?.param).toContain('404')
  })

  it('whose caller is answered by a colleague with a telephone of the network hears them, and is heard', async () => {
    house.gate.know([accountOf('t2105', '2105', 'hesters-secret')])
    const hester = await Baresip.start('2105', 'hesters-secret', house.where, 1_100)
    await until(() => exchange.state.devices.get('t2105')?.registered).toBe(true)
    outside.press('dial', `sip:+441632960105@${house.where}`)
    await until(() => hester.saw('CALL_INCOMING')).toBe(true)
    hester.press('accept')
    await until(() => outside.hears(1_100) > 0.1 && hester.hears(700) > 0.1).toBe(true)
    hester.press('hangup')
    await until(() => outside.saw('CALL_CLOSED')).toBe(true)
    await hester.stop()
    house.gate.know([])
  })

  it('none of which answers leaves its trunk without channels, until one does; whoever brings a call answers', async () => {
    expect(faulty()).toBe(0)
    first!.answers.INVITE = second!.answers.INVITE = 503
    await outside.stop()
    const { call } = house.ask({ service: 'makeCall', device: 't2105', number: '07700 900123' })
    await until(() => exchange.state.calls.get(call!)?.failed?.cause).toBe('trunksBusy')
    await house.clear()
    expect(faulty()).toBe(exchange.state.company.trunks.east!.channels)
    second!.send([
      `INVITE sip:${line}@${house.where} SIP/2.0`, `Via: SIP/2.0/UDP ${address}:${second!.port};branch=z9hG4bKone;rport`, 'Max-Forwards: 70',
      `To: <sip:${line}@${house.where}>`, `From: <sip:+447700900777@${address}>;tag=t`, 'Call-ID: one', 'CSeq: 1 INVITE',
      `Contact: <sip:x@${address}:${second!.port}>`, 'Content-Length: 0', '', '',
    ].join('\r\n'), house.gate.port)
    await until(() => leg()?.party?.number).toBe('+447700900777')
    expect(faulty()).toBe(0)
  })
})
