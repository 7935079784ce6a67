import { plainText } from '~~/core/calls/text'
import { newMessage } from '~~/shared/messages'
import { requirePerson } from '../../accounts/session'
import { fromDatabase } from '../../database/away'
import { useRelay } from '../../relay'
import { readInput } from '../../validation/read'

/** Leaves a message for somebody who can't be reached: on their telephone's display and in their mailbox. */
export default defineEventHandler(async (event) => {
  const user = await requirePerson(event, 'operator', 'supervisor', 'administrator')
  const body: unknown = await readBody(event)
  const input = readInput(() => newMessage.required().validateSync(body, { stripUnknown: false }))
  const { company, post } = useRelay()
  if (!Object.hasOwn(company.current.telephones, input.to)) {
    throw createError({ statusCode: 422, message: 'to must be the telephone of somebody in the directory.', data: { field: 'to', sentence: 'Choose somebody from the directory.' } })
  }
  const text = plainText(input.text, 500)
  if (!text) throw createError({ statusCode: 422, message: 'text is missing: please fill it in.', data: { field: 'text', sentence: 'Write what it is about.' } })
  await fromDatabase(() => post.leave({
    kind: 'text',
    to: input.to,
    from: user.signIn,
    fromName: user.name,
    caller: input.caller && plainText(input.caller, 80),
    number: input.number && plainText(input.number, 40),
    text,
    urgent: input.urgent,
    callBack: input.callBack,
    seconds: null,
  }, new Date()))
  return { left: true }
})
