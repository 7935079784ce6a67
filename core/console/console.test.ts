import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import type { CallId, DeviceId, Party } from '../calls/model'
import { deviceName, mailboxOf } from '../calls/names'
import { Tryout } from '../calls/tryout'
import type { Asked, Console, Deed } from './console'
import { deedOfKey, joinAll, mute, nameOfKey, standingDeed } from './keys'
import { emptyTrack, trackOf } from './track'
import { dropping, parkingIn, passing, takingFrom, waysTo, waysToNumber } from './ways'

/** The console of t2100, with a clock that is moved by hand. */
class Screen {
  readonly desk = new Tryout(merrowby(40))
  chosen = { next: null as CallId | null, carried: null as CallId | null }
  note = ''
  account = ''

  get console(): Console {
    const { state, now } = this.desk
    const nameOf = (device: DeviceId, party: Party | null = null) =>
      party ? (party.name ?? 'Number withheld') : (spoken(english, deviceName(state.company, device) ?? 'Outside caller'))
    return { state, device: 't2100', track: trackOf(state, 't2100', this.chosen, now), note: this.note, account: this.account, wall: now, nameOf, t: english }
  }

  /** Does what a deed asks of the exchange. */
  carryOut(deed: Deed | null | undefined): void {
    if (deed?.do !== 'ask') throw new Error(`nothing is asked of the exchange by ${JSON.stringify(deed)}`)
    this.desk.must({ ...deed.request, device: 't2100' } as Parameters<Tryout['must']>[0])
  }

  press(key: string): Deed | null | undefined {
    return deedOfKey(this.console, key)
  }

  way(to: DeviceId, id: string) {
    return waysTo(this.console, to).find(way => way.id === id)
  }

  ids(to: DeviceId): string[] {
    return waysTo(this.console, to).map(way => way.id)
  }

  get track() {
    return this.console.track
  }
}

const asks = (deed: Deed | null | undefined): Asked | undefined => deed?.do === 'ask' ? deed.request : undefined

describe('the track', () => {
  it('is empty for who has no calls', () => {
    expect(new Screen().track).toEqual(emptyTrack)
  })

  it('puts who is latest against their promise first, not who came first', () => {
    const screen = new Screen()
    const lines = Object.values(screen.desk.state.company.lines).filter(({ target }) => target === 'operators')
    const patient = lines.reduce((a, b) => a.promise > b.promise ? a : b)
    const urgent = lines.reduce((a, b) => a.promise < b.promise ? a : b)
    expect(patient.promise).toBeGreaterThan(urgent.promise)
    const first = screen.desk.offer(patient.number)
    screen.desk.now += 2_000
    const second = screen.desk.offer(urgent.number)
    screen.desk.now += 10_000
    expect(screen.track.arriving.map(({ call }) => call.id)).toEqual([second, first])
    expect(screen.track.next?.call.id).toBe(second)
    screen.chosen.next = first
    expect(screen.track).toMatchObject({ chosen: true, next: { call: { id: first } } })
    // Whoever was chosen and has hung up is not replaced by somebody else as if they had been chosen.
    screen.desk.must({ service: 'clearConnection', device: screen.desk.call(first).calling, call: first })
    expect(screen.track).toMatchObject({ chosen: false, next: { call: { id: second } } })
  })

  it('keeps a caller next to the colleague who is asked for them, before others on hold', () => {
    const screen = new Screen()
    const waiting = screen.desk.inHand('t2100')
    screen.desk.must({ service: 'holdCall', device: 't2100', call: waiting })
    screen.desk.now += 1_000
    const caller = screen.desk.inHand('t2100')
    screen.carryOut(screen.way('t2105', 'ask')?.deed)
    const { inHand, consultation, askedFor, baton, held } = screen.track
    expect(inHand.map(({ call }) => call.id)).toEqual([consultation!.id, caller, waiting])
    expect(askedFor?.id).toBe(caller)
    expect(baton?.id).toBe(caller)
    expect(held.map(({ call }) => call.id)).toEqual([waiting, caller])
  })

  it('passes on the only one on hold, but never one of two', () => {
    const screen = new Screen()
    const one = screen.desk.inHand('t2100')
    expect(screen.track.baton?.id).toBe(one)
    screen.carryOut(screen.press(' '))
    expect(screen.track).toMatchObject({ talking: null, baton: { id: one } })
    const two = screen.desk.inHand('t2100')
    screen.carryOut(screen.press(' '))
    expect(screen.track.baton).toBeNull()
    screen.chosen.carried = two
    expect(screen.track.baton?.id).toBe(two)
  })
})

