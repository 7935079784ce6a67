import type { DeviceId } from '../core/calls/model'
import { BrowserEnd, type Ports } from './browser'
import type { Mixer } from './mixer'

/** So many browsers at once; more at one telephone than these: the oldest is let go. */
const most = 500
const mostAtOne = 4

export class TooMany extends Error {
  constructor() {
    super(`${most} browsers have sound already: close one, or hear without.`)
  }
}

export class NotUnderstood extends Error {}

/** The browsers that hear and speak here, by their telephones. */
export class Ears {
  private readonly all = new Set<{ device: DeviceId, session: string, end: BrowserEnd }>()

  /** @param ports of UDP for them, from and to; null: any */
  constructor(private readonly mixer: Mixer, private readonly ports: Ports | null = null) {}

  get count(): number {
    return this.all.size
  }

  /**
   * Lets a browser in.
   * @returns the answer to its offer
   * @throws TooMany; NotUnderstood when the offer can't be read
   */
  async join({ device, session, sdp }: { device: DeviceId, session: string, sdp: string }): Promise<string> {
    if (this.all.size >= most) throw new TooMany()
    const end = new BrowserEnd(this.ports, () => {
      this.all.delete(one)
      this.mixer.leave(ear)
      this.mixer.close(ear)
    })
    const one = { device, session, end }
    const ear = { device, hear: (frame: Int16Array) => end.hear(frame), next: () => end.next() }
    const others = [...this.all].filter(other => other.device === device)
    this.all.add(one)
    try {
      const answer = await end.answer(sdp)
      // Its session may have ended meanwhile.
      if (!this.all.has(one)) throw new Error('the browser has gone')
      if (others.length >= mostAtOne) others[0]!.end.close()
      this.mixer.join(ear)
      this.mixer.open(ear)
      return answer
    }
    catch (error) {
      end.close()
      throw new NotUnderstood(`The offer can't be answered: ${(error as Error).message}`)
    }
  }

  /** Whoever is behind these sessions hears and says nothing any more. */
  end(sessions: readonly string[]): void {
    for (const { session, end } of [...this.all]) if (sessions.includes(session)) end.close()
  }

  close(): void {
    for (const { end } of [...this.all]) end.close()
  }
}
