import { whoAsks } from '../accounts/session'

/** Who is signed in, or null. */
export default defineEventHandler(async event => (await whoAsks(event))?.person ?? null)
