import { spawn } from 'node:child_process'
import { parentPort } from 'node:worker_threads'
import { WaveFile } from 'wavefile'
import { sampleRate } from '../core/sound/frames'
import type { Voice } from '../core/sound/voices'

export interface Asked { id: number, text: string, voice: Voice }
/** `missing`: the program that speaks is not installed. */
export interface Spoken { id: number, samples: Int16Array | null, missing: boolean }

/** Milliseconds. A sentence takes some tens. */
const longest = 10_000
/** Voices of espeak-ng by their kind; of men and women, from more than one place. */
const kinds = [
  'en-gb+f2', 'en-gb+m3', 'en-gb-x-rp+f4', 'en-gb-scotland+m1', 'en-gb+f5', 'en-gb-x-rp+m7', 'en-gb-scotland+f3', 'en-gb+m4', 'en-gb-x-gbclan+f1',
  'en-gb-x-gbclan+m2', 'en-gb+f3', 'en-gb-x-rp+m5',
]
/** What a telephone lets through: from here, in hertz. */
const lowest = 300
/** Of the loudest that there can be. */
const level = 0.5

parentPort!.on('message', ({ id, text, voice }: Asked) => {
  turn = turn.then(async () => {
    const { wav, missing } = await spoken(text, voice)
    parentPort!.postMessage({ id, samples: wav && overTelephone(wav), missing } satisfies Spoken)
  }).catch(() => parentPort!.postMessage({ id, samples: null, missing: false } satisfies Spoken))
})
let turn = Promise.resolve()

/** What is said goes in by standard input: nothing in it can be taken for an option. */
function spoken(text: string, { kind, pitch, pace }: Voice): Promise<{ wav: Buffer | null, missing: boolean }> {
  return new Promise((resolve) => {
    const program = spawn('espeak-ng', ['--stdin', '--stdout', '-v', kinds[kind % kinds.length]!, '-p', String(pitch), '-s', String(pace)], {
      stdio: ['pipe', 'pipe', 'ignore'],
    })
    const parts: Buffer[] = []
    const late = setTimeout(() => program.kill('SIGKILL'), longest)
    program.stdout.on('data', (part: Buffer) => parts.push(part))
    program.stdin.on('error', () => {})
    program.once('error', () => {
      clearTimeout(late)
      resolve({ wav: null, missing: true })
    })
    program.once('close', (code) => {
      clearTimeout(late)
      resolve({ wav: code === 0 ? Buffer.concat(parts) : null, missing: false })
    })
    program.stdin.end(text)
  })
}

/** As it comes out of a telephone: 8 kHz, without what lies below its band, and as loud as anybody else. */
function overTelephone(wav: Buffer): Int16Array | null {
  if (wav.length <= 44) return null
  // A program that writes into a pipe does not know yet how long it will speak.
  wav.writeUInt32LE(wav.length - 8, 4)
  wav.writeUInt32LE(wav.length - 44, 40)
  const file = new WaveFile(wav)
  file.toSampleRate(sampleRate, { method: 'sinc' })
  const samples = Float64Array.from(file.getSamples(false) as unknown as Float64Array)
  // A filter of the first order, twice.
  const keeps = 1 / (1 + 2 * Math.PI * lowest / sampleRate)
  for (let pass = 0; pass < 2; pass++) {
    let [before, out] = [0, 0]
    for (let at = 0; at < samples.length; at++) {
      out = keeps * (out + samples[at]! - before)
      before = samples[at]!
      samples[at] = out
    }
  }
  let peak = 1
  for (const sample of samples) peak = Math.max(peak, Math.abs(sample))
  return Int16Array.from(samples, sample => Math.round(sample / peak * level * 32_767))
}
