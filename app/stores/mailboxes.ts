import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import type { DeviceId } from '~~/core/calls/model'
import { seesCallers } from '~~/shared/roles'
import type { Waiting } from '~~/shared/messages'
import { useAsking } from '~/composables/asking'
import { useLive } from './live'
import { useSession } from './session'
import { t } from '~/composables/language'

/** How many new messages and voice messages wait for colleagues. Staff members see it of nobody. */
export const useMailboxes = defineStore('mailboxes', () => {
  const live = useLive()
  const session = useSession()
  const known = shallowRef<ReadonlyMap<DeviceId, Waiting[number]>>(new Map())
  const sees = computed(() => session.me !== null && seesCallers(session.me.role))

  const refresh = useAsking(async () => {
    const answer = await $fetch<Waiting>('/api/messages/waiting')
    if (sees.value) known.value = new Map(answer.map(one => [one.at, one]))
  })
  watch([() => live.news.waiting, () => live.connected, sees], () => {
    if (!sees.value) known.value = new Map()
    else if (live.connected) void refresh()
  }, { immediate: true })

  /** What waits at a telephone, in words; empty when there is nothing new. */
  function wordsOf(device: DeviceId): string {
    const { text = 0, voice = 0 } = known.value.get(device) ?? {}
    const words = [voice > 0 && t('frame.newVoiceMessages', { count: voice }), text > 0 && t('frame.newMessages', { count: text })]
    return words.filter(Boolean).join(', ')
  }

  /** How many wait there, of either kind. */
  function countOf(device: DeviceId): number {
    const { text = 0, voice = 0 } = known.value.get(device) ?? {}
    return text + voice
  }

  return { wordsOf, countOf }
})
