<script setup lang="ts">
import { connectionOf, othersOf } from '~~/core/calls/questions'
import { wouldLeak } from '~~/core/calls/listening/listenings'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Whom one listens to, in sight on every page for as long as it goes on, with what can be done there. */
const live = useLive()
const desk = useDesk()
const directory = useDirectory()

/** Where the field is, its keys are those of the call in hand. */
const route = useRoute()
const onConsole = computed(() => route.path === '/')
const keys = { whisper: 'F2', join: 'F8', stop: 'Del' }

const listening = computed(() => live.state && desk.device ? live.state.listenings.get(desk.device) : undefined)
const call = computed(() => listening.value && live.state!.calls.get(listening.value.call))
const colleague = computed(() => listening.value ? directory.nameOf(listening.value.to) : '')
const others = computed(() => call.value
  ? othersOf(call.value, listening.value!.to).map(({ device, party }) => directory.nameOf(device, party)).join(', ')
  : '')
const silent = computed(() => call.value && connectionOf(call.value, listening.value!.to)?.state !== 'connected')
const leaks = computed(() => call.value !== undefined && wouldLeak(live.state!, call.value, listening.value!.to))
</script>

<template>
  <section
    v-if="listening && call"
    :class="['lower-bar', { open: listening.whispers }]"
    :aria-label="t('listening.whatYouListenTo')"
  >
    <p class="to">
      {{ t('listening.youListenTo') }} <strong>{{ colleague }}</strong>{{ ` ${t('listening.withOthers', { others })}` }}
    </p>
    <p class="time">
      {{ spell(desk.now - listening.at) }}
    </p>
    <p class="how">
      <span
        v-if="listening.whispers"
        class="sign"
        aria-hidden="true"
      >●</span>
      {{ listening.whispers ? t('listening.hearsYouAlone', { name: colleague }) : silent ? t('listening.onHoldAtPresent')
        : leaks ? t('listening.whisperWouldBeHeard') : t('listening.nobodyHearsYou') }}
    </p>
    <div class="button-row">
      <el-button
        size="small"
        :disabled="!live.working || (leaks && !listening.whispers)"
        :aria-pressed="listening.whispers"
        @click="desk.ask({ service: 'whisper', call: listening.call, on: !listening.whispers })"
      >
        {{ t('listening.whisper') }}&nbsp;<kbd v-if="onConsole">{{ keys.whisper }}</kbd>
      </el-button>
      <el-button
        size="small"
        :disabled="!live.working || silent"
        @click="desk.ask({ service: 'intrudeCall', call: listening.call })"
      >
        {{ t('listening.join') }}&nbsp;<kbd v-if="onConsole">{{ keys.join }}</kbd>
      </el-button>
      <el-button
        size="small"
        type="primary"
        :disabled="!live.working"
        @click="desk.ask({ service: 'stopListening' })"
      >
        {{ t('listening.listenNoMore') }}&nbsp;<kbd v-if="onConsole">{{ keys.stop }}</kbd>
      </el-button>
    </div>
    <p
      v-if="call.caption && !silent"
      class="said"
    >
      “{{ say(call.caption.text) }}”
    </p>
  </section>
</template>

<style scoped>
.time {
  min-width: 4rem;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.how {
  flex: 1;
  min-width: 16rem;
}

.said {
  flex-basis: 100%;
  max-height: 3em;
  overflow: hidden auto;
}
</style>
