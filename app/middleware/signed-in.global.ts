import { useSession } from '~/stores/session'

/** The way in: for whoever is not signed in yet. */
const wayIn = ['/sign-in', '/signed-in']

/** Every other page is for people who are signed in. */
export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSession()
  try {
    await session.recall()
  }
  catch {
    // Offline or the server is away: the console says so itself, once it is there.
    if (session.me === null && !wayIn.includes(to.path)) return navigateTo('/sign-in')
  }
  try {
    // The console itself says little: what other pages say is fetched before they are.
    if (to.path !== '/') await fetchAllWords()
  }
  catch {
    return abortNavigation()
  }
  if (!session.me && !wayIn.includes(to.path)) return navigateTo('/sign-in')
  if (session.me && (to.path === '/sign-in' || !mayOpen(to.path))) return navigateTo('/')
})
