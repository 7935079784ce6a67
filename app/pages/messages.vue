<script setup lang="ts">
import { readDialled } from '~/composables/numbers'
import { type Message, regretWithin } from '~~/shared/messages'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'
import { useMessages } from '~/stores/messages'

useHead({ title: t('messages.messagesEstafette') })

const messages = useMessages()
const desk = useDesk()
const live = useLive()
const dialogs = useDialogs()

const boxes = computed(() => [
  {
    id: 'received', title: t('messages.received'), messages: messages.received,
    empty: t('messages.noMessageForYouWhat'),
  },
  {
    id: 'written', title: t('messages.takenDownByYou'), messages: messages.written,
    empty: t('messages.noneYetF4TakesA'),
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

onMounted(messages.load)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('common.messages') }}</h1>
      <el-button
        v-if="desk.device"
        @click="dialogs.message = { to: null, call: null }"
      >
        {{ t('messages.writeOne') }}
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
        <OwnVoicemail v-if="desk.device && live.state" />
      </div>
      <aside
        class="details"
        :aria-label="t('messages.theChosenMessage')"
      >
        <template v-if="chosen">
          <h2>{{ whoLeft(chosen) }}</h2>
          <p v-if="numberBeside(chosen)">
            {{ numberBeside(chosen) }}
          </p>
          <p class="words">
            {{ chosen.text || (chosen.sound ? '' : t('messages.noWords')) }}
          </p>
          <VoicePlayer
            v-if="chosen.sound"
            :address="`/api/messages/${encodeURIComponent(chosen.id)}/sound`"
            :label="t('messages.soundOfTheMessageOf', { title: whoLeft(chosen) })"
            file="message.wav"
            @heard="mine && !chosen.readAt && messages.read(chosen.id)"
          />
          <p class="soft">
            {{ chosen.kind === 'voice' ? t('messages.leftInTheVoicemailOf', { owner: mailboxName(chosen) }) : t('messages.forOwnerTakenDownByFromName', {
              owner: mailboxName(chosen), fromName: chosen.fromName,
            }) }},
            {{ when(chosen.at) }}. {{ chosen.readAt ? t('messages.readWhen', { when: when(chosen.readAt) }) : t('messages.notReadYet') }}
          </p>
          <p v-if="passedOn(chosen)">
            {{ passedOn(chosen) }}
          </p>
          <p v-if="isShared(chosen)">
            {{ dealtWith(chosen) }}
          </p>
          <p
            v-if="mine && chosen.deletedAt"
            role="status"
          >
            {{ t('messages.deletedItGoesForGood', { when: when(chosen.deletedAt + regretWithin) }) }}
          </p>
          <p class="button-row">
            <el-button
              v-if="desk.device && number"
              :disabled="!live.working"
              @click="desk.ask({ service: 'makeCall', number })"
            >
              {{ t('messages.callBack') }}
            </el-button>
            <el-button
              v-if="mine && !chosen.readAt"
              @click="messages.read(chosen.id)"
            >
              {{ t('messages.iHaveReadIt') }}
            </el-button>
            <el-button
              v-if="mine && isShared(chosen) && !chosen.deletedAt"
              :type="chosen.dealtBy === null ? 'primary' : undefined"
              @click="messages.deal(chosen.id, chosen.dealtBy === null)"
            >
              {{ chosen.dealtBy === null ? t('messages.iHaveDealtWithIt') : t('messages.notDealtWithAfterAll') }}
            </el-button>
            <el-button
              v-if="mine && !chosen.deletedAt"
              @click="messages.remove(chosen.id)"
            >
              {{ t('messages.delete') }}
            </el-button>
            <el-button
              v-if="mine && chosen.deletedAt"
              type="primary"
              @click="messages.restore(chosen.id)"
            >
              {{ t('messages.bringItBack') }}
            </el-button>
          </p>
          <PassMessageOn
            v-if="mine && !chosen.deletedAt"
            :id="chosen.id"
          />
          <template v-if="number">
            <h3>{{ t('messages.callsWithThisNumber') }}</h3>
            <EarlierCalls :number="number" />
          </template>
        </template>
        <template v-else>
          <h2>{{ t('messages.nobodyIsForgottenHere') }}</h2>
          <p class="soft">
            {{ t('messages.aMessageStandsInIts') }}
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
