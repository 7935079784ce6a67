import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '~~': fileURLToPath(new URL('.', import.meta.url)).replace(/\/$/, '') } },
  // Generous: a busy machine is slow, not wrong.
  test: { testTimeout: 60_000, include: ['{core,demo,exchange,shared,server,app}/**/*.test.ts', 'tests/*.test.ts'] },
})
