import { spawn, spawnSync } from 'node:child_process'
import { createServer } from 'node:net'
import { Stop } from './say.mjs'

export const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '')

/** A free port on loopback; `wanted` itself when it is free. */
export async function freePort(wanted = 0) {
  /**
   * @param {number} port
   * @returns {Promise<number | null>}
   */
  const tryPort = port => new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(null))
    probe.listen(port, '127.0.0.1', () => {
      const { port: got } = /** @type {import('node:net').AddressInfo} */ (probe.address())
      probe.close(() => resolve(got))
    })
  })
  const port = await tryPort(wanted) ?? await tryPort(0)
  if (port === null) throw new Stop('No port is free on 127.0.0.1: check that this machine has a loopback interface.')
  return port
}

/**
 * Runs a command to its end with its output shown. Throws Stop with the sentence when it fails.
 * @param {string} command
 * @param {string[]} args
 * @param {string} sentence
 * @param {import('node:child_process').SpawnSyncOptions} [options]
 */
export function must(command, args, sentence, options = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (status !== 0) throw new Stop(sentence)
}

/**
 * Runs commands at the same time, each to its end with its output shown. Throws Stop with the sentence of one that fails.
 * @param {[command: string, args: string[], sentence: string][]} commands
 */
export async function mustAll(commands) {
  const ended = await Promise.all(commands.map(async ([command, args, sentence]) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit' })
    const status = await new Promise(resolve => child.once('close', resolve).once('error', resolve))
    return status === 0 ? null : sentence
  }))
  const failed = ended.filter(sentence => sentence !== null)
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
  child.once('exit', (code, signal) => onExit?.(code, signal))
  return child
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
