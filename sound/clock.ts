import { frameLength } from '../core/sound/frames'

/** Behind by more than so many frames, what is missing is left out. */
const mostBehind = 10

/** Calls back once for each frame, for as long as it runs: steadily, whatever else this process has to do. @returns what ends it */
export function everyFrame(tick: () => void, now: () => number = () => performance.now()): () => void {
  let due = now() + frameLength
  let timer: NodeJS.Timeout
  const run = () => {
    if (now() - due > mostBehind * frameLength) due = now()
    for (; due <= now(); due += frameLength) tick()
    timer = setTimeout(run, Math.max(1, due - now()))
  }
  timer = setTimeout(run, frameLength)
  return () => clearTimeout(timer)
}
