import { buildWhenStale, installNpmPackages } from './packages.mjs'
import { run, say } from './say.mjs'

/** npm run build: everything that is served, from these sources. */
run(async () => {
  await installNpmPackages()
  await buildWhenStale()
  say('built')
})
