import { useLocalStorage } from '@vueuse/core'

/** What of this machine one speaks into, hears by, and is rung by: as the browser names them; empty: the usual one. */
export interface SoundDevices { microphone: string, headset: string, ringing: string }

/** Chosen once for this browser, and found again when it is plugged in again. */
export const useSoundDevices = () => useLocalStorage<SoundDevices>('estafette-sound-devices', { microphone: '', headset: '', ringing: '' })

/** Has something sound at a device of this machine; one that isn't there any more is left for the usual one. */
export async function soundAt(player: HTMLMediaElement | AudioContext, device: string): Promise<void> {
  // Not every browser can choose, and no types say it of what is computed.
  const { setSinkId } = player as { setSinkId?: (id: string) => Promise<void> }
  await setSinkId?.call(player, device).catch(() => setSinkId.call(player, ''))
}
