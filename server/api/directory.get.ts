import { requirePerson } from '../accounts/session'
import { useRelay } from '../relay'

export default defineEventHandler(async (event) => {
  await requirePerson(event)
  return useRelay().directory.company
})
