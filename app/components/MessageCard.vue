<script setup lang="ts">
import { useContacts } from '~/stores/contacts'
import { useDialogs } from '~/stores/dialogs'
import type { Message } from '~~/shared/messages'

/** `chosen`: it can be chosen, and whether it is; else it is heard here. `handset`: at whose telephone. */
const props = withDefaults(defineProps<{ message: Message, mine: boolean, chosen?: boolean, handset?: string }>(), {
  chosen: undefined, handset: undefined,
})
defineEmits<{ read: [], choose: [], deal: [dealt: boolean] }>()

const title = computed(() => whoLeft(props.message))
const number = computed(() => numberBeside(props.message))
const owner = computed(() => mailboxName(props.message))
const shared = computed(() => isShared(props.message))
const contacts = useContacts()
const dialogs = useDialogs()
/** Whoever left it and is not known yet can be written down. */
const stranger = computed(() => contacts.sees && props.message.number && !contacts.of(props.message.number) ? props.message.number : null)
</script>

<template>
  <li :class="['message', { unread: !message.readAt, chosen, deleted: mine && message.deletedAt }]">
    <p class="top">
      <button
        v-if="chosen !== undefined"
        type="button"
        class="choose"
        :aria-pressed="chosen"
        @click="$emit('choose')"
      >
        {{ title }}
      </button>
      <strong v-else>{{ title }}</strong> <span v-if="number">{{ number }}</span>
      <span class="at">{{ shownAt(message.at).format('D MMM H:mm') }}</span>
    </p>
    <p v-if="message.text || !message.sound">
      {{ message.text || t('messages.noWords') }}
    </p>
    <p class="soft">
      <template v-if="message.kind === 'voice'">
        {{ t('messages.voicemailOfSeconds', { owner, seconds: message.seconds! }) }}
      </template>
      <template v-else>
        {{ t('messages.forTakenDownBy', { owner, fromName: message.fromName }) }}
      </template>
      <template v-if="message.passedOnBy">
        {{ ` ${passedOn(message)}` }}
      </template>
      <strong v-if="message.urgent">{{ ` ${t('messages.urgent')}` }}</strong> <template v-if="message.callBack">
        {{ t('messages.wantsToBeCalledBack') }}
      </template>
      <template v-if="mine && message.deletedAt">
        {{ t('messages.deleted') }}
      </template>
      <component
        :is="message.dealtBy === null ? 'strong' : 'span'"
        v-if="shared"
      >
        {{ `${dealtWith(message)} ` }}
      </component>
      {{ message.readAt ? t('messages.readAt', { at: shownAt(message.readAt).format('D MMM H:mm') }) : t('messages.notReadYet') }}
    </p>
    <LazyVoicePlayer
      v-if="message.sound && chosen === undefined"
      :address="`/api/messages/${encodeURIComponent(message.id)}/sound${handset ? `?handset=${encodeURIComponent(handset)}` : ''}`"
      :label="t('messages.soundOfTheMessageOf', { title })"
      file="message.wav"
      @heard="message.readAt || $emit('read')"
    />
    <el-button
      v-if="mine && !message.readAt"
      size="small"
      :aria-label="t('messages.markAsReadTheMessage', { title })"
      @click="$emit('read')"
    >
      {{ t('messages.markAsRead') }}
    </el-button>
    <el-button
      v-if="mine && shared && chosen === undefined"
      size="small"
      @click="$emit('deal', message.dealtBy === null)"
    >
      {{ message.dealtBy === null ? t('messages.iHaveDealtWithIt') : t('messages.notDealtWithAfterAll') }}
    </el-button>
    <el-button
      v-if="stranger"
      size="small"
      :aria-label="t('messages.saveAsAContact', { title })"
      @click="dialogs.contact = { id: null, name: message.caller ?? '', number: stranger }"
    >
      {{ t('common.saveCaller') }}
    </el-button>
  </li>
</template>

<style scoped>
.message {
  padding: var(--space-3) var(--space-4);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round);
}

.chosen {
  background: var(--lit);
  border-color: var(--ink);
}

.unread {
  border-left: 4px solid var(--ink);
}

.deleted {
  background: transparent;
  border-style: dashed;
}

.top {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-3);
}

.at {
  margin-left: auto;
  color: var(--ink-soft);
}

.soft {
  color: var(--ink-soft);
}
</style>
