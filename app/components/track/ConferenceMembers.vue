<script setup lang="ts">
import { Mic, MicOff, X } from '@lucide/vue'
import { spell } from '~~/core/durations/durations'
import type { Call } from '~~/core/calls/model'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const props = defineProps<{ call: Call }>()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()

const leads = computed(() => props.call.conference?.by === desk.device)
const members = computed(() => props.call.connections.filter(({ device }) => device !== desk.device).map(connection => ({
  ...connection,
  name: directory.nameOf(connection.device, connection.party),
  words: connection.invitedBy ? t('track.isBeingRung') : connection.state === 'held' ? t('track.holds') : spell(desk.now - connection.since),
})))
</script>

<template>
  <ul class="members">
    <li
      v-for="member in members"
      :key="member.device"
    >
      <span class="name">{{ member.name }}</span>
      <span class="since">{{ member.words }}{{ member.muted ? t('track.muted') : '' }}</span>
      <el-button
        v-if="leads && !member.invitedBy"
        text
        size="small"
        :icon="member.muted ? MicOff : Mic"
        :disabled="!live.working"
        :aria-label="`${member.muted ? t('track.unmute') : t('track.mute')} ${member.name}`"
        @click="desk.ask({ service: 'setMicrophoneMute', call: call.id, party: member.device, on: !member.muted })"
      />
      <el-button
        v-if="leads || member.invitedBy === desk.device"
        text
        size="small"
        :icon="X"
        :disabled="!live.working"
        :aria-label="t('track.dropName', { name: member.name })"
        @click="desk.ask({ service: 'dropParty', call: call.id, party: member.device })"
      />
    </li>
  </ul>
</template>

<style scoped>
.members li {
  display: flex;
  align-items: center;
  gap: var(--space-2);
}

.name {
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.since {
  margin-right: auto;
  color: var(--lit-ink-soft);
  white-space: nowrap;
}

.el-button {
  height: 1.5rem;
  margin: 0;
  padding-inline: var(--space-2);
}
</style>
