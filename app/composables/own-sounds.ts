import { asPcm, sampleRate } from '~~/core/sound/frames'
import { longestSound } from '~~/core/sound/own-sounds'
import type { SoundKept } from '~~/shared/own-sounds'

/** Megabytes. A file of minutes in the finest quality has less. */
const largestFile = 60

/** The own sounds that whoever is signed in may keep, by their place. */
export function useOwnSounds() {
  const sounds = shallowRef<ReadonlyMap<string, SoundKept>>(new Map())
  const failure = ref<string | null>(null)
  async function load(): Promise<void> {
    try {
      const { sounds: kept } = await $fetch<{ sounds: SoundKept[] }>('/api/own-sounds')
      sounds.value = new Map(kept.map(sound => [sound.place, sound]))
      failure.value = null
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }
  onMounted(load)
  return { sounds, failure, load }
}

/** Any sound that this browser can play, as the server takes it for a place. */
export const asTelephoneSound = (file: Blob, place: string, mayCut: boolean) => asWav(file, sampleRate, longestSound(place), mayCut)

/**
 * Any sound that this browser can play, as a WAV file of one channel and 16 bits.
 * @param rate in hertz
 * @param most seconds
 * @param mayCut what is longer loses its end, and is not refused
 * @returns as base64
 * @throws NotTaken when it can't be played, has nothing in it, or is too long
 */
export async function asWav(file: Blob, rate: number, most: number, mayCut: boolean): Promise<string> {
  if (file.size > largestFile * 1_000_000) throw new NotTaken(t('ownSounds.fileIsTooLarge', { n: largestFile }))
  const context = new OfflineAudioContext(1, 1, rate)
  const buffer = await context.decodeAudioData(await file.arrayBuffer()).catch(() => {
    throw new NotTaken(t('ownSounds.fileIsNoSound'))
  })
  if (buffer.length === 0) throw new NotTaken(t('ownSounds.tooShort'))
  if (buffer.duration > most && !mayCut) throw new NotTaken(t('ownSounds.tooLong', { seconds: most }))
  const channels = Array.from({ length: buffer.numberOfChannels }, (_, channel) => buffer.getChannelData(channel))
  const length = Math.min(buffer.length, most * rate)
  const samples = Float32Array.from({ length }, (_, at) => channels.reduce((sum, channel) => sum + channel[at]!, 0) / channels.length)
  const { WaveFile } = await import('wavefile')
  const wav = new WaveFile()
  wav.fromScratch(1, rate, '16', asPcm(samples))
  return wav.toBase64()
}
