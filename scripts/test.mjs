import { chromium, buildWhenStale, installChromium, installNpmPackages, installRecogniser, installTelephones, installVoices } from './packages.mjs'
import { must, mustAll } from './processes.mjs'
import { run, say } from './say.mjs'

const steps = process.argv.slice(2)
/** @param {string} step */
const wants = step => steps.length === 0 || steps.includes(step)

/** npm test: everything; npm test -- unit, for example, only that part of lint, types, unit, e2e. What follows e2e goes to Playwright. */
run(async () => {
  await installNpmPackages()
  await must('npx', ['nuxt', 'prepare', '--logLevel', 'silent'], 'Nuxt could not prepare its types: see its message above.')
  /** @type {[string, string[], string][]} */
  const looks = []
  if (wants('lint')) {
    looks.push(['npx', ['eslint', '.'], 'Lint found something: see above.'])
    looks.push(['npx', ['knip'], 'Something is not used, or used without being listed: see above.'])
  }
  if (wants('types')) looks.push(['npx', ['nuxt', 'typecheck'], 'The type check found something: see above.'])
  if (looks.length > 0) {
    say('lint and type check')
    await mustAll(looks)
  }
  if (wants('unit') || wants('e2e')) {
    await installRecogniser()
    await installTelephones()
  }
  if (wants('unit')) {
    say('unit and property-based tests')
    await must('npx', ['vitest', 'run'], 'A unit test failed: see above.')
  }
  if (wants('e2e')) {
    await installChromium()
    await installVoices()
    await buildWhenStale()
    say('end-to-end and fault tests in headless Chromium')
    await must('npx', ['playwright', 'test', ...steps.slice(1)], 'An end-to-end test failed: see above.', { env: { ...process.env, CHROMIUM: chromium() } })
  }
})
