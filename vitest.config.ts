import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url)).replace(/\/$/, '')

export default defineConfig({
  resolve: { alias: { '~~': folder('.'), '~': folder('./app') } },
  // Generous: a busy machine is slow, not wrong.
  test: { testTimeout: 60_000, hookTimeout: 60_000, include: ['{core,demo,exchange,shared,server,app}/**/*.test.ts', 'tests/*.test.ts'] },
})