describe('the ways to whoever is named', () => {
  it('call them while nobody is in hand, and pass on whoever is', () => {
    const screen = new Screen()
    expect(screen.ids('t2105')).toEqual(expect.arrayContaining(['call', 'disturb', 'message']))
    expect(screen.ids('t2105')).not.toContain('passOn')
    const call = screen.desk.inHand('t2100')
    expect(screen.ids('t2105').slice(0, 4)).toEqual(['passOn', 'ask', 'keepFor', 'voicemail'])
    expect(screen.ids('t2105')).not.toContain('call')
    expect(asks(screen.way('t2105', 'passOn')!.deed)).toEqual({ service: 'singleStepTransferCall', call, to: 't2105' })
    expect(screen.way('t2105', 'passOn')!.words).toMatch(/^passes .+ on to .+/)
    expect(screen.ids('t2100'), 'nothing leads to oneself').toEqual([])
  })

  it('say what will really happen: who can\'t be rung, whose calls go elsewhere, and who has had this caller before', () => {
    const screen = new Screen()
    const { desk } = screen
    const call = desk.inHand('t2100')
    const name = (device: string) => desk.state.company.telephones[device]!.name
    const says = (device: string) => screen.way(device, 'passOn')!.words
    desk.must({ service: 'setDoNotDisturb', device: 't2105', on: true })
    expect(says('t2105')).toBe(`can't pass Number withheld on: ${name('t2105')} has do not disturb on`)
    expect(screen.way('t2105', 'ask')!.words).toBe(`can't ask ${name('t2105')}, who has do not disturb on`)
    desk.must({ service: 'makeCall', device: 't2106', number: 't2107' })
    expect(says('t2106')).toContain('is on the telephone')
    desk.must({ service: 'setForwarding', device: 't2105', when: 'busy', to: 't2108' })
    expect(says('t2105')).toBe(`passes Number withheld on to ${name('t2105')}, whose calls go to ${name('t2108')}`)
    desk.must({ service: 'singleStepTransferCall', device: 't2100', call, to: 't2109' })
    desk.wait(20_000)
    desk.must({ service: 'answerCall', device: 't2100', call })
    expect(says('t2109')).toBe(`passes Number withheld on to ${name('t2109')} again: ${name('t2109')} did not answer, 4 rings`)
  })

  it('send a line of text along with what is passed on, and with nothing else', () => {
    const screen = new Screen()
    screen.desk.inHand('t2100')
    screen.note = 'wants a cabin'
    expect(asks(screen.way('t2105', 'passOn')!.deed)).toMatchObject({ note: 'wants a cabin' })
    expect(asks(screen.way('t2105', 'ask')!.deed)).not.toHaveProperty('note')
  })

  it('send on a call that nobody has answered, from where it rings', () => {
    const screen = new Screen()
    const call = screen.desk.offer()
    screen.chosen.carried = call
    expect(asks(screen.way('t2105', 'passOn')!.deed)).toEqual({ service: 'deflectCall', call, to: 't2105' })
    const inside = screen.desk.inHand('t2101')
    screen.chosen.carried = inside
    expect(asks(passing(screen.console, screen.desk.call(inside), 't2105'))).toEqual({ service: 'deflectCall', call: inside, to: 't2105', from: 't2101' })
  })

  it('of a group: the longest free or all at once, a queue waits, what rings there is picked up', () => {
    const screen = new Screen()
    const { groups } = screen.desk.state.company
    const group = Object.values(groups).find(({ distribution }) => distribution !== 'queue')!
    const queue = Object.values(groups).find(({ id, distribution }) => distribution === 'queue' && id !== 'operators')!
    expect(screen.ids(group.id)).toEqual(['call', 'page', 'message'])
    const call = screen.desk.inHand('t2100')
    expect(waysTo(screen.console, group.id).map(({ deed }) => deed)).toMatchObject([
      { request: { distribution: 'longestFree' } }, { request: { distribution: 'all' } },
      { request: { service: 'singleStepTransferCall', to: mailboxOf(group.id) } }, { request: { service: 'openPage', to: group.id } },
      { do: 'takeMessage', to: group.id, call },
    ])
    expect(screen.way(queue.id, 'passOn')!.words).toContain('wait in the')
    expect(screen.way(queue.id, 'voicemail')!.words).toContain(`to the voicemail of ${queue.name}`)
  })

  it('pick up and carry what rings or talks at a colleague\'s, and join them to those one talks with', () => {
    const screen = new Screen()
    screen.desk.must({ service: 'makeCall', device: 't2106', number: '2105' })
    expect(screen.ids('t2105')).toEqual(expect.arrayContaining(['pickUp', 'move']))
    screen.desk.inHand('t2100')
    expect(screen.ids('t2107')).toContain('join')
  })

  it('to a number: dialled with its account code, or passed on to, or asked first', () => {
    const screen = new Screen()
    screen.account = 'K-7'
    expect(waysToNumber(screen.console, '+447700900222', 'x').map(({ deed }) => asks(deed))).toEqual([
      { service: 'makeCall', number: '+447700900222', account: 'K-7' },
    ])
    screen.desk.inHand('t2100')
    expect(waysToNumber(screen.console, '+447700900222', 'x').map(({ id }) => id)).toEqual(['passOn', 'ask'])
  })

  it('names from outside that every object has lead nowhere', () => {
    const screen = new Screen()
    screen.desk.inHand('t2100')
    for (const name of ['__proto__', 'constructor', 'toString']) expect(waysTo(screen.console, name)).toEqual([])
  })
})

