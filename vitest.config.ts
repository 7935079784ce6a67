import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url)).replace(/\/$/, '')

/** Only the tests in one folder: for scripts/mutate.mjs. */
const { TESTS_OF: beside } = process.env
const within = (folders: string) => beside ? [`${beside}/**/*.test.ts`] : [`${folders}/**/*.test.ts`]

const plain = 'words,core,demo,exchange,shared,sound,tests'

export default defineConfig({
  resolve: { alias: { '~~': folder('.'), '~': folder('./app') } },
  test: {
    // Generous: a busy machine is slow, not wrong.
    testTimeout: 60_000,
    hookTimeout: 60_000,
    // Their modules are written for bundlers.
    server: { deps: { inline: ['alawmulaw', 'wavefile'] } },
    projects: [
      { extends: true, test: { name: 'plain', include: within(`{${plain}}`), exclude: ['{server,app}/**', 'tests/database/**'] } },
      { extends: true, test: { name: 'app', include: within('app'), exclude: [`{${plain},server}/**`], setupFiles: 'tests/words.ts' } },
      { extends: true, test: { name: 'server', include: within('server'), exclude: [`{${plain},app}/**`], globalSetup: 'tests/database/setup.ts' } },
    ],
  },
})
