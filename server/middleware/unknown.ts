import { pages } from '#pages'

/** Where nothing is, the answer says so: the page that comes with it does too. */
export default defineEventHandler((event) => {
  if (event.method !== 'GET' && event.method !== 'HEAD') return
  const path = event.path.split(/[?#]/)[0]!.replace(/(.)\/$/, '$1')
  // The framework renders errors at an address of its own, with their own status.
  if (pages.has(path) || /^\/(api\/|__nuxt|metrics$)/.test(path)) return
  setResponseStatus(event, 404)
})
