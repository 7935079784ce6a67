import { messagesQuery } from '~~/shared/messages'
import { requirePerson } from '../../../accounts/session'
import { fromDatabase } from '../../../database/away'
import { mailboxesOf } from '../../../messages/mailboxes'
import { useRelay } from '../../../relay'
import { readParam, readQuery } from '../../../validation/read'

/** Whoever a message is for has read it; who wrote it sees that. */
export default defineEventHandler(async (event) => {
  const user = await requirePerson(event)
  const id = readParam(event, 'id')
  const { handset } = readQuery(event, messagesQuery)
  const mailboxes = mailboxesOf(user, handset)
  const found = await fromDatabase(() => useRelay().post.read(id, mailboxes))
  if (!found) throw createError({ statusCode: 404, message: 'There is no such message for you.' })
  return { read: true }
})
