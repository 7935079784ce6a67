import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { merrowby } from '~~/demo/company/merrowby'
import { useDesk } from '~/stores/desk'
import { beginAtADesk, inHand, others, tried } from '~~/tests/desk'
import { useLive } from '~/stores/live'
import { useAttention } from './attention'

/** What a caller who waits does to ears and to a window that is not in front. */
const seen = vi.hoisted(() => ({ visibility: { value: 'visible' }, granted: { value: true }, shown: [] as { title: string, body: string }[], asked: 0 }))
vi.mock('@vueuse/core', async importOriginal => ({
  ...await importOriginal<object>(),
  useIntervalFn: (what: () => void, every: number) => setInterval(what, every),
  useDocumentVisibility: () => seen.visibility,
  useLocalStorage: (_key: string, value: unknown) => ref(value),
  useWebNotification: () => ({
    permissionGranted: seen.granted,
    show: async (notice: { title: string, body: string }) => void seen.shown.push(notice),
    ensurePermissions: async () => void seen.asked++,
    onClick: () => {},
  }),
}))

/** Each tone that was played: its frequency. */
let tones: number[] = []
class Sounds {
  state = 'running'
  currentTime = 0
  destination = {}
  resume() {}
  createOscillator() {
    const tone = { frequency: { value: 0 }, connect: (to: object) => to, start: () => void tones.push(tone.frequency.value), stop: () => {} }
    return tone
  }

  createGain() {
    return { gain: { setValueAtTime: () => {}, exponentialRampToValueAtTime: () => {} }, connect: () => {} }
  }
}

beginAtADesk(() => merrowby(40))
beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('AudioContext', Sounds)
  tones = []
  Object.assign(seen, { shown: [], asked: 0 })
  seen.visibility.value = 'visible'
  seen.granted.value = true
})
afterEach(() => void vi.useRealTimers())

/** So many seconds go by at the desk. */
function pass(seconds: number): void {
  for (let second = 0; second < seconds; second++) {
    useDesk().now += 1_000
    vi.advanceTimersByTime(1_000)
  }
}

function rings(): string {
  const call = tried.exchange.offer()
  useLive().state = tried.exchange.state
  useDesk().now = tried.exchange.now
  return call
}

describe('who rings', () => {
  it('is heard every four seconds, until they are hushed', () => {
    useAttention()
    const call = rings()
    pass(1)
    expect(tones).toEqual([880, 1175])
    pass(3)
    expect(tones).toHaveLength(2)
    pass(1)
    expect(tones).toHaveLength(4)
    useDesk().hush(call)
    pass(8)
    expect(tones).toHaveLength(4)
  })

  it('is not heard while one talks, nor with the sound off', () => {
    const attention = useAttention()
    inHand()
    rings()
    pass(5)
    expect(tones).toEqual([])
    others({ service: 'clearConnection', device: 't2100', call: useDesk().talking!.id })
    attention.toggle()
    pass(5)
    expect(tones).toEqual([])
    attention.toggle()
    expect(seen.asked).toBe(1)
    pass(4)
    expect(tones).toEqual([880, 1175])
  })

  it('is told once by a notification, when the window is not in front and it may be', () => {
    useAttention()
    rings()
    pass(3)
    expect(seen.shown).toEqual([])
    seen.visibility.value = 'hidden'
    seen.granted.value = false
    pass(3)
    expect(seen.shown).toEqual([])
    seen.granted.value = true
    pass(5)
    expect(seen.shown).toMatchObject([{ title: 'A call is arriving' }])
  })
})

describe('who is on hold', () => {
  it('asks for attention when the promise is well over, first by sound, then by a notification, once', () => {
    const call = inHand()
    others({ service: 'holdCall', device: 't2100', call: call.id })
    useDesk().now = tried.exchange.now
    useAttention()
    const { promise } = useDesk().held[0]!.due
    seen.visibility.value = 'hidden'
    const until = (part: number) => {
      useDesk().now = tried.exchange.now + promise! * part
      vi.advanceTimersByTime(1_000)
    }
    until(1.25)
    expect(tones).toEqual([])
    until(1.26)
    expect(tones).toEqual([440, 330])
    pass(11)
    expect(tones).toHaveLength(2)
    pass(1)
    expect(tones).toHaveLength(4)
    expect(seen.shown).toEqual([])
    until(1.76)
    until(1.9)
    expect(seen.shown).toMatchObject([{ body: 'Take the call back or pass it on.' }])
  })
})
