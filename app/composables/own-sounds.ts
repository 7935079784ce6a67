import { asPcm, sampleRate } from '~~/core/sound/frames'
import { longestSound } from '~~/core/sound/own-sounds'
import type { SoundKept } from '~~/shared/own-sounds'

/** Megabytes. A file of minutes in the finest quality has less. */
const largestFile = 60

/** The own sounds that whoever is signed in may keep, by their place. */
export function useOwnSounds() {
  const sounds = shallowRef<ReadonlyMap<string, SoundKept>>(new Map())
  const failure = ref<string | null>(null)
  const load = askingAgain(async () => {
    const { sounds: kept } = await $fetch<{ sounds: SoundKept[] }>('/api/own-sounds')
    sounds.value = new Map(kept.map(sound => [sound.place, sound]))
  }, failure)
  onMounted(load)
  return { sounds, failure, load }
}

/** Shows why something could not be fetched. */
function askingAgain(fetchIt: () => Promise<void>, failure: Ref<string | null>): () => Promise<void> {
  return async () => {
    try {
      await fetchIt()
      failure.value = null
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }
}

/**
 * Any sound that this browser can play, as the server takes it for a place: a WAV file of one channel, 16 bits, 8 kHz.
 * @returns as base64
 * @throws NotTaken when it can't be played, has nothing in it, or is too long
 */
export async function asTelephoneSound(file: Blob, place: string): Promise<string> {
  if (file.size > largestFile * 1_000_000) throw new NotTaken(t('ownSounds.fileIsTooLarge', { n: largestFile }))
  const context = new OfflineAudioContext(1, 1, sampleRate)
  const buffer = await context.decodeAudioData(await file.arrayBuffer()).catch(() => {
    throw new NotTaken(t('ownSounds.fileIsNoSound'))
  })
  if (buffer.length === 0) throw new NotTaken(t('ownSounds.tooShort'))
  const most = longestSound(place)
  if (buffer.duration > most) throw new NotTaken(t('ownSounds.tooLong', { seconds: most }))
  const channels = Array.from({ length: buffer.numberOfChannels }, (_, channel) => buffer.getChannelData(channel))
  const samples = Float32Array.from({ length: buffer.length }, (_, at) => channels.reduce((sum, channel) => sum + channel[at]!, 0) / channels.length)
  const { WaveFile } = await import('wavefile')
  const wav = new WaveFile()
  wav.fromScratch(1, sampleRate, '16', asPcm(samples))
  return wav.toBase64()
}
