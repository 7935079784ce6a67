import { useTimeoutFn } from '@vueuse/core'

/** Milliseconds. */
export const pauseAfterFailure = 5_000

/**
 * Keeps something that the server knows: one question at a time, asked again when there was news meanwhile, and after a failure again a while later.
 * @param ask asks, and keeps the answer; throws when there was none
 * @returns says that there is news; resolves when all is known again, or was asked for in vain
 */
export function useAsking(ask: () => Promise<void>): () => Promise<void> {
  let asking: Promise<void> | null = null
  let stale = false

  async function askWhileStale(): Promise<void> {
    while (stale) {
      stale = false
      await ask().catch(() => later.start())
    }
  }

  function refresh(): Promise<void> {
    stale = true
    return asking ??= askWhileStale().finally(() => {
      asking = null
    })
  }
  const later = useTimeoutFn(() => void refresh(), pauseAfterFailure, { immediate: false })
  return refresh
}
