import { beforeEach, describe, expect, it } from 'vitest'
import type { CallId } from '../model'
import { redactEvent, redactState } from '../redaction'
import { leavesMessage } from '../questions'
import { sentenceOf, Tryout } from '../tryout'
import { services } from '../services'
import { mailboxOf } from '../names'

const [ines, dagny, ingrid] = ['t2100', 't2106', 't2107']

describe('a mailbox in its owner\'s own words', () => {
  let on: Tryout
  beforeEach(() => {
    on = new Tryout()
  })
  const greet = (when: 'usual' | 'lunch' | 'gone', text: string) => on.must({ service: 'setGreeting', device: dagny, when, text })

  it('is kept as text on one line, until it is emptied again', () => {
    greet('usual', '  Dagny here,\n speak. ')
    greet('lunch', 'I am at lunch.')
    expect(on.state.devices.get(dagny)!.mailbox!.greetings).toEqual({ usual: 'Dagny here, speak.', lunch: 'I am at lunch.' })
    greet('usual', '')
    expect(on.state.devices.get(dagny)!.mailbox!.greetings).toEqual({ lunch: 'I am at lunch.' })
  })

  it('is kept once: the same again is nothing new', () => {
    greet('usual', 'Speak.')
    const { seq } = on.state
    greet('usual', 'Speak.')
    on.must({ service: 'setMailboxKey', device: dagny, digit: '1', to: null })
    expect(on.state.seq).toBe(seq)
  })
})

describe('what an exchange that begins anew is told', () => {
  const restored = { service: 'restoreMailbox' as const, of: dagny, greetings: { usual: 'Speak.' }, keys: { 1: '2107' } }

  it('is known as it was, unless something newer has been said, or nobody has that telephone any more', () => {
    const on = new Tryout()
    on.must(restored)
    expect(on.state.devices.get(dagny)!.mailbox).toEqual({ greetings: { usual: 'Speak.' }, keys: { 1: '2107' } })
    on.must({ service: 'setGreeting', device: dagny, when: 'usual', text: 'Newer.' })
    on.must(restored)
    expect(on.state.devices.get(dagny)!.mailbox!.greetings).toEqual({ usual: 'Newer.' })
    on.must({ ...restored, of: 't9999' })
    expect(on.state.devices.has('t9999')).toBe(false)
  })

  it('is read as such, and nothing else is', () => {
    const { fields } = services.restoreMailbox
    expect(fields().isValidSync(restored)).toBe(true)
    for (const wrong of [{ greetings: { tomorrow: 'x' } }, { greetings: { usual: 5 } }, { keys: { 1: 5 } }, { greetings: { usual: 'x'.repeat(401) } }])
      expect(fields().isValidSync({ ...restored, ...wrong }), JSON.stringify(wrong)).toBe(false)
  })
})

describe('keys during a greeting', () => {
  let on: Tryout
  let call: CallId
  beforeEach(() => {
    on = new Tryout()
    call = on.inHand(ines)
  })
  const key = (digit: string, to: string | null) => on.ask({ service: 'setMailboxKey', device: dagny, digit, to })
  const press = (digits: string, device = on.call(call).calling) => on.ask({ service: 'generateDigits', device, call, digits })
  const toMailbox = () => on.must({ service: 'singleStepTransferCall', device: ines, call, to: mailboxOf(dagny) })
  const others = () => on.call(call).connections.filter(({ device }) => device !== on.call(call).calling).map(({ device, state }) => [device, state])

  it('lead whoever hears it on to where its owner says, and it stands in the story why', () => {
    key('1', '2107')
    toMailbox()
    expect(leavesMessage(on.call(call))).toBe(true)
    expect(press('2')).toBeUndefined()
    expect(others()).toEqual([[mailboxOf(dagny), 'connected']])
    expect(press('1')).toBeUndefined()
    expect(others()).toEqual([[ingrid, 'alerting']])
    expect(on.call(call).story.find(({ type }) => type === 'diverted')).toMatchObject({ device: mailboxOf(dagny), to: ingrid, cause: 'ledOn' })
  })

  it('lead to the operators where nobody can be reached there, and nobody is forgotten', () => {
    key('1', '2107')
    on.change('telephones', ingrid, { inService: false })
    toMailbox()
    press('1')
    expect(others()).toEqual([['operators', 'queued']])
  })

  it('mean nothing else once they are taken away, and nothing in a conversation', () => {
    key('1', '2107')
    expect(press('1')).toBeUndefined()
    expect(others()).toEqual([[ines, 'connected']])
    key('1', null)
    toMailbox()
    press('1')
    expect(leavesMessage(on.call(call))).toBe(true)
  })

  it('lead to somebody who is there, not to oneself and not to an emergency number', () => {
    expect(sentenceOf(key('1', '2106'))).toMatch(/your own telephone/)
    expect(key('1', '999')?.code).toBe('notPossibleNow')
    expect(key('1', '4711')?.code).toBe('unallocatedNumber')
    expect(on.state.devices.get(dagny)!.mailbox).toBeUndefined()
  })

  it('that lead outside are no number to whoever sees no callers', () => {
    const event = { type: 'mailboxKeyChanged' as const, device: dagny, digit: '1', to: '+447700900123', seq: 1, at: 1 }
    expect(redactEvent(event)).toMatchObject({ digit: '1', to: '' })
    key('1', '+447700900123')
    expect(redactState(on.state).devices.get(dagny)!.mailbox!.keys).toEqual({ 1: '' })
    key('1', '2107')
    expect(redactState(on.state).devices.get(dagny)!.mailbox!.keys).toEqual({ 1: '2107' })
  })
})
