import { defineStore } from 'pinia'
import type { Messages } from '~~/shared/messages'
import { sentenceOf } from '~/composables/failure'
import { useLive } from './live'

/** Messages for and from whoever is signed in; fetched again whenever the feed says there is news. */
export const usePost = defineStore('post', () => {
  const live = useLive()
  const messages = ref<Messages>({ received: [], written: [] })
  const failure = ref<string | null>(null)
  const unread = computed(() => messages.value.received.filter(message => message.readAt === null).length)

  async function load(): Promise<void> {
    try {
      messages.value = await $fetch<Messages>('/api/messages')
      failure.value = null
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }

  async function read(id: string): Promise<void> {
    try {
      await $fetch(`/api/messages/${encodeURIComponent(id)}/read`, { method: 'POST', body: {} })
      await load()
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }

  watch(() => [live.news, live.connected], () => {
    if (live.connected) void load()
  })

  return { messages, failure, unread, load, read }
})
