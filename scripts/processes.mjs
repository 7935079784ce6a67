import { spawn, spawnSync } from 'node:child_process'
import { createServer } from 'node:net'
import { whenEnding } from './ending.mjs'
import { Stop } from './say.mjs'

export const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '')

/** @param {number} port on loopback: is it free at this moment? Whoever needs it binds it at once, and says so when somebody was quicker. */
export function isFree(port) {
  return new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)))
  })
}

/** A port that was free a moment ago, for a program that can't choose one for itself. */
export async function anyPort() {
  const probe = createServer()
  await new Promise((resolve, reject) => probe.once('error', reject).listen(0, '127.0.0.1', () => resolve(undefined))).catch(() => {
    throw new Stop('No port is free on 127.0.0.1: check that this machine has a loopback interface.')
  })
  const { port } = /** @type {import('node:net').AddressInfo} */ (probe.address())
  await new Promise(resolve => probe.close(resolve))
  return port
}

/**
 * Runs a command to its end with its output shown; it ends with us. Throws Stop with the sentence when it fails.
 * @param {string} command
 * @param {string[]} args
 * @param {string} sentence
 * @param {{ env?: NodeJS.ProcessEnv, stdio?: import('node:child_process').StdioOptions }} [options]
 */
export async function must(command, args, sentence, options = {}) {
  // Who asks something of whoever sits at the terminal must stay in its group.
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], ...options, detached: options.stdio !== 'inherit' })
  const ended = new Promise(resolve => child.once('close', resolve).once('error', resolve))
  const done = whenEnding(async () => {
    signalGroup(child, 'SIGTERM')
    const insist = setTimeout(() => signalGroup(child, 'SIGKILL'), 3_000)
    await ended
    clearTimeout(insist)
  })
  const status = await ended
  done()
  if (status !== 0) throw new Stop(sentence)
}

/**
 * Everybody whom a command has started is in its group.
 * @param {import('node:child_process').ChildProcess} child
 * @param {NodeJS.Signals} signal
 */
function signalGroup(child, signal) {
  try {
    if (child.pid) process.kill(-child.pid, signal)
  }
  catch {
    // All of them have ended.
  }
}

/**
 * Runs commands at the same time, each to its end with its output shown. Throws Stop with the sentences of those that fail.
 * @param {[command: string, args: string[], sentence: string][]} commands
 */
export async function mustAll(commands) {
  const results = await Promise.allSettled(commands.map(command => must(...command)))
  const failed = results.flatMap(result => result.status === 'rejected' ? [(result.reason).message] : [])
  if (failed.length > 0) throw new Stop(failed.join('\n'))
}

/**
 * The first line of a command's output, or null when there is no such command or it fails.
 * @param {string} command
 * @param {string[]} args
 * @param {import('node:child_process').SpawnSyncOptions} [options]
 */
export function answerOf(command, args, options = {}) {
  const { status, stdout } = spawnSync(command, args, { encoding: 'utf8', ...options })
  return status === 0 ? String(stdout).trim() : null
}

/**
 * Starts a Node program in a process group of its own, so that Ctrl-C reaches only us and we end things in order.
 * The program ends by itself should we die.
 * @param {string} file
 * @param {string[]} args
 * @param {Record<string, string | undefined>} env
 * @param {{ onExit?: (code: number | null, signal: string | null) => void, output?: 'inherit' | 'ignore' }} [options]
 */
export function startNode(file, args, env, { onExit, output = 'inherit' } = {}) {
  const child = spawn(process.execPath, [file, ...args], {
    cwd: root,
    detached: true,
    env: { ...process.env, ...env },
    stdio: /** @type {import('node:child_process').StdioOptions} */ (['ignore', output, output, 'ipc']),
  })
  const done = whenEnding(() => end(child))
  child.once('exit', (code, signal) => {
    done()
    onExit?.(code, signal)
  })
  return child
}

/**
 * What a program that we have started says first: the port that it has bound, for example.
 * @param {import('node:child_process').ChildProcess} child
 * @param {string} sentence when it ends before it has said anything
 * @returns {Promise<{ port: number, pid?: number }>}
 */
export function firstWord(child, sentence) {
  return new Promise((resolve, reject) => {
    child.once('message', word => resolve(/** @type {{ port: number }} */ (word)))
    child.once('exit', code => reject(new Stop(sentence, code || 1)))
  })
}

/** @param {import('node:child_process').ChildProcess} child */
export function hasEnded(child) {
  return child.exitCode !== null || child.signalCode !== null
}

/**
 * Asks a process to end and waits until it has; insists after some seconds.
 * @param {import('node:child_process').ChildProcess} child
 * @param {NodeJS.Signals} [signal]
 * @param {number} [patience]
 */
export async function end(child, signal = 'SIGTERM', patience = 8_000) {
  if (hasEnded(child)) return
  const gone = new Promise(resolve => child.once('exit', resolve))
  child.kill(signal)
  const insist = setTimeout(() => child.kill('SIGKILL'), patience)
  await gone
  clearTimeout(insist)
}

/**
 * Waits until `holds` gives something true, asking again every 100 ms. Throws Stop with the sentence after `patience` ms.
 * @template T
 * @param {() => T | Promise<T>} holds
 * @param {string} sentence
 * @param {number} [patience]
 */
export async function until(holds, sentence, patience = 60_000) {
  const end = Date.now() + patience
  for (;;) {
    const value = await holds()
    if (value) return value
    if (Date.now() > end) throw new Stop(sentence)
    await new Promise(resolve => setTimeout(resolve, 100))
  }
}
