import { mulaw } from 'alawmulaw'
import type { SoundAtPlace } from '../shared/own-sounds'
import { withBeep } from './repertoire'

interface OwnSound { version: string, samples: Int16Array, withBeep: Int16Array }

/** The sounds that somebody has brought, as the server has given them to this process. */
export class OwnSounds {
  private readonly there = new Map<string, OwnSound>()

  at(place: string): OwnSound | undefined {
    return this.there.get(place)
  }

  /** Whatever is not among these any more is let go. @returns what is wanted: those that are not here, or not in this version */
  among(kept: readonly SoundAtPlace[]): SoundAtPlace[] {
    const places = new Set(kept.map(({ place }) => place))
    for (const place of this.there.keys()) if (!places.has(place)) this.there.delete(place)
    return kept.filter(({ place, version }) => this.there.get(place)?.version !== version)
  }

  /** @param sound G.711 (µ-law) */
  take(place: string, version: string, sound: Uint8Array): void {
    const samples = mulaw.decode(sound)
    this.there.set(place, { version, samples, withBeep: withBeep(samples) })
  }
}
