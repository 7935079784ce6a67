import type { Call, CallId } from '../calls/model'
import { isMailbox, ownerOfMailbox } from '../calls/names'

/** A message that is being left: which call, in whose mailbox, and since when. */
export interface Leaving { message: string, call: CallId, mailbox: string, owner: string, since: number }

/** What is left in a mailbox by a call, under the name that it keeps; null when no mailbox has the call. */
export function leavingOf(call: Pick<Call, 'id' | 'connections'>): Leaving | null {
  const mailbox = call.connections.find(({ device, state }) => isMailbox(device) && state === 'connected')
  if (!mailbox) return null
  return { message: `voice-${call.id}-${mailbox.since}`, call: call.id, mailbox: mailbox.device, owner: ownerOfMailbox(mailbox.device)!, since: mailbox.since }
}
