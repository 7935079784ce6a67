import { useDocumentVisibility, useIntervalFn, useLocalStorage, useWebNotification } from '@vueuse/core'
import { urgency } from '~~/core/queues/promises'
import { t } from '~/composables/language'
import { useDesk } from '~/stores/desk'
import { soundAt, useSoundDevices } from './sound-devices'

/** Past its promise a waiting caller asks for attention: by looks at once, by sound and then by a notification as it gets longer. */
const soundsFrom = 1.25
const notifiesFrom = 1.75
const soundEvery = 12_000
const ringEvery = 4_000

/** Whether this browser sounds at all. */
export const useSound = () => useLocalStorage('estafette-sound', true)

/** Sounds and notifications of the console; the sound can be turned off and stays so in this browser. */
export function useAttention() {
  const desk = useDesk()
  const sound = useSound()
  const devices = useSoundDevices()
  const visibility = useDocumentVisibility()
  const notification = useWebNotification({ requestPermissions: false })
  const sounded = new Map<string, number>()
  const notified = new Set<string>()
  let audio: AudioContext | null = null

  /** Two short tones; higher for who rings, lower for who has waited too long. */
  function play(frequencies: number[], loudness: number): void {
    if (!sound.value) return
    audio ??= new AudioContext()
    // Browsers let a page sound only after a key or a click; until then there is silence.
    if (audio.state !== 'running') return void audio.resume()
    void soundAt(audio, devices.value.ringing)
    const begin = audio.currentTime
    frequencies.forEach((frequency, index) => {
      const tone = audio!.createOscillator()
      const gain = audio!.createGain()
      tone.frequency.value = frequency
      gain.gain.setValueAtTime(loudness, begin + index * 0.16)
      gain.gain.exponentialRampToValueAtTime(0.001, begin + index * 0.16 + 0.15)
      tone.connect(gain).connect(audio!.destination)
      tone.start(begin + index * 0.16)
      tone.stop(begin + index * 0.16 + 0.16)
    })
  }

  function isDue(id: string, every: number): boolean {
    if (desk.now - (sounded.get(id) ?? -Infinity) < every) return false
    sounded.set(id, desk.now)
    return true
  }

  function notify(id: string, title: string, body: string): void {
    if (visibility.value === 'visible' || notified.has(id) || !notification.permissionGranted.value) return
    notified.add(id)
    void notification.show({ title, body, tag: id })
  }

  function check(): void {
    for (const { call } of desk.arriving) {
      const name = desk.otherName(call)
      if (!desk.quiet.has(call.id) && !desk.talking && isDue(call.id, ringEvery)) play([880, 1175], 0.06)
      notify(`ring ${call.id}`, t('track.aCallIsArriving'), name)
    }
    for (const { call, due } of desk.held) {
      const used = urgency(due, desk.now)
      if (used > soundsFrom && isDue(`${call.id} ${due.since}`, soundEvery)) play([440, 330], Math.min(0.25, 0.05 * used))
      if (used > notifiesFrom) notify(`hold ${call.id} ${due.since}`, t('track.isStillOnHold', { name: desk.otherName(call) }), t('track.takeTheCallBackOr'))
    }
  }

  useIntervalFn(check, 1_000)
  notification.onClick(() => window.focus())

  /** Turns the sound on or off; turning it on is also the moment to ask whether notifications are welcome. */
  function toggle(): void {
    sound.value = !sound.value
    if (sound.value) void notification.ensurePermissions()
  }

  return { sound, toggle }
}
