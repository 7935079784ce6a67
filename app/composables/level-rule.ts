import type { LevelRule } from '~~/core/figures/service-level'
import { useLive } from '~/stores/live'

/** How the house counts its service level. */
export function useLevelRule() {
  const live = useLive()
  return computed<LevelRule>(() => ({ kind: live.company?.settings.serviceLevel ?? 'offered', shortAbandon: live.company?.settings.shortAbandon ?? 0 }))
}
