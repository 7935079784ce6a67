import { type Messages, messagesQuery } from '~~/shared/messages'
import { readQuery } from '../../validation/read'
import { requirePerson } from '../../accounts/session'
import { fromDatabase } from '../../database/away'
import { mailboxesOf } from '../../messages/mailboxes'
import { useRelay } from '../../relay'

export default defineEventHandler(async (event): Promise<Messages> => {
  const user = await requirePerson(event)
  const { handset } = readQuery(event, messagesQuery)
  const mailboxes = mailboxesOf(user, handset)
  return fromDatabase(() => useRelay().post.find(mailboxes, handset === undefined ? user.signIn : null))
})
