import { promiseTimeout, until } from '@vueuse/core'
import { effectScope } from 'vue'
import { useLive } from '~/stores/live'

/** A page without the floor shows nobody: it has so long, in milliseconds, for whatever it shows. */
const longestWithoutFloor = 2_000

let usable: Promise<void> | undefined
/** Somebody of the floor is drawn. */
let drawn: () => void = () => {}
const floor = new Promise<void>(resolve => drawn = resolve)

export const floorIsDrawn = (): void => drawn()

/** Calls can be answered, and everybody is in sight. That a browser is idle is waited for by nobody: a busy one never is. */
function onceUsable(live: ReturnType<typeof useLive>): Promise<void> {
  return usable ??= effectScope(true).run(async () => {
    await until(() => live.working).toBe(true)
    await Promise.race([floor, promiseTimeout(longestWithoutFloor)])
  })!
}

/** What `fetchProgram` brings, when fetching it keeps nobody waiting who wants to answer. Without the server it is fetched when the server is back. */
export async function later<T>(fetchProgram: () => Promise<T>): Promise<T> {
  const live = useLive()
  await onceUsable(live)
  for (;;) {
    try {
      return await fetchProgram()
    }
    catch {
      await until(() => live.working).toBe(false)
      await until(() => live.working).toBe(true)
    }
  }
}
