import { requireToken } from '../accounts/session'
import { metrics } from '../relay'

/** What is measured, for a program that knows the token of it. */
export default defineEventHandler(async (event) => {
  requireToken(event, useRuntimeConfig(event).metricsToken)
  setHeader(event, 'content-type', metrics.type)
  setHeader(event, 'cache-control', 'no-store')
  return metrics.text()
})
