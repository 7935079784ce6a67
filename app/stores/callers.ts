import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Call, CallId } from '~~/core/calls/model'
import { queueOf } from '~~/core/calls/questions'
import { t } from '~/composables/language'
import { readDialled } from '~/composables/numbers'
import type { RequestDone } from '~~/shared/requests'
import { useHandsetRequests } from '~/composables/handset'
import { useLive } from './live'

/** Callers outside whom somebody plays with this browser: they stay on the line when the page of the handsets is left. */
export const useCallers = defineStore('callers', () => {
  const live = useLive()
  const { failure, send } = useHandsetRequests()
  const begun = ref<CallId[]>([])
  /** The numbers that were shown: a text to one of them is read here. */
  const shown = ref<string[]>([])
  const calls = computed(() => begun.value.flatMap(id => live.state?.calls.get(id) ?? []))

  /** The network says numbers in E.164, however they were typed. */
  function asNetworkSays(typed: string): string {
    const read = readDialled(typed)
    return read.kind === 'outside' ? read.e164 : typed.trim()
  }

  /** Somebody outside dials one of our numbers. */
  async function dial(name: string, number: string, to: string): Promise<void> {
    const party = { name: name.trim() || null, number: asNetworkSays(number) || null }
    const trunk = Object.keys(live.company?.trunks ?? {}).at(-1)
    if (trunk === undefined) return void (failure.value = t('track.noCallCanComeFrom'))
    const done = await send({ service: 'offerCall', trunk, party, number: asNetworkSays(to) })
    if (done?.call) begun.value = [...begun.value, done.call]
    if (party.number) shown.value = [...shown.value, party.number]
  }

  function hangUp(call: Call): Promise<RequestDone | null> {
    return send({ service: 'clearConnection', device: call.calling, call: call.id })
  }

  function speak(call: Call, text: string): Promise<RequestDone | null> {
    return send({ service: 'sendUserInformation', device: call.calling, call: call.id, text })
  }

  /** The key with which a caller who waits asks to be called back; empty where it is not offered. */
  function callBackDigit(call: Call): string {
    const queue = queueOf(call)?.device
    return queue === undefined ? '' : live.company?.groups[queue]?.callBackDigit ?? ''
  }

  function press(call: Call, digits: string): Promise<RequestDone | null> {
    return send({ service: 'generateDigits', device: call.calling, call: call.id, digits })
  }

  /** What callers played here are promised, and the texts that they have got at the end. */
  const promises = computed(() => {
    const { callBacks, callBacksOver = [] } = live.state ?? {}
    return [...callBacks?.values() ?? [], ...callBacksOver.filter(({ word }) => word !== null)]
      .filter(({ party: { number } }) => number !== null && shown.value.includes(number))
  })

  return { callBackDigit, press, promises, calls, failure, dial, hangUp, speak }
})
