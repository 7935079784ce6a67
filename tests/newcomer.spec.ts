import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { chmodSync, cpSync, mkdtempSync, readdirSync, readFileSync, readlinkSync, rmSync } from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { expect, test, type Browser } from '@playwright/test'
import { name, ribbon, signIn } from './stage'

/** What somebody does who has only just cloned the repository: nothing is there but what git has. */

const minute = 60_000
let folder: string
/** Whoever has been started, and what they have said. */
let npm: ChildProcess | null = null
let said = ''

test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'estafette-newcomer-'))
  chmodSync(folder, 0o755)
  // As a clone would have it: what is not committed yet is tried too.
  const files = execFileSync('git', ['ls-files', '-z', '--cached', '--others', '--exclude-standard'], { encoding: 'utf8' }).split('\0').filter(Boolean)
  for (const file of files) cpSync(file, join(folder, file), { recursive: true })
  expect(files.map(file => dirname(file).split('/')[0])).not.toContain('node_modules')
})

test.afterAll(async () => {
  npm?.kill('SIGTERM')
  await expect.poll(running, { timeout: minute }).toEqual([])
  rmSync(folder, { recursive: true, force: true })
})

/** Everything that runs in the clone, or was started from it. */
function running(): string[] {
  return readdirSync('/proc').filter(pid => /^\d+$/.test(pid)).flatMap((pid) => {
    try {
      const here = readlinkSync(`/proc/${pid}/cwd`).startsWith(folder)
      const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ')
      return here || command.includes(folder) ? [`${pid} ${command}`] : []
    }
    catch {
      return []
    }
  })
}

/** `npm start`, until it has said something. */
async function start(until: RegExp, patience = 10 * minute): Promise<string> {
  said = ''
  const child = npm = spawn('npm', ['start', '--', '--port', '0', '--pace', 'rush'], { cwd: folder, stdio: ['ignore', 'pipe', 'pipe'] })
  for (const stream of [child.stdout!, child.stderr!]) stream.on('data', chunk => said += String(chunk))
  await expect.poll(() => until.test(said) ? 'said' : child.exitCode === null ? 'not yet' : said, { timeout: patience, intervals: [50] }).toBe('said')
  return until.exec(said)![1] ?? ''
}

async function ended(signal: NodeJS.Signals): Promise<void> {
  npm!.kill(signal)
  await expect.poll(running, { timeout: minute }).toEqual([])
  npm = null
}

/** Answers whoever rings first and passes them on; gives the number of calls that the log tells of afterwards. */
async function aMorning(browser: Browser, url: string): Promise<number> {
  const page = await browser.newPage({ baseURL: url, viewport: { width: 1280, height: 800 } })
  await signIn(page, url, 'ines')
  const arriving = page.getByRole('region', { name: 'Arriving' }).getByRole('listitem')
  await expect(arriving.first()).toBeVisible({ timeout: minute })
  await expect(page.getByText(/Enter\s*answers/)).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(ribbon(page, 'In hand', 'talking').first()).toBeVisible()
  await name(page, 'Lost property')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Passed on' }).getByRole('listitem').first()).toBeVisible()
  const calls = await loggedCalls(page)
  await page.close()
  return calls
}

async function loggedCalls(page: Awaited<ReturnType<Browser['newPage']>>): Promise<number> {
  const answer = await page.request.get('/api/calls', { params: { text: '', kind: 'all' } })
  return ((await answer.json()) as { rows: unknown[] }).rows.length
}

test('a clone without packages is started, ended at any moment with nothing left running, used, and started again', async ({ browser }) => {
  test.setTimeout(25 * minute)
  for (const moment of [/installing npm packages/, /Building client|building/, /creating a database cluster/, /putting the demo into the database/]) {
    await test.step(`ended while it says ${moment}`, async () => {
      await start(moment)
      await ended('SIGTERM')
    })
    // What it would build now is what has been built for these tests, of the same sources.
    if (moment.source.includes('building')) cpSync('.output', join(folder, '.output'), { recursive: true })
  }
  const first = await test.step('started and used', async () => {
    const url = await start(/Estafette is at (\S+)/)
    const calls = await aMorning(browser, url)
    expect(calls).toBeGreaterThan(0)
    return calls
  })

  await test.step('a second start in the same folder says so and leaves the first alone', async () => {
    const second = spawn('npm', ['start', '--', '--port', '0'], { cwd: folder, stdio: ['ignore', 'pipe', 'pipe'] })
    let words = ''
    for (const stream of [second.stdout, second.stderr]) stream.on('data', chunk => words += String(chunk))
    await expect.poll(() => second.exitCode, { timeout: minute }).toBe(1)
    expect(words).toContain('Estafette runs from this folder already')
    expect(npm!.exitCode).toBeNull()
  })

  await test.step('ended and started again: what was written is there, and npm killed the hard way leaves nothing', async () => {
    await ended('SIGTERM')
    const url = await start(/Estafette is at (\S+)/)
    const page = await browser.newPage({ baseURL: url })
    await signIn(page, url, 'ines')
    expect(await loggedCalls(page)).toBeGreaterThanOrEqual(first)
    await page.close()
    await ended('SIGKILL')
  })
})

test('whoever may not install what is missing is told what to do, in one sentence; a port that is taken too', async () => {
  const missing = `import('./scripts/packages.mjs').then(({ installDebianPackages }) => installDebianPackages(['postgresql'], () => false))
    .catch(({ message }) => console.log(message))`
  // Nobody of Debian, who may install nothing.
  const said = execFileSync(process.execPath, ['-e', missing], { encoding: 'utf8', uid: process.getuid?.() === 0 ? 65_534 : undefined })
  expect(said.trim()).toBe('postgresql is missing: run "sudo apt-get install postgresql" once and start again.')

  const other = createServer().listen(0, '127.0.0.1')
  await once(other, 'listening')
  const { port } = other.address() as AddressInfo
  const start = spawn('npm', ['start', '--', '--port', String(port)], { cwd: folder, stdio: ['ignore', 'pipe', 'pipe'] })
  let words = ''
  for (const stream of [start.stdout, start.stderr]) stream.on('data', chunk => words += String(chunk))
  await expect.poll(() => start.exitCode, { timeout: minute }).toBe(1)
  expect(words).toContain(`Port ${port} is taken by another program: end that one, or choose another port with --port.`)
  expect(words, 'before any work').not.toContain('installing')
  other.close()
})
