import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, reactive, ref, watch } from 'vue'
import type { Call, DeviceId, RefusalCode } from '~~/core/calls/model'
import { callsOf, connectionOf, reservedFor } from '~~/core/calls/questions'
import { heardBy } from '~~/core/sound/heard'
import type { WithoutDevice } from '~~/core/console/console'
import type { Message, Messages } from '~~/shared/messages'
import type { HandsetRequest, RequestDone } from '~~/shared/requests'
import { useLive } from '~/stores/live'
import { codeOf, sentenceOf } from './failure'

/** Asks what a telephone in a person's hand asks, and keeps what went wrong with the last asking. */
export function useHandsetRequests() {
  const failure = ref<string | null>(null)
  /** It has dialled, and no line to the outside is free. */
  const noLine = ref(false)

  async function send(request: HandsetRequest): Promise<RequestDone | null> {
    failure.value = null
    noLine.value = false
    try {
      return await $fetch<RequestDone>('/api/handset', { method: 'POST', body: { id: crypto.randomUUID(), ...request } })
    }
    catch (error) {
      failure.value = sentenceOf(error)
      noLine.value = codeOf(error) === ('trunksBusy' satisfies RefusalCode)
      return null
    }
  }

  return { failure, noLine, send }
}

/** The stand-in telephone of a colleague, in a person's hand as long as the component that uses it is there: nobody simulated answers it meanwhile. */
export function useHandset(device: DeviceId) {
  const live = useLive()
  const { failure, noLine, send } = useHandsetRequests()
  const messages = ref<Message[]>([])

  const calls = computed(() => live.state ? callsOf(live.state, device) : [])
  /** Whom it talks with; null while it is idle, or on hold with everybody. */
  const talking = computed(() => calls.value.find(call => connectionOf(call, device)?.state === 'connected') ?? null)
  const rings = computed(() => calls.value.some(call => connectionOf(call, device)?.state === 'alerting'))
  /** What it hears by itself: while it is rung for, and for a while when it can't be. */
  const tone = computed(() => live.state ? heardBy(live.state, device).tone ?? (noLine.value ? 'congestion' : null) : null)
  const { start } = useTimeoutFn(() => noLine.value = false, () => live.company?.settings.failedTone ?? 0, { immediate: false })
  watch(noLine, isTold => isTold && start())
  const reserved = computed(() => live.state ? reservedFor(live.state, device) : [])
  const outlived = computed(() => live.state?.outlived.filter(note => note.for === device) ?? [])
  const light = computed(() => messages.value.some(message => message.readAt === null))

  async function ask(request: WithoutDevice<HandsetRequest>): Promise<boolean> {
    return await send({ ...request, device } as HandsetRequest) !== null
  }

  function speak(call: Call, text: string): Promise<boolean> {
    return ask({ service: 'sendUserInformation', call: call.id, text })
  }

  /** Takes a reserved caller and joins them to the call that is going on. */
  async function joinReserved(call: Call): Promise<void> {
    const other = talking.value
    if (await ask({ service: 'directedPickupCall', call: call.id }) && other) await ask({ service: 'conferenceCall', call: call.id, other: other.id })
  }

  async function loadMessages(): Promise<void> {
    try {
      const { received } = await $fetch<Messages>('/api/messages', { query: { handset: device } })
      messages.value = received.filter(({ deletedAt }) => deletedAt === null)
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }

  const read = (id: string) => ofMessage(id, 'read', {})
  const deal = (id: string, dealt: boolean) => ofMessage(id, 'dealt', { dealt })

  async function ofMessage(id: string, what: 'read' | 'dealt', body: object): Promise<void> {
    try {
      await $fetch(`/api/messages/${encodeURIComponent(id)}/${what}`, { method: 'POST', query: { handset: device }, body })
      await loadMessages()
    }
    catch (error) {
      await loadMessages()
      failure.value = sentenceOf(error)
    }
  }

  /** Puts it down, also when the page is closing. */
  function putDown(): void {
    void fetch('/api/handset', {
      method: 'POST', keepalive: true, headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id: crypto.randomUUID(), service: 'setHandset', device, on: false }),
    }).catch(() => {})
  }

  watch(() => live.news.messages, loadMessages)
  useEventListener(window, 'pagehide', putDown)
  onMounted(async () => {
    await ask({ service: 'setHandset', on: true })
    await loadMessages()
  })
  onBeforeUnmount(putDown)

  return reactive({ device, calls, talking, rings, reserved, outlived, failure, messages, light, tone, ask, speak, joinReserved, read, deal })
}

export type Handset = ReturnType<typeof useHandset>
