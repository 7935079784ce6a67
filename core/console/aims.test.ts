import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import type { CallId } from '../calls/model'
import { deviceName } from '../calls/names'
import { Tryout } from '../calls/tryout'
import { aimed, type Aims, goneFor, meaningsOf, reaction } from './aims'
import type { Console } from './console'
import { trackOf } from './track'

/** An operator who looks at the screen now and then. */
class Onlooker {
  readonly desk = new Tryout(merrowby(40))
  aims: Aims = {}

  get console(): Console {
    const { state, now } = this.desk
    return {
      state, device: 't2100', track: trackOf(state, 't2100', { next: null, carried: null }, now), note: '', account: '', wall: now, t: english,
      nameOf: (device, party) => party?.name ?? spoken(english, deviceName(state.company, device) ?? 'Outside caller'),
    }
  }

  look(byHand = false, refused: CallId | null = null): void {
    this.aims = aimed(this.aims, meaningsOf(this.console), this.desk.now, byHand, refused)
  }

  later(ms: number): void {
    this.desk.now += ms
    this.look()
  }

  meant(key: string): CallId | null | undefined {
    return this.aims[key]!.meant?.call
  }

  goes(call: CallId): void {
    this.desk.must({ service: 'clearConnection', device: this.desk.call(call).calling, call })
    this.look()
  }
}

describe('what a key is meant for', () => {
  it('is the caller at once when nobody was there before', () => {
    const onlooker = new Onlooker()
    onlooker.look()
    const call = onlooker.desk.offer()
    onlooker.look()
    expect(onlooker.meant('Enter')).toBe(call)
  })

  it('stays whoever was named until the operator has had time to notice that another stands there', () => {
    const onlooker = new Onlooker()
    const first = onlooker.desk.offer()
    onlooker.look()
    onlooker.desk.now += 5_000
    const second = onlooker.desk.offer()
    onlooker.later(2_000)
    onlooker.goes(first)
    expect(onlooker.meant('Enter')).toBe(first)
    expect(goneFor(onlooker.console, onlooker.aims.Enter!)).toBeTruthy()
    onlooker.later(reaction - 1)
    expect(onlooker.meant('Enter')).toBe(first)
    onlooker.later(1)
    expect(onlooker.meant('Enter')).toBe(second)
    expect(goneFor(onlooker.console, onlooker.aims.Enter!)).toBeNull()
  })

  it('follows at once what the operator has done', () => {
    const onlooker = new Onlooker()
    const [one, two] = [onlooker.desk.inHand('t2100'), onlooker.desk.offer()]
    onlooker.look(true)
    expect([onlooker.meant('Enter'), onlooker.meant(' ')]).toEqual([two, one])
    onlooker.desk.must({ service: 'answerCall', device: 't2100', call: two })
    onlooker.look(true)
    expect([onlooker.meant('Enter'), onlooker.meant(' '), onlooker.meant('ArrowLeft')]).toEqual([undefined, two, one])
  })

  it('does not take back another caller, nor park one in a slot that was taken a moment ago', () => {
    const onlooker = new Onlooker()
    const one = onlooker.desk.inHand('t2100')
    onlooker.desk.must({ service: 'holdCall', device: 't2100', call: one })
    const two = onlooker.desk.inHand('t2100')
    onlooker.desk.must({ service: 'holdCall', device: 't2100', call: two })
    const three = onlooker.desk.inHand('t2100')
    onlooker.desk.must({ service: 'parkCall', device: 't2100', call: three, slot: 'slot:1', for: null })
    onlooker.look(true)
    expect([onlooker.meant(' '), onlooker.meant('take slot:1')]).toEqual([one, three])
    onlooker.goes(one)
    onlooker.goes(three)
    expect(goneFor(onlooker.console, onlooker.aims[' ']!)).toBeTruthy()
    expect(goneFor(onlooker.console, onlooker.aims['take slot:1']!)).toBeTruthy()
    onlooker.later(reaction)
    expect(onlooker.meant(' ')).toBe(two)
  })

  it('is whoever stands there once the exchange has refused it for the one before', () => {
    const onlooker = new Onlooker()
    const first = onlooker.desk.offer()
    onlooker.look()
    const second = onlooker.desk.offer()
    onlooker.later(2_000)
    onlooker.goes(first)
    expect(onlooker.meant('Enter')).toBe(first)
    onlooker.look(false, second)
    expect(onlooker.meant('Enter')).toBe(first)
    onlooker.look(false, first)
    expect(onlooker.meant('Enter')).toBe(second)
  })
})
