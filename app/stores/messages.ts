import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Message, Messages } from '~~/shared/messages'
import { sentenceOf } from '~/composables/failure'
import { useLive } from './live'

/** Messages for and from whoever is signed in; fetched again whenever the feed says there is news. */
export const useMessages = defineStore('messages', () => {
  const live = useLive()
  const received = ref<Message[]>([])
  const written = ref<Message[]>([])
  const failure = ref<string | null>(null)
  const unread = computed(() => received.value.filter(message => message.readAt === null).length)

  async function load(): Promise<void> {
    try {
      const all = await $fetch<Messages>('/api/messages')
      received.value = all.received
      written.value = all.written
      failure.value = null
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }

  const read = (id: string) => change(id, '/read', 'POST')
  const remove = (id: string) => change(id, '', 'DELETE')
  const restore = (id: string) => change(id, '/restore', 'POST')

  /** That one has dealt with it, or nobody has after all; when somebody else has before, it says who. */
  const deal = (id: string, dealt: boolean) => change(id, '/dealt', 'POST', { dealt })

  async function change(id: string, what: string, method: 'POST' | 'DELETE', body = {}): Promise<void> {
    try {
      await $fetch(`/api/messages/${encodeURIComponent(id)}${what}`, { method, body })
      await load()
    }
    catch (error) {
      await load()
      failure.value = sentenceOf(error)
    }
  }

  watch(() => [live.news.messages, live.connected], () => {
    if (live.connected) void load()
  })

  return { received, written, failure, unread, load, read, remove, restore, deal }
})
