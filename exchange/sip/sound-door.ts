import { Readable } from 'node:stream'
import type { ReadableStream } from 'node:stream/web'
import { type TelephoneSound, type TelephoneSoundAnswer, telephoneSoundAnswer, type TelephoneWord, telephoneWord } from '../../shared/telephone-sound'
import { LineReader } from '../../shared/lines'

/** Milliseconds. */
const answerWithin = 3_000
const pause = 250
const longestWord = 1024 * 1024

/** What a telephone says of its sound can't be met. */
export class SoundRefused extends Error {}

/** The sound process, as far as telephones need it: where their sound comes and goes, and what they say by digits. It may end at any time, and come back. */
export class SoundDoor {
  private closed = false
  private readonly given = new Map<string, TelephoneSound>()

  /**
   * @param port of its doors, on loopback
   * @param onWord a digit of a telephone, or that nothing comes from it any more
   */
  constructor(private readonly port: number, private readonly token: string, private readonly onWord: (session: string, word: TelephoneWord) => void) {
    void this.listen()
  }

  /**
   * Opens the sound of a dialog, or changes it.
   * @throws SoundRefused when there is nothing in the description that can be done; any other error when nobody answers
   */
  async describe(asked: TelephoneSound): Promise<TelephoneSoundAnswer> {
    const answer = await this.patiently(asked)
    const { port, sdp } = telephoneSoundAnswer.validateSync(answer)
    // What it must be told again when it has ended in between: the port that the telephone knows, and how the telephone describes itself.
    const theirs = asked.answer ?? asked.offer
    const kept = theirs ?? this.given.get(asked.session)?.answer
    if (port !== 0) this.given.set(asked.session, { ...asked, port, offer: undefined, answer: kept, alone: undefined })
    return { port, sdp }
  }

  end(session: string): void {
    if (this.given.delete(session)) void this.ask('/telephones/over', { sessions: [session] }).catch(() => {})
  }

  close(): void {
    this.closed = true
  }

  /** A sound process that has just ended is back in a moment: nobody's telephone stays silent for that. */
  private async patiently(asked: TelephoneSound): Promise<unknown> {
    const begin = performance.now()
    for (;;) {
      try {
        return await this.ask('/telephones', asked)
      }
      catch (error) {
        if (error instanceof SoundRefused || performance.now() - begin > answerWithin) throw error
        await new Promise(resolve => setTimeout(resolve, pause))
      }
    }
  }

  private async ask(path: string, body: object): Promise<unknown> {
    const response = await fetch(`http://127.0.0.1:${this.port}${path}`, {
      method: 'POST', headers: { authorization: `Bearer ${this.token}` }, body: JSON.stringify(body), signal: AbortSignal.timeout(answerWithin),
    })
    const said = await response.json() as { message?: string }
    if (response.status === 422) throw new SoundRefused(said.message)
    if (!response.ok) throw new Error(said.message)
    return said
  }

  private async listen(): Promise<void> {
    while (!this.closed) {
      try {
        const response = await fetch(`http://127.0.0.1:${this.port}/telephones`, { headers: { authorization: `Bearer ${this.token}` } })
        const lines = new LineReader(longestWord, line => this.hear(telephoneWord.validateSync(JSON.parse(line))), () => {})
        for await (const chunk of Readable.fromWeb(response.body as ReadableStream)) lines.take(chunk as Buffer)
      }
      catch { /* It has ended, or is not there yet. */ }
      await new Promise(resolve => setTimeout(resolve, pause))
    }
  }

  private hear(word: TelephoneWord): void {
    if (word.sessions) return this.giveAgain(word.sessions)
    const { session } = word
    if (session === undefined || !this.given.has(session)) return
    if (word.over) this.given.delete(session)
    this.onWord(session, word)
  }

  /** A sound process that has begun anew knows no telephone: each is told again, and heard again at the port that it knows. */
  private giveAgain(known: readonly string[]): void {
    for (const [session, sound] of this.given) if (!known.includes(session)) void this.ask('/telephones', sound).catch(() => {})
  }
}
