import { t } from '../language'
/** Whatever else is asked of the API. */
export default defineEventHandler(() => {
  throw createError({ statusCode: 404, message: t('answers.noSuchThing') })
})
