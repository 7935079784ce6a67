<script setup lang="ts">
import { useDirectory } from '~/stores/directory'
import { useMessages } from '~/stores/messages'

useHead({ title: 'Messages · Estafette' })

const messages = useMessages()
const directory = useDirectory()

const boxes = computed(() => [
  { id: 'received', title: 'Received', messages: messages.received, empty: 'No message for you.' },
  { id: 'written', title: 'Taken down by you', messages: messages.written, empty: 'You have taken no message yet.' },
])

function owner(to: string): string {
  return directory.line(to)?.name ?? directory.nameOf(to)
}

onMounted(messages.load)
</script>

<template>
  <div class="records-page">
    <h1>Messages</h1>
    <FailureNote :text="messages.failure" />
    <div class="boxes">
      <section
        v-for="box in boxes"
        :key="box.id"
        :aria-labelledby="`box-${box.id}`"
      >
        <h2 :id="`box-${box.id}`">
          {{ box.title }}
        </h2>
        <ul v-if="box.messages.length">
          <MessageCard
            v-for="message in box.messages"
            :key="message.id"
            :message="message"
            :owner="owner(message.to)"
            :mine="box.id === 'received'"
            @read="messages.read(message.id)"
          />
        </ul>
        <p
          v-else
          class="empty"
        >
          {{ box.empty }}
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.boxes {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(20rem, 1fr));
  gap: var(--space-5);
}

h2 {
  padding-bottom: var(--space-3);
  color: var(--ink-soft);
  font: 600 var(--type-4) var(--font-sign);
}

ul {
  display: grid;
  gap: var(--space-3);
}
</style>
