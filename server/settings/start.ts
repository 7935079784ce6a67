import { checkSettings } from './settings'

/** The server's program: its settings are looked at before anything else of it is even read. What is wrong is told all at once, and nothing is begun. */
// EX_CONFIG of sysexits.h.
const faultySettings = 78

const { faults, unknown } = checkSettings(process.env)
for (const name of unknown) console.error(`${name} is no setting of this server: it is left aside. docs/operations.md lists them.`)
if (faults.length > 0) {
  console.error(`The server can't start with these settings:\n${faults.map(fault => `  ${fault}`).join('\n')}`)
  process.exit(faultySettings)
}
await import(new URL('../server/index.mjs', import.meta.url).href)
