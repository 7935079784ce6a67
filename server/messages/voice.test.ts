import { describe, expect, it } from 'vitest'
import type { NumberedEvent } from '~~/core/calls/model'
import { Tryout } from '~~/core/calls/tryout'
import { voiceMessageOf } from './voice'

const home = { country: 'GB', longestInside: 5 }
const second = 1_000

/** A caller who has been sent to a line's mailbox, and then the end of their call after so long. */
function atMailbox(milliseconds: number, words: string | null, party = { number: '+447700900001' as string | null, name: null as string | null }) {
  const house = new Tryout()
  const call = house.offer(undefined, party)
  house.must({ service: 'answerCall', device: 't2100', call })
  house.must({ service: 'sendUserInformation', device: house.call(call).calling, call, text: 'said to the operator' })
  house.now += second
  house.must({ service: 'singleStepTransferCall', device: 't2100', call, to: 'mailbox:general' })
  const begun = house.now
  if (words) house.must({ service: 'sendUserInformation', device: house.call(call).calling, call, text: words })
  const cleared = { type: 'callCleared', call, device: house.call(call).calling, cause: 'normalClearing', seq: 1, at: begun + milliseconds } as NumberedEvent
  return { call: house.call(call), cleared, begun }
}

describe('what a caller leaves at a mailbox', () => {
  it('is theirs, as long as it was, at the time that people read', () => {
    const { call, cleared, begun } = atMailbox(7_600, 'Please ring.')
    expect(voiceMessageOf(cleared, call, 60_000, home)).toEqual({
      id: `voice-${call.id}-${begun}`, to: 'general', caller: '07700 900001', number: '+447700900001', text: 'Please ring.', seconds: 8,
      at: cleared.at + 60_000,
    })
  })

  it('is what was said to the mailbox, not to somebody before', () => {
    const { call, cleared } = atMailbox(5_000, null)
    expect(voiceMessageOf(cleared, call, 0, home)).toMatchObject({ text: '', seconds: 5 })
    expect(voiceMessageOf(cleared, { ...call, caption: null }, 0, home)).toMatchObject({ text: '' })
  })

  it('bears the name that the network says, and nothing of who withholds both', () => {
    const named = atMailbox(5_000, 'x', { number: '+447700900001', name: 'Wren' })
    expect(voiceMessageOf(named.cleared, named.call, 0, home)).toMatchObject({ caller: 'Wren', number: '+447700900001' })
    const withheld = atMailbox(5_000, 'x', { number: null, name: null })
    expect(voiceMessageOf(withheld.cleared, withheld.call, 0, home)).toMatchObject({ caller: null, number: null })
    expect(voiceMessageOf(withheld.cleared, { ...withheld.call, party: null }, 0, home)).toMatchObject({ caller: null, number: null })
  })

  it('is none when it was shorter than two seconds, when no mailbox had the call, and before the call is over', () => {
    for (const [milliseconds, isKept] of [[1_999, false], [2_000, true]] as const) {
      const { call, cleared } = atMailbox(milliseconds, 'x')
      expect(voiceMessageOf(cleared, call, 0, home) !== null).toBe(isKept)
    }
    const { call, cleared } = atMailbox(5_000, 'x')
    expect(voiceMessageOf({ ...cleared, type: 'connectionCleared' } as NumberedEvent, call, 0, home)).toBeNull()
    expect(voiceMessageOf(cleared, { ...call, connections: call.connections.filter(({ device }) => !device.startsWith('mailbox:')) }, 0, home)).toBeNull()
  })
})
