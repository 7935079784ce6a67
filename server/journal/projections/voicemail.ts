import { type VoiceMessage, voiceMessageOf } from '../../messages/voice'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** What callers have said to mailboxes: those of table `message` that nobody wrote. Whether one has been read is no event, and stays as it is. */

export interface VoiceChange { kind: 'voice', message: VoiceMessage }

export const voicemail: Projection<VoiceChange> = {
  changes(event, before, { clockOffset, company: { settings } }) {
    const call = 'call' in event ? before.calls.get(event.call) : undefined
    const message = call && voiceMessageOf(event, call, clockOffset, settings)
    return message ? [{ kind: 'voice', message }] : []
  },

  async write(em, changes) {
    if (changes.length === 0) return
    const messages = changes.map(({ message }) => message)
    await em.execute(insertMessages, [JSON.stringify(messages.map(messageRow))])
    await em.execute('select pg_notify(\'messages\', ?)', [JSON.stringify([...new Set(messages.map(({ to }) => to))])])
  },
}

/** The same end of the same call, told twice, is one message; one that has been read stays read. */
const columns = ['id', 'kind', 'to', 'from', 'from_name', 'caller', 'number', 'text', 'urgent', 'call_back', 'seconds', 'at', 'read_at']
const insertMessages = `${insertRows('message', columns)} on conflict do nothing`

function messageRow({ id, to, caller, number, text, seconds, at }: VoiceMessage): Record<string, unknown> {
  return { id, kind: 'voice', to, from: '', from_name: '', caller, number, text, urgent: false, call_back: false, seconds, at: new Date(at), read_at: null }
}
