import { useDevicesList, useEventListener, useIntervalFn, useTimeoutFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import type { DeviceId } from '~~/core/calls/model'
import type { SoundAnswer } from '~~/shared/sound'
import { statusOf } from './failure'
import { soundAt, useSoundDevices } from './sound-devices'
import { t } from '~/composables/language'

/** `waits`: another window of this browser has the sound. `lost`: it was there, and is tried again. */
export type EarState = 'off' | 'waits' | 'connecting' | 'on' | 'lost'

/** What somebody's voice is at least, from 0 to 1; below it there is silence. */
const quietest = 0.01
/** Frames come all the time, silent ones too: after so long without any (milliseconds) nobody is at the other end. */
const longestSilence = 1_000
const lookEvery = 250
const shortestPause = 100
const longestPause = 2_000
/** Addresses of this machine are found at once; whatever takes longer is none. */
const longestGathering = 1_000

/**
 * Ear and mouth of a telephone in this browser, for as long as it is wanted: by WebRTC, through the server, to whatever makes the sound of calls. It comes
 * back by itself, whoever of them was away.
 * @param speaks whether what is said here may be meant for anybody: until then the microphone gives nothing away; null: only to hear, without one
 * @param only one window of this browser may have it under this name; the others wait
 */
export function useEar(device: () => DeviceId | null, isWanted: () => boolean, speaks: (() => boolean) | null, only?: string) {
  const devices = useSoundDevices()
  const { audioInputs, audioOutputs } = useDevicesList()
  const state = ref<EarState>('off')
  /** Why nobody is heard, or hears, for good: in a sentence. */
  const refusal = ref<string | null>(null)
  const microphone = shallowRef<MediaStream | null>(null)
  const microphoneProblem = ref<string | null>(null)
  /** Something is being said here just now. */
  const talks = ref(false)
  const remote = shallowRef<MediaStream | null>(null)
  const player = new Audio()
  player.autoplay = true
  let peer: RTCPeerConnection | null = null
  let serial = 0
  let pause = shortestPause
  let heard = { packets: 0, at: 0 }
  let release: (() => void) | null = null

  const wanted = computed(() => isWanted() ? device() : null)
  const { start: tryLater, stop: tryNoMore } = useTimeoutFn(() => void connect(), () => pause, { immediate: false })

  async function connect(): Promise<void> {
    const at = wanted.value
    if (at === null) return
    hangUp()
    const mine = ++serial
    if (state.value !== 'lost') state.value = 'connecting'
    try {
      await openMicrophone()
      const next = new RTCPeerConnection()
      if (mine !== serial) return next.close()
      peer = next
      next.addTransceiver(microphone.value?.getAudioTracks()[0] ?? 'audio', { direction: 'sendrecv' })
      next.ontrack = ({ track }) => {
        remote.value = new MediaStream([track])
        player.srcObject = remote.value
        void play()
      }
      await next.setLocalDescription(await next.createOffer())
      await gathered(next)
      const { sdp } = await $fetch<SoundAnswer>('/api/sound', { method: 'POST', body: { device: at, sdp: next.localDescription!.sdp } })
      if (mine !== serial) return
      await next.setRemoteDescription({ type: 'answer', sdp })
      heard = { packets: 0, at: performance.now() }
      watchPackets.resume()
    }
    catch (error) {
      if (mine !== serial) return
      const status = statusOf(error)
      if (status === 403 || status === 409) {
        refusal.value = sentenceOf(error)
        hangUp()
        state.value = 'off'
      }
      else lose()
    }
  }

  function lose(): void {
    hangUp()
    state.value = 'lost'
    tryLater()
    pause = Math.min(longestPause, pause * 2)
  }

  function hangUp(): void {
    serial++
    watchPackets.pause()
    tryNoMore()
    peer?.close()
    peer = null
    remote.value = null
  }

  /** Whether anything still comes: a browser alone takes many seconds to notice that nothing does. */
  const watchPackets = useIntervalFn(async () => {
    const looked = peer
    const stats = await looked?.getStats()
    if (!stats || looked !== peer) return
    talks.value = [...stats.values()].some(({ type, audioLevel }) => type === 'media-source' && audioLevel > quietest)
    const packets = [...stats.values()].find(({ type }) => type === 'inbound-rtp')?.packetsReceived as number | undefined ?? 0
    if (packets > heard.packets) {
      heard = { packets, at: performance.now() }
      state.value = 'on'
      refusal.value = null
      pause = shortestPause
    }
    else if (performance.now() - heard.at > longestSilence) lose()
  }, lookEvery, { immediate: false })

  /** Opens the microphone that was chosen, or else the usual one; without any one still hears. */
  async function openMicrophone(): Promise<void> {
    if (!speaks) return
    const chosen = devices.value.microphone
    const open = microphone.value?.getAudioTracks()[0]
    if (open?.readyState === 'live' && (!chosen || open.getSettings().deviceId === chosen || !isThere(chosen))) return
    closeMicrophone()
    if (!navigator.mediaDevices) {
      microphoneProblem.value = t('sound.aBrowserOpensItsMicrophone')
      return
    }
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: chosen && isThere(chosen) ? { deviceId: { exact: chosen } } : true })
      microphone.value = stream
      microphoneProblem.value = null
      const [track] = stream.getAudioTracks()
      track!.enabled = speaks()
      track!.addEventListener('ended', () => void changeMicrophone())
    }
    catch (error) {
      microphoneProblem.value = (error as Error).name === 'NotAllowedError'
        ? t('sound.thisBrowserWasNotAllowed')
        : t('sound.noMicrophoneWasFoundPlug')
    }
  }

  const isThere = (id: string) => audioInputs.value.some(({ deviceId }) => deviceId === id)

  /** Another microphone in the middle of a call: the connection stays. */
  async function changeMicrophone(): Promise<void> {
    if (!peer) return
    await openMicrophone()
    await peer?.getSenders()[0]?.replaceTrack(microphone.value?.getAudioTracks()[0] ?? null)
  }

  function closeMicrophone(): void {
    for (const track of microphone.value?.getTracks() ?? []) track.stop()
    microphone.value = null
  }

  /** A page may sound only after a key or a click: the next one will do. */
  async function play(): Promise<void> {
    await soundAt(player, devices.value.headset)
    await player.play().catch(() => {})
  }
  useEventListener(['keydown', 'pointerdown'], () => player.srcObject && player.paused && void play())

  watch(() => speaks?.(), (isOpen) => {
    for (const track of microphone.value?.getAudioTracks() ?? []) track.enabled = isOpen === true
  })
  watch([() => devices.value.microphone, audioInputs], () => void changeMicrophone())
  watch([() => devices.value.headset, audioOutputs], () => void soundAt(player, devices.value.headset))

  function stop(): void {
    hangUp()
    closeMicrophone()
    player.srcObject = null
    release?.()
    release = null
    state.value = 'off'
  }

  async function begin(): Promise<void> {
    refusal.value = null
    pause = shortestPause
    if (!only || release || !navigator.locks) return connect()
    state.value = 'waits'
    const waiting = new AbortController()
    release = () => waiting.abort()
    await navigator.locks.request(only, { signal: waiting.signal }, () => new Promise<void>((resolve) => {
      release = resolve
      void connect()
    })).catch(() => {})
  }

  watch(wanted, (now, before) => {
    if (before) stop()
    if (now) void begin()
  }, { immediate: true })
  onScopeDispose(stop)

  return { state, refusal, microphone, microphoneProblem, talks, remote, tryAgain: begin }
}

export type Ear = ReturnType<typeof useEar>

/** Resolves when every address is in the offer. */
function gathered(peer: RTCPeerConnection): Promise<void> {
  if (peer.iceGatheringState === 'complete') return Promise.resolve()
  return new Promise((resolve) => {
    const late = setTimeout(resolve, longestGathering)
    peer.addEventListener('icegatheringstatechange', () => {
      if (peer.iceGatheringState !== 'complete') return
      clearTimeout(late)
      resolve()
    })
  })
}
