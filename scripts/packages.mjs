import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { answerOf, must, root } from './processes.mjs'
import { say, Stop } from './say.mjs'

const isRoot = process.getuid?.() === 0

/** @param {string[]} paths */
function hashOf(paths) {
  const hash = createHash('sha256')
  /** @param {string} path */
  const add = (path) => {
    if (!existsSync(path)) return
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort()) add(join(path, name))
      return
    }
    hash.update(path.slice(root.length)).update(readFileSync(path))
  }
  for (const path of paths) add(join(root, path))
  return hash.digest('hex')
}

/**
 * @param {string} mark
 * @param {string} hash
 */
function isCurrent(mark, hash) {
  return existsSync(mark) && readFileSync(mark, 'utf8') === hash
}

/** The npm packages of the lock file, unless they are there already. */
export async function installNpmPackages() {
  const mark = join(root, 'node_modules/.from-lock')
  const hash = hashOf(['package-lock.json', 'package.json'])
  if (isCurrent(mark, hash)) return
  say('installing npm packages from the lock file')
  await must(
    'npm',
    ['ci', '--no-audit', '--no-fund', '--loglevel=error'],
    'npm could not install the packages: check that the npm registry can be reached and start again.',
  )
  writeFileSync(mark, hash)
}

/**
 * Two of us at once, as tests beside each other are, wait for each other; so does whoever else has Debian's packages in hand.
 * @param {string[]} asked
 * @returns {[string, string[]]}
 */
const aptGet = (...asked) => ['flock', [join(tmpdir(), 'estafette-packages.lock'), 'apt-get', '-o', 'DPkg::Lock::Timeout=300', ...asked]]

/**
 * Debian's packages, when what they bring is missing.
 * @param {string[]} names
 * @param {() => boolean} isThere
 */
export async function installDebianPackages(names, isThere) {
  if (isThere()) return
  const list = names.join(' ')
  if (!answerOf('which', ['apt-get'])) throw new Stop(`${list} is missing and this is not a Debian machine: install it by hand and start again.`)
  if (!isRoot) throw new Stop(`${list} is missing: run "sudo apt-get install ${list}" once and start again.`)
  say(`installing ${list} from Debian's packages`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  await must(...aptGet('update', '-qq'), 'Debian\'s packages can\'t be reached: check the network and start again.', { env })
  await must(...aptGet('install', '-y', '-qq', '--no-install-recommends', ...names), `apt-get could not install ${list}: see its message above.`, {
    env,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (!isThere()) throw new Stop(`${list} was installed but can't be found: check the installation.`)
}

/** The one that is made to run without a screen first: it takes a tenth less time. */
export const chromium = () => ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync)

export async function installChromium() {
  await installDebianPackages(['chromium-headless-shell'], () => chromium() !== undefined)
}

/** What gives made-up people their voices; without it they are read. */
export async function installVoices() {
  try {
    await installDebianPackages(['espeak-ng'], () => answerOf('which', ['espeak-ng']) !== null)
  }
  catch (error) {
    if (!(error instanceof Stop)) throw error
    say(`${error.message} Until then what made-up people say is read, and not heard.`)
  }
}

/** What understands names that are spoken. */
export async function installRecogniser() {
  await installDebianPackages(['espeak-ng', 'pocketsphinx', 'pocketsphinx-en-us'], () => answerOf('which', ['pocketsphinx_continuous', 'espeak-ng']) !== null)
}

/** Telephones that nobody here wrote, for the tests. */
export async function installTelephones() {
  await installDebianPackages(['baresip-core', 'openssl'], () => answerOf('which', ['baresip', 'openssl']) !== null)
}

/** A carrier that nobody here wrote, for the bench. */
export async function installCarrier() {
  await installDebianPackages(['sip-tester'], () => answerOf('which', ['sipp']) !== null)
}

/** What stands in for the office's calendars and for its list of who is where. */
export const officeProgram = join(root, '.output/exchange/office.mjs')

const sources = ['app', 'server', 'shared', 'core', 'words', 'exchange', 'sound', 'demo', 'public', 'nuxt.config.ts', 'package-lock.json']

/** Builds the demo's exchange, or the one without anybody: a moment's work. */
export async function buildExchange(into = join(root, '.output/exchange/demo.mjs'), from = 'demo/exchange.ts') {
  const { build } = await import('esbuild')
  await build({
    entryPoints: [join(root, from)],
    outfile: into,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
  })
  return into
}

/** Builds the sound of calls, and the thread in which made-up people are given their voices. */
export async function buildSound(into = join(root, '.output/sound')) {
  const { build } = await import('esbuild')
  await build({
    entryPoints: ['main', 'speech-thread'].map(name => join(root, `sound/${name}.ts`)),
    outdir: into,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    external: ['werift', 'yup'],
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
  })
  return join(into, 'main.mjs')
}

/** Builds the server's programs that run by themselves: another moment's work. */
export async function buildCommands() {
  const { build } = await import('esbuild')
  const entryPoints = {
    migrate: 'server/database/migrate.ts',
    administrator: 'server/accounts/administrator.ts',
    rebuild: 'server/journal/rebuild-command.ts',
    server: 'server/settings/start.ts',
    seed: 'demo/seed.ts',
    history: 'demo/remember.ts',
  }
  await build({
    entryPoints: Object.fromEntries(Object.entries(entryPoints).map(([name, file]) => [name, join(root, file)])),
    outdir: join(root, '.output/commands'),
    outExtension: { '.js': '.mjs' },
    bundle: true,
    packages: 'external',
    alias: { '~~': root },
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'warning',
  })
}

/** Builds everything, unless it has been built from just these sources. */
export async function buildWhenStale() {
  const mark = join(root, '.output/.built-from')
  const hash = hashOf(sources)
  if (isCurrent(mark, hash)) return
  say('building (a minute or so)')
  await must('npx', ['nuxt', 'build', '--logLevel', 'silent'], 'The build failed: see its message above.', { env: { ...process.env, NODE_ENV: 'production' } })
  await buildExchange()
  await buildExchange(join(root, '.output/exchange/main.mjs'), 'exchange/main.ts')
  await buildExchange(officeProgram, 'demo/office.ts')
  await buildSound()
  await buildCommands()
  mkdirSync(join(root, '.output'), { recursive: true })
  writeFileSync(mark, hash)
}
