import { spoken } from '~~/words/phrase'
import { t } from '../language'
import type { Call, NumberedEvent } from '~~/core/calls/model'
import { formatNumber, type Home } from '~~/core/numbers/dialled'
import { leavingOf } from '~~/core/sound/recording'

/** Shorter than this (milliseconds), nobody has said anything. */
const shortestMessage = 2_000

/** What a caller has said to a mailbox. */
export interface VoiceMessage {
  id: string
  /** The telephone or line whose mailbox it is. */
  to: string
  caller: string | null
  number: string | null
  text: string
  seconds: number
  /** Milliseconds since 1970. */
  at: number
}

/**
 * The message that is left when a call is over that a mailbox had, or null.
 * @param event the end of the call; @param before the call until then; @param offset makes the exchange's time the one that people read
 * @param home writes numbers
 */
export function voiceMessageOf(event: NumberedEvent, before: Call, offset: number, home: Home): VoiceMessage | null {
  const left = leavingOf(before)
  if (event.type !== 'callCleared' || !left || event.at - left.since < shortestMessage) return null
  const { party, caption } = before
  return {
    id: left.message,
    to: left.owner,
    caller: party?.name ?? (party?.number ? formatNumber(party.number, home) : null),
    number: party?.number ?? null,
    text: caption && caption.at >= left.since ? spoken(t, caption.text) : '',
    seconds: Math.round((event.at - left.since) / 1_000),
    at: event.at + offset,
  }
}