describe('dropping and slots', () => {
  it('drops what is carried on people, groups and free slots', () => {
    const screen = new Screen()
    const call = screen.desk.inHand('t2100')
    expect(dropping(screen.console, 't2105', false)).toBeNull()
    screen.chosen.carried = call
    expect(asks(dropping(screen.console, 't2105', false)?.deed)).toMatchObject({ service: 'singleStepTransferCall' })
    expect(asks(dropping(screen.console, 't2105', true)?.deed)).toMatchObject({ service: 'consultationCall' })
    screen.carryOut(dropping(screen.console, 'slot:3', false)?.deed)
    const other = screen.desk.inHand('t2100')
    screen.chosen.carried = other
    expect(dropping(screen.console, 'slot:3', false), 'somebody waits there').toBeNull()
  })

  it('a slot gives its caller back or takes the one in hand: one gesture never does what the other does', () => {
    const screen = new Screen()
    expect([takingFrom(screen.console, 'slot:1'), parkingIn(screen.console, 'slot:1')]).toEqual([null, null])
    const call = screen.desk.inHand('t2100')
    expect(takingFrom(screen.console, 'slot:1')).toBeNull()
    screen.carryOut(parkingIn(screen.console, 'slot:1'))
    expect(asks(takingFrom(screen.console, 'slot:1'))).toEqual({ service: 'directedPickupCall', call })
    const another = screen.desk.inHand('t2100')
    expect(parkingIn(screen.console, 'slot:1')).toBeNull()
    expect(asks(parkingIn(screen.console, null))).toMatchObject({ service: 'parkCall', call: another, slot: null })
  })
})

