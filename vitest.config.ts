import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url)).replace(/\/$/, '')

/** Only the tests in one folder: for scripts/mutate.mjs. */
const { TESTS_OF: beside } = process.env
const everywhere = ['{core,demo,exchange,shared,server,app}/**/*.test.ts', 'tests/*.test.ts']

export default defineConfig({
  resolve: { alias: { '~~': folder('.'), '~': folder('./app') } },
  // Generous: a busy machine is slow, not wrong.
  test: { testTimeout: 60_000, hookTimeout: 60_000, include: beside ? [`${beside}/**/*.test.ts`] : everywhere },
})
