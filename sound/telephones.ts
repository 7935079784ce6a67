import type { DeviceId } from '../core/calls/model'
import type { TelephoneSound, TelephoneSoundAnswer, TelephoneWord } from '../shared/telephone-sound'
import type { Ports } from './browser'
import type { Mixer } from './mixer'
import { TelephoneEnd } from './telephone-end'

/** So many telephones with sound at once. */
const most = 1_000

interface One { device: DeviceId, end: TelephoneEnd, isHeard: boolean, hear: (frame: Int16Array) => void, next: () => Int16Array | null }

/** The telephones that hear and speak here over the network, each dialog of theirs by its own name. */
export class Telephones {
  private readonly all = new Map<string, One>()
  private readonly listeners = new Set<(word: TelephoneWord) => void>()

  /** @param ports of UDP for them, from and to; null: any */
  constructor(private readonly mixer: Mixer, private readonly ports: Ports | null = null) {}

  get sessions(): string[] {
    return [...this.all.keys()]
  }

  /** Hears the digits that are pressed, and whose sound has ended by itself. */
  onWord(listener: (word: TelephoneWord) => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /**
   * Opens the sound of a dialog, or changes it. Without an offer or an answer of theirs it is we who offer.
   * @throws NotAcceptable when no port is free, or there is nothing in their description that we can do
   */
  async describe({ session, device, address, peer, port, offer, answer, secret, alone }: TelephoneSound): Promise<TelephoneSoundAnswer> {
    if (alone && this.mixer.hasMouth(device)) return { port: 0, sdp: null }
    if (!this.all.has(session) && this.all.size >= most) throw new Error('As many telephones have sound as can have any.')
    const one = this.all.get(session) ?? await this.open(session, device, { address, peer, secret }, port)
    const { end } = one
    if (offer ?? answer) {
      end.accept((offer ?? answer)!)
      this.letBeHeard(one)
      return { port: end.port, sdp: offer ? end.answer() : null }
    }
    return { port: end.port, sdp: end.offer() }
  }

  end(sessions: readonly string[]): void {
    for (const session of sessions) this.all.get(session)?.end.close()
  }

  close(): void {
    this.end(this.sessions)
  }

  private async open(session: string, device: DeviceId, where: { address: string, peer: string, secret?: boolean }, port: number | undefined): Promise<One> {
    const end = await TelephoneEnd.open(where, port ?? this.ports, {
      digit: digit => this.say({ session, digit }),
      over: () => {
        this.all.delete(session)
        this.mixer.leave(one)
        this.mixer.close(one)
        this.say({ session, over: true })
      },
    })
    const one: One = { device, end, isHeard: false, hear: frame => end.hear(frame), next: () => end.next() }
    this.all.set(session, one)
    this.mixer.join(one)
    return one
  }

  /** Of several dialogs of one telephone the one that goes on last is its voice; whoever is on hold says nothing. */
  private letBeHeard(one: One): void {
    if (one.isHeard === one.end.isOpen) return
    one.isHeard = one.end.isOpen
    if (one.isHeard) this.mixer.open(one)
    else this.mixer.close(one)
  }

  private say(word: TelephoneWord): void {
    for (const listener of this.listeners) listener(word)
  }
}
