import { requirePerson } from '../accounts/session'
import { useRelay } from '../relay'

/** Who works here, and everything that calls can reach: the configuration in its latest version. */
export default defineEventHandler(async (event) => {
  await requirePerson(event)
  return useRelay().company.current
})
