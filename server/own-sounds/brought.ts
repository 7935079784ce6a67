import alawmulaw from 'alawmulaw'
import wavefile from 'wavefile'
import type { Company } from '~~/core/company/company'
import { sampleRate } from '~~/core/sound/frames'
import { longestSound, placeOfSound } from '~~/core/sound/own-sounds'
import type { SignedIn } from '~~/shared/people'
import { t } from '../language'
import { wrongInput } from '../validation/read'

/** Whose greeting it is keeps it; everything else belongs to the house. */
export function mayKeepSound(person: Pick<SignedIn, 'device' | 'rights'>, company: Company, place: string): boolean {
  const of = placeOfSound(company, place)
  if (of?.is === 'greeting' && of.owner === person.device) return true
  return of !== null && person.rights.includes('runCompany') && !(of.is === 'greeting' && company.telephones[of.owner])
}

/**
 * A WAV file as telephones carry it (G.711, µ-law).
 * @param wav as base64
 * @throws 422 when it is none, of another kind, empty or too long for its place
 */
export function readSound(wav: string, place: string): Uint8Array {
  return alawmulaw.mulaw.encode(readWav(wav, sampleRate, longestSound(place)))
}

/**
 * The samples of a WAV file of one channel and 16 bits.
 * @param wav as base64
 * @param rate in hertz; @param most seconds
 * @throws 422 when it is none, of another kind, empty or too long
 */
export function readWav(wav: string, rate: number, most: number): Int16Array {
  const samples = samplesOf(Buffer.from(wav, 'base64'), rate)
  if (!samples) throw wrongInput('wav', t('ownSounds.noWavOfThatKind', { kHz: rate / 1_000 }))
  if (samples.length === 0) throw wrongInput('wav', t('ownSounds.nothingIsInIt'))
  if (samples.length > most * rate) throw wrongInput('wav', t('ownSounds.longerThan', { seconds: most }))
  return samples
}

/** What its types leave open. */
interface Wave { bitDepth: string, fmt: { numChannels: number, sampleRate: number }, data: { samples: Uint8Array } }

/** Null when it is no WAV file of one channel and 16 bits at that rate. */
function samplesOf(file: Uint8Array, rate: number): Int16Array | null {
  try {
    const { bitDepth, fmt, data } = new wavefile.WaveFile(file) as unknown as Wave
    if (bitDepth !== '16' || fmt.numChannels !== 1 || fmt.sampleRate !== rate) return null
    const { samples } = data
    return new Int16Array(samples.buffer.slice(samples.byteOffset, samples.byteOffset + samples.length - samples.length % 2))
  }
  catch {
    return null
  }
}
