import { beforeEach, describe, expect, it } from 'vitest'
import { mailboxOf } from '../calls/names'
import { Tryout } from '../calls/tryout'
import { greetingAt, greetingPlace, linePlace, longestSound, musicPlace, placeOfSound, tonePlace } from './own-sounds'

const [dagny, ingrid] = ['t2106', 't2107']

describe('where a sound of one\'s own may stand', () => {
  const { company } = new Tryout().state

  it('at the music, each tone, each line, and each greeting of a telephone; of a line the usual one alone', () => {
    expect(placeOfSound(company, musicPlace)).toEqual({ is: 'music' })
    expect(placeOfSound(company, tonePlace('busy'))).toEqual({ is: 'tone', tone: 'busy' })
    expect(placeOfSound(company, linePlace('general'))).toEqual({ is: 'line', line: 'general' })
    expect(placeOfSound(company, greetingPlace(dagny, 'lunch'))).toEqual({ is: 'greeting', owner: dagny, when: 'lunch' })
    expect(placeOfSound(company, greetingPlace('general', 'usual'))).toEqual({ is: 'greeting', owner: 'general', when: 'usual' })
    expect(placeOfSound(company, greetingPlace('general', 'lunch'))).toBeNull()
    expect(placeOfSound(company, greetingPlace('group:reservations', 'usual'))).toEqual({ is: 'greeting', owner: 'group:reservations', when: 'usual' })
    expect(placeOfSound(company, greetingPlace('group:reservations', 'lunch'))).toBeNull()
  })

  it.each([
    '', 'Music', 'tone:', 'tone:loud', 'line:', 'line:nowhere', 'line:constructor',
    'greeting:usual:', 'greeting:usual:t9999', 'greeting:never:t2106', 'greeting:t2106',
  ])('nowhere else: %j', place => expect(placeOfSound(company, place)).toBeNull())

  it('and be three minutes long as music, else one', () => {
    expect([musicPlace, tonePlace('ringing'), greetingPlace(dagny, 'usual')].map(longestSound)).toEqual([180, 60, 60])
  })
})

describe('what a mailbox says', () => {
  let on: Tryout
  const own = new Set<string>()
  beforeEach(() => {
    on = new Tryout()
    own.clear()
  })
  const says = (of = dagny) => greetingAt(on.state, mailboxOf(of), place => own.has(place))
  const greet = (when: 'usual' | 'lunch', text: string) => on.must({ service: 'setGreeting', device: dagny, when, text })
  const away = (reason: 'lunch' | 'gone' | null) => on.must({ service: 'setStatus', device: dagny, reason, until: null })

  it('is what is written for the status, else as usual, else what mailboxes say', () => {
    expect(says()).toBeNull()
    greet('lunch', 'At lunch.')
    expect(says()).toBeNull()
    greet('usual', 'Speak.')
    expect(says()).toEqual({ text: 'Speak.' })
    away('lunch')
    expect(says()).toEqual({ text: 'At lunch.' })
    away('gone')
    expect(says()).toEqual({ text: 'Speak.' })
    expect([says(ingrid), says('general')]).toEqual([null, null])
  })

  it('is what was recorded before what is written, but what is for the status before what is usual', () => {
    own.add(greetingPlace(dagny, 'usual'))
    greet('usual', 'Speak.')
    greet('lunch', 'At lunch.')
    expect(says()).toEqual({ sound: greetingPlace(dagny, 'usual') })
    away('lunch')
    expect(says()).toEqual({ text: 'At lunch.' })
    own.add(greetingPlace(dagny, 'lunch'))
    expect(says()).toEqual({ sound: greetingPlace(dagny, 'lunch') })
    away(null)
    expect(says()).toEqual({ sound: greetingPlace(dagny, 'usual') })
    own.add(greetingPlace('general', 'usual'))
    expect(says('general')).toEqual({ sound: greetingPlace('general', 'usual') })
  })
})
