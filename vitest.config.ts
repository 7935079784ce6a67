import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '~~': fileURLToPath(new URL('.', import.meta.url)).replace(/\/$/, '') } },
  test: { include: ['{core,demo,exchange,shared,server,app}/**/*.test.ts', 'tests/*.test.ts'] },
})
