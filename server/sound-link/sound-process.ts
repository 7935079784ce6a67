import { type SoundAtPlace, soundsAtPlaces } from '~~/shared/own-sounds'
import { type SoundAnswer, soundAnswer, type SoundHealth, soundHealth, type SoundPiece, soundPieces } from '~~/shared/sound'
import { t } from '../language'

/** Milliseconds. Whoever takes a call wants to hear soon, or to know that they won't. */
const patience = 3_000

/** The port to whatever makes the sound of calls: a media server of the house may stand in the place of our own process. */
export interface SoundPort {
  /**
   * Lets a browser in at a telephone; its rights have been looked at.
   * @throws SoundAway when nobody answers; SoundRefused with a sentence
   */
  join(offer: { device: string, session: string, sdp: string }): Promise<SoundAnswer>
  /** Whoever is behind these sessions hears and says nothing any more. */
  end(sessions: readonly string[]): Promise<void>
  /** Null when nobody answers. */
  health(): Promise<SoundHealth | null>
  /** What was said to mailboxes and is not kept yet, the oldest first; empty when nobody answers. */
  pieces(): Promise<SoundPiece[]>
  /** Pieces, by their places, that are kept now. */
  kept(places: readonly number[]): Promise<void>
  /** Says which sounds there are. Gives back those that it wants, by place and version; null when nobody answers. */
  wants(sounds: readonly SoundAtPlace[]): Promise<SoundAtPlace[] | null>
  /** @param sound G.711 (µ-law) */
  give(sound: SoundAtPlace & { sound: Buffer }): Promise<void>
}

export class SoundAway extends Error {
  constructor() {
    super(t('answers.noSoundAtTheMoment'))
  }
}

export class SoundRefused extends Error {}

/** A house without sound: what is said is read. */
export const noSound: SoundPort = {
  join: () => Promise.reject(new SoundRefused(t('answers.houseWithoutSound'))),
  end: () => Promise.resolve(),
  health: () => Promise.resolve(null),
  pieces: () => Promise.resolve([]),
  kept: () => Promise.resolve(),
  wants: () => Promise.resolve(null),
  give: () => Promise.resolve(),
}

/** Our own sound process, on this machine. */
export class SoundProcess implements SoundPort {
  constructor(private readonly port: number, private readonly token: string) {}

  async join(offer: { device: string, session: string, sdp: string }): Promise<SoundAnswer> {
    return soundAnswer.validateSync(await this.ask('/ears', offer), { stripUnknown: true })
  }

  async end(sessions: readonly string[]): Promise<void> {
    // A process that does not answer has nobody any more, or reads this once it goes on.
    await this.ask('/over', { sessions }).catch(() => {})
  }

  async health(): Promise<SoundHealth | null> {
    return await this.ask('/health').then(answer => soundHealth.validateSync(answer), () => null)
  }

  async pieces(): Promise<SoundPiece[]> {
    return await this.ask('/pieces').then(answer => soundPieces.validateSync(answer).pieces, () => [])
  }

  async kept(places: readonly number[]): Promise<void> {
    await this.ask('/pieces/kept', { places })
  }

  async wants(sounds: readonly SoundAtPlace[]): Promise<SoundAtPlace[] | null> {
    return await this.ask('/sounds', { sounds }).then(answer => soundsAtPlaces.validateSync(answer).sounds, () => null)
  }

  async give({ place, version, sound }: SoundAtPlace & { sound: Buffer }): Promise<void> {
    await this.ask('/sounds/given', { place, version, sound: sound.toString('base64') })
  }

  private async ask(path: string, body?: object): Promise<unknown> {
    let answer: Response
    try {
      answer = await fetch(`http://127.0.0.1:${this.port}${path}`, {
        method: body ? 'POST' : 'GET',
        headers: { 'authorization': `Bearer ${this.token}`, 'content-type': 'application/json' },
        ...body && { body: JSON.stringify(body) },
        signal: AbortSignal.timeout(patience),
      })
    }
    catch {
      throw new SoundAway()
    }
    const said = await answer.json().catch(() => ({})) as { message?: string }
    if (!answer.ok) throw new SoundRefused(said.message ?? 'The sound process refused it.')
    return said
  }
}
