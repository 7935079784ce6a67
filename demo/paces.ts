import type { RehearsalOptions } from './rehearsal/rehearsal'

/** How busy the demo is: the mean time between two outside callers, in milliseconds. */
export const paces: Record<string, Pick<RehearsalOptions, 'callerEvery' | 'livelyColleagues' | 'grows'> | undefined> = {
  /** Nobody calls, answers or stirs: for tests that play every part themselves. */
  still: { callerEvery: null, livelyColleagues: false },
  quiet: { callerEvery: 60_000, livelyColleagues: true, grows: true },
  easy: { callerEvery: 25_000, livelyColleagues: true, grows: true },
  brisk: { callerEvery: 12_000, livelyColleagues: true },
  rush: { callerEvery: 5_000, livelyColleagues: true },
}
