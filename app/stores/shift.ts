import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { seesCallers } from '~~/shared/roles'
import type { Shift } from '~~/shared/shift'
import { useAsking } from '~/composables/asking'
import { sentenceOf } from '~/composables/failure'
import { useDesk } from './desk'
import { useLive } from './live'
import { useSession } from './session'

/** What is said from one shift to the next; fetched again whenever the feed says there is news. */
export const useShift = defineStore('shift', () => {
  const live = useLive()
  const desk = useDesk()
  const session = useSession()
  const said = shallowRef<Shift | null>(null)
  const failure = ref<string | null>(null)
  const sees = computed(() => session.me !== null && seesCallers(session.me.role))
  /** The latest hand-over of somebody else that nobody has signed yet. */
  const toSign = computed(() => said.value?.handOvers.find(({ seenAt, own }) => seenAt === null && !own) ?? null)

  const load = useAsking(async () => {
    try {
      said.value = await $fetch<Shift>('/api/shift')
      failure.value = null
    }
    catch (error) {
      failure.value = sentenceOf(error)
      throw error
    }
  })

  /** @param done what a screen reader hears when it has been done */
  async function send(path: string, body: object, done: string): Promise<boolean> {
    try {
      await $fetch<unknown>(`/api/shift/${path}`, { method: 'POST', body })
      desk.say(done)
      await load()
      return true
    }
    catch (error) {
      failure.value = sentenceOf(error)
      return false
    }
  }

  watch([() => live.news.shift, () => live.connected, sees], () => {
    if (sees.value && live.connected) void load()
  }, { immediate: true })

  return { said, failure, toSign, load, send }
})
