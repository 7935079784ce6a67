/** Who is signed in, or null. */
export default defineEventHandler(async event => (await getUserSession(event)).user ?? null)