describe('keys while nothing is typed', () => {
  it('Enter answers the most urgent, or hands over whoever is asked for, unless a caller was chosen', () => {
    const screen = new Screen()
    expect(screen.press('Enter')).toBeNull()
    const caller = screen.desk.inHand('t2100')
    screen.carryOut(screen.way('t2105', 'ask')?.deed)
    const asked = screen.track.consultation!.id
    const another = screen.desk.offer()
    expect(asks(screen.press('Enter'))).toEqual({ service: 'transferCall', call: caller, consultation: asked })
    expect(standingDeed(screen.console)!.words).toMatch(/^hands .+ over to .+/)
    screen.chosen.next = another
    expect(asks(screen.press('Enter'))).toEqual({ service: 'answerCall', call: another })
  })

  it('Space holds and takes back, the arrow swaps, Backspace goes back to the caller', () => {
    const screen = new Screen()
    const caller = screen.desk.inHand('t2100')
    expect(asks(screen.press(' '))).toEqual({ service: 'holdCall', call: caller })
    screen.carryOut(screen.way('t2105', 'ask')?.deed)
    const asked = screen.track.consultation!.id
    expect(screen.press(' '), 'who only rings is not put on hold').toBeNull()
    screen.desk.must({ service: 'answerCall', device: 't2105', call: asked })
    expect(asks(screen.press('ArrowLeft'))).toEqual({ service: 'retrieveCall', call: caller })
    expect(asks(joinAll(screen.console))).toEqual({ service: 'conferenceCall', call: caller, other: asked })
    screen.carryOut(screen.press('Backspace'))
    expect(screen.track.talking?.id).toBe(caller)
  })

  it('Backspace pulls back the call passed on last; carrying comes first', () => {
    const screen = new Screen()
    const first = screen.desk.inHand('t2100')
    screen.carryOut(screen.way('t2105', 'passOn')?.deed)
    screen.desk.now += 1_000
    screen.desk.inHand('t2100')
    screen.carryOut(screen.way('t2106', 'passOn')?.deed)
    const last = screen.track.passedOn.find(({ call }) => call.id !== first)!.call.id
    expect(asks(screen.press('Backspace'))).toEqual({ service: 'directedPickupCall', call: last })
    screen.chosen.carried = first
    expect(screen.press('Backspace')).toEqual({ do: 'carry', call: null })
  })

  it('Delete ends the call in hand, or refuses the one that was chosen, and nothing else', () => {
    const screen = new Screen()
    const waiting = screen.desk.offer()
    expect(screen.press('Delete'), 'nobody was chosen').toBeNull()
    screen.chosen.next = waiting
    expect(asks(screen.press('Delete'))).toEqual({ service: 'clearConnection', call: waiting })
    const call = screen.desk.inHand('t2100')
    expect(screen.press('Delete')).toEqual({ do: 'end', call })
  })

  it('Escape quiets, F2 mutes and unmutes, F4 takes a message, F9 sends digits; others mean nothing', () => {
    const screen = new Screen()
    const waiting = screen.desk.offer()
    expect(screen.press('Escape')).toEqual({ do: 'hush', calls: [waiting] })
    expect(mute(screen.console)).toBeNull()
    const call = screen.desk.inHand('t2100')
    screen.carryOut(screen.press('F2'))
    expect(asks(screen.press('F2'))).toMatchObject({ service: 'setMicrophoneMute', on: false })
    expect(screen.press('F4')).toEqual({ do: 'takeMessage', to: null, call })
    expect(screen.press('F9')).toEqual({ do: 'sendDigits' })
    for (const key of ['F12', 'toString', '__proto__']) expect(screen.press(key)).toBeUndefined()
  })

  it('are named as they stand on the buttons', () => {
    expect(nameOfKey({ key: 'F2', altKey: false, ctrlKey: false, shiftKey: true })).toBe('Shift+F2')
    expect(nameOfKey({ key: 'Enter', altKey: false, ctrlKey: true, shiftKey: false })).toBe('Ctrl+Enter')
    expect(nameOfKey({ key: '#', altKey: false, ctrlKey: false, shiftKey: true })).toBe('#')
  })
})
