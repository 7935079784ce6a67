/** What must be ended before we are, the youngest first: whatever moment it is, nothing that we have started goes on alone. */

/** @type {Set<() => unknown>} */
const open = new Set()
const parent = process.ppid
let ending = false
/** @type {(code: number) => void} */
let tell = () => {}
/** Resolves when somebody wants us to end; whoever waits for it ends in good order. */
const wanted = new Promise(resolve => tell = resolve)
let awaited = false

/**
 * @param {() => unknown} end called when we are told to end; it may take its time
 * @returns called when there is nothing left to end
 */
export function whenEnding(end) {
  open.add(end)
  return () => void open.delete(end)
}

/** True from the moment at which we have been told to end: what ends now is meant to. */
export const isEnding = () => ending

/** Waits until somebody wants us to end: a signal, or the program that started us is gone. */
export function toldToEnd() {
  awaited = true
  return wanted
}

/** From now on every signal, and the end of npm, ends what we have begun. */
export function endInOrder() {
  for (const [signal, number] of /** @type {const} */ ([['SIGINT', 2], ['SIGTERM', 15], ['SIGHUP', 1]]))
    process.on(signal, () => void endAll(awaited ? 0 : 128 + number))
  // Whoever ends npm the hard way means what it has started.
  if (process.env.npm_lifecycle_event) setInterval(() => process.ppid === parent || void endAll(1), 500).unref()
}

/**
 * Ends what is still open, the youngest first, and then us.
 * @param {number} code
 */
export async function endAll(code) {
  if (ending) return
  ending = true
  tell(code)
  if (open.size > 0) console.log('· stopping')
  for (const end of [...open].reverse()) {
    await end()
    open.delete(end)
  }
  process.exit(code)
}
