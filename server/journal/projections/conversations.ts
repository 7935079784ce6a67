import { stepOf } from '~~/core/calls/events'
import { recordOf } from '~~/core/calls/record'
import { type Conversation, conversationOf } from '~~/core/routing/conversation'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** Where calls from outside really ended: table `conversation`, from which likely destinations are learned. */

export interface ConversationChange { kind: 'conversation', conversation: Conversation }

export const conversations: Projection<ConversationChange> = {
  changes(event, before, after) {
    if (event.type !== 'callCleared') return []
    const call = before.calls.get(event.call)
    const conversation = call && conversationOf(after.company, recordOf(after, call, stepOf(event)))
    return conversation ? [{ kind: 'conversation', conversation: { ...conversation, at: conversation.at + after.clockOffset } }] : []
  },

  async write(em, changes) {
    if (changes.length > 0) await em.execute(insert, [JSON.stringify(changes.map(({ conversation: { at, ...rest } }) => ({ ...rest, at: new Date(at) })))])
  },
}

const insert = `${insertRows('conversation', ['call', 'number', 'line', 'at', 'device', 'group'])} on conflict do nothing`
