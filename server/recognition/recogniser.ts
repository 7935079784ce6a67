import { execFile, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Company } from '~~/core/company/company'
import { type Grammar, grammarOf } from '~~/core/recognition/grammar'
import { phonesOf } from '~~/core/recognition/phonemes'

/** The program that understands names. */
export interface Recogniser {
  /**
   * @param wav one channel, 16 bits, 16 kHz
   * @returns a name of the company's, as it is searched for; null: nothing was understood
   * @throws RecogniserAway
   */
  hears(wav: Uint8Array): Promise<string | null>
  stop(): void
}

/** It is not installed, does not answer, or has too much to do. */
export class RecogniserAway extends Error {}

const program = 'pocketsphinx_continuous'
/** The acoustic model of Debian's pocketsphinx-en-us. */
const model = '/usr/share/pocketsphinx/model/en-us/en-us'
/** Whoever speaks may say it in either way. */
const voices = ['en-us', 'en-gb']
/** Milliseconds. A name takes some tenths of a second. */
const longest = 10_000
/** More who speak at the same time are asked to say it again. */
const mostAtOnce = 4
/** Wider than usual: of a few thousand names none may be dropped too early. */
const beams = ['-beam', '1e-80', '-wbeam', '1e-60', '-pbeam', '1e-80']

interface Prepared { of: Company, grammar: Grammar, ready: Promise<void> }

/** pocketsphinx with its English model, one run for each name; how the company's names sound is asked of espeak-ng once. */
export class Pocketsphinx implements Recogniser {
  private readonly folder = mkdtempSync(join(tmpdir(), 'estafette-names-'))
  private prepared: Prepared | null = null
  private running = 0
  private serial = 0

  constructor(private readonly company: () => Company) {}

  async hears(wav: Uint8Array): Promise<string | null> {
    if (this.running >= mostAtOnce) throw new RecogniserAway('too many at once')
    this.running++
    const file = join(this.folder, `${++this.serial}.wav`)
    try {
      const { grammar, ready } = this.prepare()
      await ready
      await writeFile(file, wav)
      const said = await this.run(file)
      return grammar.meant.get(said) ?? null
    }
    catch (error) {
      throw new RecogniserAway((error as Error).message, { cause: error })
    }
    finally {
      this.running--
      await rm(file, { force: true })
    }
  }

  stop(): void {
    rmSync(this.folder, { recursive: true, force: true })
  }

  /** Anew when the company has changed; what failed is tried again. */
  private prepare(): Prepared {
    const of = this.company()
    const { prepared } = this
    if (prepared && prepared.of.people === of.people && prepared.of.groups === of.groups && prepared.of.telephones === of.telephones) return prepared
    const grammar = grammarOf(of)
    const next = { of, grammar, ready: this.write(grammar) }
    next.ready.catch(() => {
      if (this.prepared === next) this.prepared = null
    })
    this.prepared = next
    return next
  }

  private async write({ words, jsgf }: Grammar): Promise<void> {
    const spoken = await Promise.all(voices.map(voice => mnemonics(voice, words)))
    const lines = words.flatMap((_, at) => {
      const ways = new Set(spoken.map(said => phonesOf(said[at]!)).filter(Boolean))
      return [...ways].map((phones, way) => `w${at}${way > 0 ? `(${way + 1})` : ''} ${phones}\n`)
    })
    await writeFile(join(this.folder, 'names.dict'), lines.join(''))
    await writeFile(join(this.folder, 'names.gram'), jsgf)
  }

  private run(file: string): Promise<string> {
    const files = ['-infile', file, '-jsgf', join(this.folder, 'names.gram'), '-dict', join(this.folder, 'names.dict'), '-hmm', model]
    return new Promise((resolve, reject) => {
      execFile(program, [...files, ...beams, '-bestpath', 'no', '-logfn', '/dev/null'], { timeout: longest, killSignal: 'SIGKILL' }, (error, said) => {
        if (error) reject(error)
        else resolve(said.trim().split('\n').at(-1)!.trim())
      })
    })
  }
}

/** How a voice would say each word: they go in line by line, and nothing in them can be taken for an option. */
function mnemonics(voice: string, words: readonly string[]): Promise<string[]> {
  return new Promise((resolve, reject) => {
    const espeak = spawn('espeak-ng', ['-q', '-x', '-v', voice], { stdio: ['pipe', 'pipe', 'ignore'], timeout: longest * 6, killSignal: 'SIGKILL' })
    let said = ''
    espeak.stdout.on('data', (part: Buffer) => {
      said += String(part)
    })
    espeak.stdin.on('error', () => {})
    espeak.once('error', reject)
    espeak.once('close', () => {
      const lines = said.trim().split('\n').map(line => line.replaceAll(' ', ''))
      if (lines.length === words.length) resolve(lines)
      else reject(new Error(`espeak-ng said ${lines.length} of ${words.length} words`))
    })
    espeak.stdin.end(words.join('\n'))
  })
}
