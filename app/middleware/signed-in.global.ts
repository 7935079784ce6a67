import { useSession } from '~/stores/session'

/** Every page but the sign-in is for people who are signed in. */
export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSession()
  try {
    await session.recall()
  }
  catch {
    // Offline or the server is away: the console says so itself, once it is there.
    if (session.me === null && to.path !== '/sign-in') return navigateTo('/sign-in')
  }
  if (!session.me && to.path !== '/sign-in') return navigateTo('/sign-in')
  if (session.me && to.path === '/sign-in') return navigateTo('/')
})
