<script setup lang="ts">
import { readDialled } from '~/composables/numbers'
import { type Message, regretWithin } from '~~/shared/messages'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useMessages } from '~/stores/messages'

useHead({ title: 'Messages · Estafette' })

const messages = useMessages()
const directory = useDirectory()
const desk = useDesk()
const live = useLive()
const dialogs = useDialogs()

const boxes = computed(() => [
  {
    id: 'received', title: 'Received', messages: messages.received,
    empty: 'No message for you. What is taken down for you, or left in a voicemail of yours, stands here.',
  },
  {
    id: 'written', title: 'Taken down by you', messages: messages.written,
    empty: 'None yet. F4 takes a message for whoever is named in the field; here you see when it has been read.',
  },
])
const chosenId = ref<string | null>(null)
/** The message chosen, or the first that is unread, or the latest. */
const chosen = computed<Message | null>(() => {
  const all = boxes.value.flatMap(box => box.messages)
  return all.find(({ id }) => id === chosenId.value) ?? messages.received.find(({ readAt }) => readAt === null) ?? all[0] ?? null
})
const mine = computed(() => messages.received.some(({ id }) => id === chosen.value?.id))
/** As the network says it: what was written down may be anything. */
const number = computed(() => {
  const read = readDialled(chosen.value?.number ?? '')
  return read.kind === 'outside' ? read.e164 : null
})
const when = (at: number) => shownAt(at).format('dddd, D MMMM, H:mm')

function owner(to: string): string {
  return directory.line(to)?.name ?? directory.nameOf(to)
}

onMounted(messages.load)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Messages</h1>
      <el-button
        v-if="desk.device"
        @click="dialogs.message = { to: null, call: null }"
      >
        Write one…
      </el-button>
    </div>
    <FailureNote :text="messages.failure" />
    <div class="panes">
      <div class="list boxes">
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
              :chosen="message.id === chosen?.id"
              @choose="chosenId = message.id"
              @read="messages.read(message.id)"
            />
          </ul>
          <p
            v-else
            class="soft"
          >
            {{ box.empty }}
          </p>
        </section>
      </div>
      <aside
        class="details"
        aria-label="The chosen message"
      >
        <template v-if="chosen">
          <h2>{{ whoLeft(chosen) }}</h2>
          <p v-if="numberBeside(chosen)">
            {{ numberBeside(chosen) }}
          </p>
          <p class="words">
            {{ chosen.text || (chosen.sound ? '' : 'No words.') }}
          </p>
          <VoicePlayer
            v-if="chosen.sound"
            :message="chosen.id"
            :title="whoLeft(chosen)"
            @heard="mine && !chosen.readAt && messages.read(chosen.id)"
          />
          <p class="soft">
            {{ chosen.kind === 'voice' ? `Left in the voicemail of ${owner(chosen.to)}` : `For ${owner(chosen.to)}, taken down by ${chosen.fromName}` }},
            {{ when(chosen.at) }}. {{ chosen.readAt ? `Read ${when(chosen.readAt)}.` : 'Not read yet.' }}
          </p>
          <p
            v-if="mine && chosen.deletedAt"
            role="status"
          >
            Deleted: it goes for good {{ when(chosen.deletedAt + regretWithin) }}.
          </p>
          <p class="button-row">
            <el-button
              v-if="desk.device && number"
              :disabled="!live.working"
              @click="desk.ask({ service: 'makeCall', number })"
            >
              Call back
            </el-button>
            <el-button
              v-if="mine && !chosen.readAt"
              @click="messages.read(chosen.id)"
            >
              I have read it
            </el-button>
            <el-button
              v-if="mine && !chosen.deletedAt"
              @click="messages.remove(chosen.id)"
            >
              Delete
            </el-button>
            <el-button
              v-if="mine && chosen.deletedAt"
              type="primary"
              @click="messages.restore(chosen.id)"
            >
              Bring it back
            </el-button>
          </p>
          <template v-if="number">
            <h3>Calls with this number</h3>
            <EarlierCalls :number="number" />
          </template>
        </template>
        <template v-else>
          <h2>Nobody is forgotten here</h2>
          <p class="soft">
            A message stands in its reader's list, on their telephone and in yours until it has been read. Voicemails of the lines come to every operator.
          </p>
        </template>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.boxes {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(16rem, 1fr));
  gap: var(--space-5);
  align-content: start;
  padding-bottom: var(--space-4);
}

.boxes h2 {
  padding-bottom: var(--space-3);
  color: var(--ink-soft);
  font: 600 var(--type-4) var(--font-sign);
}

ul {
  display: grid;
  gap: var(--space-3);
}

.words {
  padding: var(--space-4) 0;
  font-size: var(--type-4);
  overflow-wrap: anywhere;
}
</style>
