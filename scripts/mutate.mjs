import { readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { spawnSync } from 'node:child_process'
import { must, root } from './processes.mjs'
import { run, say } from './say.mjs'

/** Where small wrong changes are made when nothing is named. */
const everywhere = ['core', 'server', 'app/stores']
/** Random requests are few and always the same here: whether a change is noticed must not hang on luck. */
const steady = { LAW_SEED: '960', LAW_RUNS: '60', ACT_SEED: '960' }

/**
 * npm run mutate -- core/queues server/figures/days.ts: changes the code in small wrong ways, and lists those that no test beside it notices, in
 * .data/mutants.txt. Without names everywhere, which takes hours.
 */
run(async () => {
  const named = process.argv.slice(2)
  /** @type {Map<string, string[]>} */
  const folders = new Map()
  for (const file of filesIn(named.length > 0 ? named : everywhere)) {
    const beside = testsBeside(dirname(file))
    folders.set(beside, [...folders.get(beside) ?? [], file])
  }
  /** @type {string[]} */
  const told = []
  for (const [folder, files] of folders) {
    say(`${folder}: ${files.length} files`)
    const env = { ...process.env, ...steady, TESTS_OF: folder }
    await must('npx', ['stryker', 'run', '--mutate', files.join(',')], `Nothing could be changed in ${folder}: see above.`, { env })
    told.push(...survivors())
  }
  writeFileSync(join(root, '.data/mutants.txt'), `${told.join('\n')}\n`)
  console.log(told.filter(line => !line.startsWith(' ')).join('\n'))
})

/**
 * @param {readonly string[]} names
 * @returns the files of source code among them, and in the folders among them
 */
function filesIn(names) {
  const listed = spawnSync('git', ['ls-files', '--', ...names], { cwd: root, encoding: 'utf8' }).stdout.trim().split('\n')
  return listed.filter(file => /\.ts$/.test(file) && !/\.test\.ts$|\.d\.ts$|\/migrations\//.test(file) && statSync(join(root, file)).size > 0)
}

/**
 * @param {string} folder
 * @returns the nearest folder in which tests stand: this one, or one above
 */
function testsBeside(folder) {
  let beside = folder
  while (beside !== '.' && spawnSync('git', ['ls-files', '--', `${beside}/*.test.ts`], { cwd: root, encoding: 'utf8' }).stdout === '') beside = dirname(beside)
  return beside
}

/** A line for each file, and under it one for each change that nobody noticed. */
function survivors() {
  /** @type {{ files: Record<string, { source: string, mutants: Mutant[] }> }} */
  const { files } = JSON.parse(readFileSync(join(root, '.data/mutants.json'), 'utf8'))
  return Object.entries(files).flatMap(([file, { source, mutants }]) => {
    const tried = mutants.filter(({ status }) => !['Ignored', 'CompileError', 'RuntimeError'].includes(status))
    const unnoticed = tried.filter(({ status }) => status === 'Survived' || status === 'NoCoverage')
    const lines = source.split('\n')
    return [
      `${file}: ${tried.length - unnoticed.length} of ${tried.length} noticed`,
      ...unnoticed.map(({ location: { start }, replacement = '' }) => {
        const line = (lines[start.line - 1] ?? '').trim().slice(0, 100)
        return `  ${start.line}:${start.column} → ${replacement.replace(/\s+/g, ' ').slice(0, 60)} in ${line}`
      }),
    ]
  })
}

/** @typedef {{ status: string, replacement?: string, location: { start: { line: number, column: number } } }} Mutant */
