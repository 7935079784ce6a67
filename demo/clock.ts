/**
 * The demo's clock: that of the machine, moved on by what the start command says, so that it begins in a working day. All parts of the demo that look at a
 * clock of their own look at this one; server and browsers follow the exchange.
 * @returns milliseconds since 1970
 */
export function demoNow(): number {
  return Date.now() + Number(process.env.ESTAFETTE_DEMO_CLOCK_OFFSET ?? 0)
}
