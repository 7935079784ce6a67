import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Call, CallId, Connection, DeviceId } from '~~/core/calls/model'
import { callsOf, connectionOf, othersOf, reservedFor } from '~~/core/calls/questions'
import type { WithoutDevice } from '~~/core/console/console'
import { readDialled } from '~~/core/numbers/dialled'
import type { Message, Messages } from '~~/shared/messages'
import type { HandsetRequest, RequestDone } from '~~/shared/requests'
import { sentenceOf } from '~/composables/failure'
import { useLive } from './live'

/** A stand-in telephone in a person's hand: that of a colleague, or that of somebody outside who calls. */
export const useHandset = defineStore('handset', () => {
  const live = useLive()
  const device = ref<DeviceId | null>(null)
  /** Calls made from outside with this handset. */
  const outside = ref<CallId[]>([])
  const failure = ref<string | null>(null)
  const messages = ref<Message[]>([])

  const calls = computed(() => live.state && device.value ? callsOf(live.state, device.value) : [])
  const callsOutside = computed(() => outside.value.flatMap((id) => {
    const call = live.state?.calls.get(id)
    return call ? [call] : []
  }))
  const reserved = computed(() => live.state && device.value ? reservedFor(live.state, device.value) : [])
  const outlived = computed(() => live.state?.outlived.filter(note => note.for === device.value) ?? [])
  const light = computed(() => messages.value.some(message => message.readAt === null))

  async function send(request: HandsetRequest): Promise<RequestDone | null> {
    failure.value = null
    try {
      return await $fetch<RequestDone>('/api/handset', { method: 'POST', body: { id: crypto.randomUUID(), ...request } })
    }
    catch (error) {
      failure.value = sentenceOf(error)
      return null
    }
  }

  async function ask(request: WithoutDevice<HandsetRequest>): Promise<boolean> {
    return device.value !== null && await send({ ...request, device: device.value } as HandsetRequest) !== null
  }

  /** Takes a telephone into the hand: nobody simulated answers it any more. */
  async function take(next: DeviceId | null): Promise<void> {
    await putDown()
    device.value = next
    messages.value = []
    if (!next) return
    await send({ service: 'setHandset', device: next, on: true })
    await loadMessages()
  }

  /** Puts it down, also when the page is closing. */
  async function putDown(): Promise<void> {
    const before = device.value
    device.value = null
    if (!before) return
    await fetch('/api/handset', {
      method: 'POST', keepalive: true, headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id: crypto.randomUUID(), service: 'setHandset', device: before, on: false }),
    }).catch(() => {})
  }

  /** The network says numbers in E.164, however they were typed. */
  function asNetworkSays(typed: string): string {
    const read = readDialled(typed)
    return read.kind === 'outside' ? read.e164 : typed.trim()
  }

  /** Somebody outside dials one of our numbers. */
  async function dialIn(name: string, number: string, to: string): Promise<void> {
    const party = { name: name.trim() || null, number: asNetworkSays(number) || null }
    const done = await send({ service: 'offerCall', trunk: 'west', party, number: asNetworkSays(to) })
    if (done?.call) outside.value = [...outside.value, done.call]
  }

  /** What a caller outside does on their own leg of a call. */
  function asCaller(call: Call, service: 'clearConnection'): Promise<RequestDone | null> {
    return send({ service, device: call.calling, call: call.id })
  }

  function speak(call: Call, from: DeviceId, text: string): Promise<RequestDone | null> {
    return send({ service: 'sendUserInformation', device: from, call: call.id, text })
  }

  /** Takes a reserved caller and joins them to the call that is going on. */
  async function joinReserved(call: Call): Promise<void> {
    const talking = calls.value.find(other => connectionOf(other, device.value!)?.state === 'connected')
    if (await ask({ service: 'directedPickupCall', call: call.id }) && talking) await ask({ service: 'conferenceCall', call: call.id, other: talking.id })
  }

  async function loadMessages(): Promise<void> {
    if (!device.value) return
    try {
      messages.value = (await $fetch<Messages>('/api/messages', { query: { handset: device.value } })).received
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }

  async function read(id: string): Promise<void> {
    try {
      await $fetch(`/api/messages/${encodeURIComponent(id)}/read`, { method: 'POST', query: { handset: device.value }, body: {} })
      await loadMessages()
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }

  function other(call: Call): Connection | undefined {
    return othersOf(call, device.value ?? '')[0]
  }

  watch(() => live.news, loadMessages)

  return { device, calls, callsOutside, reserved, outlived, failure, messages, light, ask, take, putDown, dialIn, asCaller, speak, joinReserved, read, other }
})
