import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { fieldOf } from './carrier-set'
import { SipHouse, until } from './sip-house'
import { accountOf, Baresip, Lamp } from './telephone-set'
import { WrittenTelephone } from './written-telephone'

/** What telephones do in a dialog that those of others, as Debian has them, can't do. */

const house = new SipHouse()
const { exchange } = house
let [keziah, jory]: Baresip[] = []
let [own, other]: WrittenTelephone[] = []

const named = (text: string | undefined) => fieldOf(text ?? '', 'P-Asserted-Identity') ?? ''
const invites = (set: WrittenTelephone) => set.asked.filter(text => text.startsWith('INVITE'))

beforeAll(async () => {
  await house.open()
  house.gate.know([
    accountOf('t2104', '2104', 'keziahs-secret'), accountOf('t2105', '2105', 'hesters-secret'), accountOf('t2108', '2108', 'jorys-secret'),
    accountOf('t2106', '2106', 'floras-secret'), accountOf('t2100', '2100', 'iness-secret'),
  ])
  ;[own, other] = await Promise.all([
    WrittenTelephone.start('2105', 'hesters-secret', house.where), WrittenTelephone.start('2106', 'floras-secret', house.where),
  ])
  ;[keziah, jory] = await Promise.all([
    Baresip.start('2104', 'keziahs-secret', house.where, 700), Baresip.start('2108', 'jorys-secret', house.where, 1_500),
  ])
  house.ask({ service: 'setAgentState', device: 't2100', attended: true })
}, 30_000)

afterAll(async () => {
  await Baresip.stopAll()
  own?.stop()
  other?.stop()
  house.close()
})

afterEach(async () => {
  vi.useRealTimers()
  await house.clear()
  for (const set of [own!, other!]) set.asked.length = 0
  for (const set of [keziah!, jory!]) set.clear()
})

