/** Whatever else is asked of the API. */
export default defineEventHandler(() => {
  throw createError({ statusCode: 404, message: 'There is no such thing in this API. GET /api/openapi.json describes it.' })
})
