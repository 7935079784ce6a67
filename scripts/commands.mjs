import { join } from 'node:path'
import { buildCommands } from './packages.mjs'
import { must, root } from './processes.mjs'
import { run } from './say.mjs'

/** npm run migrate, administrator, rebuild, demo: programs of the server that run by themselves. */
const [name, ...args] = process.argv.slice(2)

run(async () => {
  await buildCommands()
  await must(process.execPath, [join(root, `.output/commands/${name}.mjs`), ...args], 'Nothing more was done: see the message above.', { stdio: 'inherit' })
})
