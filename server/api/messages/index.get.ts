import { messages, messagesQuery } from '~~/shared/messages'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { mailboxesOf } from '../../messages/mailboxes'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Messages for oneself and one\'s groups (and, for operators, the lines), and those one has taken down',
  mayAsk: 'signedIn',
  query: messagesQuery,
  answer: messages,
  also: { 403: 'That handset is not one\'s own, and this is not the demo.', 404: 'There is no such telephone.' },
}, ({ person, query: { handset } }) => {
  const mailboxes = mailboxesOf(person, handset)
  return fromDatabase(() => useRelay().messages.find(mailboxes, handset === undefined ? person.signIn : null))
})
