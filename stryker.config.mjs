/** Small wrong changes, made one by one: each that none of the tests in the folder `TESTS_OF` notices survives. See scripts/mutate.mjs. */
export default {
  testRunner: 'vitest',
  vitest: { related: false },
  reporters: ['json', 'progress-append-only'],
  jsonReporter: { fileName: '.data/mutants.json' },
  tempDirName: '.data/mutating',
  ignorePatterns: ['!.nuxt', '.data', '.output', 'test-results', 'docs'],
  concurrency: 2,
  timeoutMS: 20_000,
  // What the compiler or the eye sees: words that people read, and what is only there for types.
  mutator: { excludedMutations: ['StringLiteral'] },
}
