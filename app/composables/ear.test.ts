import { FetchError } from 'ofetch'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, ref } from 'vue'
import { useEar } from './ear'

const kept = vi.hoisted(() => ({ devices: { value: { microphone: '', headset: '', ringing: '' } }, inputs: [] as { deviceId: string }[] }))
vi.mock('@vueuse/core', async importOriginal => ({
  ...await importOriginal<object>(),
  useLocalStorage: () => kept.devices,
  useDevicesList: () => ({ audioInputs: ref(kept.inputs), audioOutputs: ref([]) }),
  useEventListener: () => {},
}))

/** A microphone as a browser gives it. */
const track = () => {
  const made = {
    enabled: true, readyState: 'live', stop: () => void (made.readyState = 'ended'), getSettings: () => ({ deviceId: 'desk' }), addEventListener: () => {},
  }
  return made
}
let opened: ReturnType<typeof track>[] = []
let wanted: unknown[] = []
let refuses: string | null = null

let packets = 0
let loud = 0
let peers: Peer[] = []
class Peer {
  iceGatheringState = 'complete'
  localDescription = { sdp: 'v=0 offer' }
  closed = false
  sent: unknown
  constructor() {
    peers.push(this)
  }

  addTransceiver(sent: unknown) {
    this.sent = sent
  }

  async createOffer() {}
  async setLocalDescription() {}
  async setRemoteDescription() {}
  getSenders() {
    return []
  }

  async getStats() {
    return new Map([['a', { type: 'inbound-rtp', packetsReceived: packets }], ['b', { type: 'media-source', audioLevel: loud }]])
  }

  close() {
    this.closed = true
  }
}

let asked: object[] = []
let answers: (() => unknown)[] = []
const refused = (status: number, message: string) => () => {
  throw Object.assign(new FetchError('no'), { statusCode: status, data: { message } })
}

beforeEach(() => {
  vi.useFakeTimers()
  ;[opened, wanted, peers, asked, answers, packets, loud, refuses] = [[], [], [], [], [], 0, 0, null]
  kept.devices.value = { microphone: '', headset: '', ringing: '' }
  kept.inputs.length = 0
  vi.stubGlobal('Audio', class {
    autoplay = false
    srcObject = null
    paused = true
    async play() {}
  })
  vi.stubGlobal('RTCPeerConnection', Peer)
  vi.stubGlobal('sentenceOf', (error: { data: { message: string } }) => error.data.message)
  vi.stubGlobal('navigator', { mediaDevices: {
    getUserMedia: async (asks: unknown) => {
      if (refuses) throw Object.assign(new Error(refuses), { name: refuses })
      wanted.push(asks)
      opened.push(track())
      const [own] = opened.slice(-1)
      return { getAudioTracks: () => [own], getTracks: () => [own] }
    },
  } })
  vi.stubGlobal('$fetch', async (address: string, { body }: { body: object }) => {
    asked.push({ address, ...body })
    return (answers.shift() ?? (() => ({ sdp: 'v=0 answer' })))()
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

function listening(speaks: (() => boolean) | null = () => false) {
  const isOn = ref(true)
  const scope = effectScope()
  const ear = scope.run(() => useEar(() => 't2100', () => isOn.value, speaks))!
  return { ear, isOn, scope }
}
/** So many milliseconds in which frames come, or none. */
async function pass(milliseconds: number, comes: boolean): Promise<void> {
  for (let passed = 0; passed < milliseconds; passed += 50) {
    if (comes) packets += 2
    await vi.advanceTimersByTimeAsync(50)
  }
}

describe('the ear of a telephone in a browser', () => {
  it('is offered once it is wanted, is on when frames come, and off with everything it had opened when it is not', async () => {
    const { ear, isOn } = listening()
    await pass(200, false)
    expect([ear.state.value, asked]).toEqual(['connecting', [{ address: '/api/sound', device: 't2100', sdp: 'v=0 offer' }]])
    await pass(300, true)
    expect(ear.state.value).toBe('on')
    isOn.value = false
    await pass(100, false)
    expect([ear.state.value, peers[0]!.closed, opened[0]!.readyState]).toEqual(['off', true, 'ended'])
    await pass(5_000, false)
    expect(asked).toHaveLength(1)
  })

  it('is lost after a second without a frame, and asked for again until frames come, less and less often', async () => {
    const { ear, scope } = listening()
    await pass(500, true)
    answers = Array.from({ length: 4 }, () => refused(503, 'away'))
    await pass(1_500, false)
    expect([ear.state.value, peers[0]!.closed, ear.refusal.value]).toEqual(['lost', true, null])
    await pass(1_500, false)
    expect(asked).toHaveLength(1 + 4)
    expect(ear.state.value).toBe('lost')
    await pass(4_000, true)
    expect([ear.state.value, asked.length]).toEqual(['on', 6])
    expect(opened, 'the microphone stays open meanwhile').toHaveLength(1)
    scope.stop()
  })

  it('what is refused for good is said, and not asked again until somebody wants it', async () => {
    answers = [refused(409, 'This house runs without sound.')]
    const { ear, scope } = listening()
    await pass(20_000, false)
    expect([ear.state.value, ear.refusal.value, asked.length]).toEqual(['off', 'This house runs without sound.', 1])
    void ear.tryAgain()
    await pass(500, true)
    expect([ear.state.value, ear.refusal.value, asked.length]).toEqual(['on', null, 2])
    scope.stop()
  })

  it('the microphone is open only while what is said is meant for somebody', async () => {
    const speaks = ref(false)
    const { ear, scope } = listening(() => speaks.value)
    await pass(500, true)
    expect(opened[0]!.enabled).toBe(false)
    speaks.value = true
    loud = 0.2
    await pass(300, true)
    expect([opened[0]!.enabled, ear.talks.value]).toEqual([true, true])
    speaks.value = false
    loud = 0
    await pass(300, true)
    expect([opened[0]!.enabled, ear.talks.value]).toEqual([false, false])
    scope.stop()
  })

  it('without a microphone one hears, and is told why; whoever only listens is not asked for one', async () => {
    refuses = 'NotAllowedError'
    const denied = listening()
    await pass(500, true)
    expect([denied.ear.state.value, peers[0]!.sent]).toEqual(['on', 'audio'])
    expect(denied.ear.microphoneProblem.value).toContain('was not allowed to use the microphone')
    denied.scope.stop()
    refuses = 'NotFoundError'
    const none = listening()
    await pass(500, true)
    expect(none.ear.microphoneProblem.value).toContain('No microphone was found')
    none.scope.stop()
    const loudspeaker = listening(null)
    await pass(500, true)
    expect([loudspeaker.ear.state.value, loudspeaker.ear.microphoneProblem.value, wanted]).toEqual(['on', null, []])
    loudspeaker.scope.stop()
  })

  it('speaks into the microphone that was chosen, or the usual one while that is not there', async () => {
    kept.devices.value = { microphone: 'headset', headset: '', ringing: '' }
    const without = listening()
    await pass(300, true)
    without.scope.stop()
    kept.inputs.push({ deviceId: 'headset' })
    const withIt = listening()
    await pass(300, true)
    withIt.scope.stop()
    expect(wanted).toEqual([{ audio: true }, { audio: { deviceId: { exact: 'headset' } } }])
  })
})
