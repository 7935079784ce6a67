import { t } from '../language'
/** What other programs send, who prove who they are by what they send instead of having a cookie. */
const ofPrograms: Record<string, string> = { '/api/occupants/feed': 'text/csv', '/api/identity/ended': 'application/x-www-form-urlencoded' }

/** A page of another site must not use a person's cookie to change anything here. */
export default defineEventHandler((event) => {
  if (event.method === 'GET' || event.method === 'HEAD') return
  const origin = getHeader(event, 'origin')
  if (origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== getHeader(event, 'host'))) {
    throw createError({ statusCode: 403, message: t('answers.fromAnotherSite') })
  }
  const type = getHeader(event, 'content-type') ?? ''
  const ofProgram = Object.hasOwn(ofPrograms, event.path) ? ofPrograms[event.path]! : null
  if (ofProgram !== null && type.startsWith(ofProgram)) return
  if (event.method !== 'DELETE' && !type.startsWith('application/json')) {
    throw createError({ statusCode: 415, message: t('answers.sendJson') })
  }
})
