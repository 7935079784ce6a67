import type { Preferences } from './preferences'

/** The console of somebody who has set nothing. */
export const asDesigned: Preferences = {
  track: null, panel: null, panelShown: true, density: 'names', loudness: 'everything', voice: 'usual', saysWords: false,
  pinnedKeys: null, pinned: [], chosen: [],
}
