import { onBeforeUnmount, watch } from 'vue'
import { toneOf } from '~~/core/sound/heard'
import { type Tone, toneSamples } from '~~/core/sound/tone'
import type { ToneKind } from '~~/core/sound/country-tones'
import { useLive } from '~/stores/live'
import { useSound } from './attention'

/** Far below what hurts an ear at a headset: tones are loud for their size. */
const level = 0.12
const rate = 8_000

/** Sounds a tone, again and again, for as long as it is there and whoever uses this is; only one at a time. */
export function useTone(tone: () => Tone | null) {
  const sound = useSound()
  let audio: AudioContext | null = null
  let source: AudioBufferSourceNode | null = null

  function silence(): void {
    source?.stop()
    source = null
  }

  function play(wanted: Tone | null): void {
    silence()
    if (!wanted || !sound.value) return
    audio ??= new AudioContext()
    // Browsers let a page sound only after a key or a click; then it goes on from there.
    if (audio.state !== 'running') void audio.resume()
    const samples = toneSamples(wanted, rate, level)
    const buffer = audio.createBuffer(1, samples.length, rate)
    buffer.copyToChannel(samples, 0)
    source = audio.createBufferSource()
    source.buffer = buffer
    source.loop = true
    source.connect(audio.destination)
    source.start()
  }

  watch([tone, sound], ([wanted]) => play(wanted), { immediate: true })
  onBeforeUnmount(() => {
    silence()
    void audio?.close()
  })
}

/** The tones of the house at the ear of a telephone: what its caller hears while nobody talks with them. */
export function useToneAt(kind: () => ToneKind | null): void {
  const live = useLive()
  const wanted = computed(kind)
  // The settings stay the same when something else of the company changes: a tone that sounds goes on.
  const settings = computed(() => live.company?.settings)
  const ofHouse = computed(() => wanted.value && settings.value ? toneOf(settings.value, wanted.value) : null)
  useTone(() => ofHouse.value)
}
