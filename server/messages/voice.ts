import type { Call, NumberedEvent } from '~~/core/calls/model'
import { isMailbox, ownerOfMailbox } from '~~/core/calls/names'
import { formatNumber, type Home } from '~~/core/numbers/dialled'

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
  const mailbox = before.connections.find(connection => isMailbox(connection.device))
  if (event.type !== 'callCleared' || !mailbox || event.at - mailbox.since < shortestMessage) return null
  const { party, caption } = before
  return {
    id: `voice-${before.id}-${mailbox.since}`,
    to: ownerOfMailbox(mailbox.device)!,
    caller: party?.name ?? (party?.number ? formatNumber(party.number, home) : null),
    number: party?.number ?? null,
    text: caption && caption.at >= mailbox.since ? caption.text : '',
    seconds: Math.round((event.at - mailbox.since) / 1_000),
    at: event.at + offset,
  }
}