describe('in a dialog a telephone', () => {
  it('hands its caller to whom it has asked first (Replaces): those two hear each other, and it is free', async () => {
    const [caller, asked] = [keziah!, jory!]
    caller.press('dial', '2105')
    await until(() => own!.rings).toBe(true)
    const first = own!.lift()
    await until(() => caller.saw('CALL_ESTABLISHED')).toBe(true)
    await own!.within(first, 'INVITE', ['Content-Type: application/sdp'], own!.sdp.replace('recvonly', 'inactive'))
    await until(() => house.stateOf(house.at('t2104')[0]?.id, 't2105')).toBe('held')
    const dialled = own!.dial('2108')
    await until(() => asked.saw('CALL_INCOMING')).toBe(true)
    asked.press('accept')
    const { dialog: second } = await dialled
    const replaces = encodeURIComponent(`${second.call};to-tag=${second.far};from-tag=${second.own}`)
    const answer = await own!.within(first, 'REFER', [`Refer-To: <sip:2108@${house.where}?Replaces=${replaces}>`])
    expect(answer).toMatch(/^SIP\/2.0 202/)
    await until(() => caller.hears(1_500) > 0.1 && asked.hears(700) > 0.1).toBe(true)
    expect(house.at('t2105')).toEqual([])
    await until(() => own!.asked.filter(text => text.startsWith('BYE')).length).toBe(2)
  })

  it('takes by Replaces what rings at a colleague, as its lamp names it; an unknown dialog is refused', async () => {
    const lamp = await Lamp.ask('dialog', '2104', { name: '2105', secret: 'hesters-secret' }, house.where)
    const { call } = house.ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900321', name: null }, number: '+441632960104' })
    await until(() => lamp.shown).toContain('call-id=')
    const refused = await own!.dial('2104', ['Replaces: nowhere;to-tag=1;from-tag=2'])
    expect(refused.answer).toMatch(/^SIP\/2.0 404/)
    expect(house.stateOf(call, 't2104')).toBe('alerting')
    const [callId, local, remote] = ['call-id', 'local-tag', 'remote-tag'].map(name => new RegExp(`${name}="([^"]+)"`).exec(lamp.shown)![1]!)
    const replaces = [`Replaces: ${callId};to-tag=${local};from-tag=${remote};early-only`]
    expect((await other!.dial('2104', replaces)).answer, 'by those alone who may').toMatch(/^SIP\/2.0 403/)
    expect((await own!.dial('2104', replaces)).answer).toMatch(/^SIP\/2.0 200/)
    expect([house.stateOf(call, 't2105'), house.stateOf(call, 't2104')]).toEqual(['connected', undefined])
    await until(() => keziah!.saw('CALL_CLOSED')).toBe(true)
    lamp.stop()
  })

  it('shows whom it talks with now, after they were put through', async () => {
    const { call } = house.ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900321', name: 'Wilf Tarn' }, number: '+441632960000' })
    house.ask({ service: 'answerCall', device: 't2100', call: call! })
    const { call: consultation } = house.ask({ service: 'consultationCall', device: 't2100', call: call!, number: '2105' })
    await until(() => own!.rings).toBe(true)
    expect(named(invites(own!)[0])).toContain(exchange.state.company.telephones.t2100!.name)
    own!.lift()
    await until(() => house.stateOf(consultation, 't2105')).toBe('connected')
    house.ask({ service: 'transferCall', device: 't2100', call: call!, consultation: consultation! })
    await until(() => named(invites(own!).at(-1))).toContain('Wilf Tarn')
    expect(named(invites(own!).at(-1))).toContain('+447700900321')
    expect(house.stateOf(house.at('t2105')[0]?.id, 't2105'), 'and goes on').toBe('connected')
  })

  it('that asks for a session timer gets one; a short one is refused, and one that it does not keep ends the call', async () => {
    const short = await own!.dial('603', ['Supported: timer', 'Session-Expires: 30'])
    expect(short.answer).toMatch(/^SIP\/2.0 422/)
    expect(fieldOf(short.answer, 'Min-SE')).toBe('90')
    expect(exchange.state.calls.size).toBe(0)
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const dialled = own!.dial('2108', ['Supported: timer', 'Session-Expires: 90'])
    await vi.waitFor(() => expect(jory!.saw('CALL_INCOMING')).toBe(true), { timeout: 5_000 })
    jory!.press('accept')
    const { answer } = await dialled
    expect(fieldOf(answer, 'Session-Expires')).toBe('90;refresher=uac')
    await vi.advanceTimersByTimeAsync(59_000)
    expect(house.at('t2105')).toHaveLength(1)
    await vi.advanceTimersByTimeAsync(2_000)
    expect(house.at('t2105')).toHaveLength(0)
  })

  it('is told in time that we are there, where it leaves that to us; once more when both speak at once', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const dialled = own!.dial('2108', ['Supported: timer', 'Session-Expires: 90;refresher=uas'])
    await vi.waitFor(() => expect(jory!.saw('CALL_INCOMING')).toBe(true), { timeout: 5_000 })
    jory!.press('accept')
    expect(fieldOf((await dialled).answer, 'Session-Expires')).toBe('90;refresher=uas')
    own!.refusals.push(491)
    const said = () => new Set(invites(own!).map(text => fieldOf(text, 'CSeq'))).size
    await vi.advanceTimersByTimeAsync(44_000)
    expect(said()).toBe(0)
    await vi.advanceTimersByTimeAsync(2_000)
    await vi.waitFor(() => expect(said()).toBe(1), { timeout: 5_000 })
    const [number] = fieldOf(invites(own!)[0]!, 'CSeq')!.split(' ')
    await vi.waitFor(() => expect(own!.asked.some(text => text.startsWith('ACK') && fieldOf(text, 'CSeq') === `${number} ACK`)).toBe(true))
    await vi.advanceTimersByTimeAsync(2_500)
    await vi.waitFor(() => expect(said()).toBe(2), { timeout: 5_000 })
    expect(fieldOf(invites(own!).at(-1)!, 'Session-Expires')).toBe('90;refresher=uac')
    expect(house.at('t2105'), 'and the call goes on').toHaveLength(1)
  })

  it('hears a page also where nobody talks there: it is called to lift by itself, and hangs up after it', async () => {
    const { call } = house.ask({ service: 'openPage', device: 't2100', to: 't2105', rank: 'ordinary' })
    expect(call).toBeUndefined()
    await until(() => own!.rings).toBe(true)
    const [invite] = invites(own!)
    expect(fieldOf(invite!, 'Answer-Mode')).toBe('Auto')
    own!.lift()
    const [page] = [...exchange.state.pages.keys()]
    await until(() => own!.asked.some(text => text.startsWith('ACK'))).toBe(true)
    expect(house.at('t2105'), 'a page is no call').toEqual([])
    house.ask({ service: 'closePage', device: 't2100', page: page! })
    await until(() => own!.asked.some(text => text.startsWith('BYE'))).toBe(true)
  })

  it('shows what others have done for whoever is there: a caller kept for them, where their calls go, and no more', async () => {
    const texts = () => own!.asked.filter(text => text.startsWith('MESSAGE')).map(text => text.split('\r\n\r\n')[1])
    const { call } = house.ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900321', name: 'Wilf\r\nTarn' }, number: '+441632960000' })
    house.ask({ service: 'answerCall', device: 't2100', call: call! })
    house.ask({ service: 'parkCall', device: 't2100', call: call!, slot: 'slot:2', for: 't2105' })
    await until(texts).toEqual(['Wilf Tarn waits for you: dial 702'])
    house.ask({ service: 'setForwarding', device: 't2100', of: 't2105', when: 'always', to: '2107' })
    await until(() => texts().length).toBe(2)
    const { telephones } = exchange.state.company
    expect(texts()[1]).toBe(`Your calls go to ${telephones.t2107!.name}, set by ${telephones.t2100!.name}`)
    // What one does oneself is nothing new.
    house.ask({ service: 'setForwarding', device: 't2105', when: 'always', to: '2106' })
    house.ask({ service: 'setForwarding', device: 't2105', when: 'always', to: null })
    house.ask({ service: 'setDoNotDisturb', device: 't2100', of: 't2105', on: true })
    await until(() => texts().length).toBe(3)
    expect(texts()[2]).toBe(`Do not disturb, set by ${telephones.t2100!.name}`)
    house.ask({ service: 'setDoNotDisturb', device: 't2105', on: false })
    expect(other!.asked.some(text => text.startsWith('MESSAGE'))).toBe(false)
  })

  it('that has lifted for a page serves a call of its console by the same dialog, and hangs up when both are over', async () => {
    const desk = await WrittenTelephone.start('2100', 'iness-secret', house.where)
    house.ask({ service: 'setAgentState', device: 't2101', attended: true })
    house.ask({ service: 'openPage', device: 't2101', to: 't2100', rank: 'ordinary' })
    await until(() => desk.rings).toBe(true)
    desk.lift()
    await until(() => desk.asked.some(text => text.startsWith('ACK'))).toBe(true)
    const { call } = house.ask({ service: 'makeCall', device: 't2100', number: '2105' })
    await until(() => own!.rings).toBe(true)
    own!.lift()
    await until(() => house.stateOf(call, 't2105')).toBe('connected')
    expect(invites(desk).filter(text => !fieldOf(text, 'To')!.includes('tag=')), 'it is called once').toHaveLength(1)
    house.ask({ service: 'clearConnection', device: 't2100', call: call! })
    await until(() => own!.asked.some(text => text.startsWith('BYE'))).toBe(true)
    const [page] = [...exchange.state.pages.keys()]
    if (page) house.ask({ service: 'closePage', device: 't2101', page })
    await until(() => desk.asked.filter(text => text.startsWith('BYE')).length).toBe(1)
    desk.stop()
  })
})
