<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import type { Call } from '~~/core/calls/model'
import { isPrompt } from '~~/core/calls/call-backs/call-backs'
import { connectionOf, othersOf } from '~~/core/calls/questions'
import { whyFailed } from '~~/core/calls/story'
import type { Handset } from '~/composables/handset'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'

const props = defineProps<{ call: Call, handset: Handset }>()
const directory = useDirectory()
const desk = useDesk()

const own = computed(() => connectionOf(props.call, props.handset.device)!)
const others = computed(() => othersOf(props.call, props.handset.device).filter(({ state: its, offeredBy }) => its !== 'queued' && !offeredBy))
const names = computed(() => {
  const { call } = props
  const named = others.value.map(other => directory.nameOf(other.device, other.party ?? (other.device === call.calling ? call.party : null)))
  // Nobody is on the line yet of whom one is to call back.
  return named.join(', ') || (isPrompt(call) ? directory.nameOf('', call.party) : '')
    || (call.failed ? directory.nameOf(call.failed.device) : t('handset.nobody'))
})
const consultation = computed(() => props.handset.calls.find(call => call.consultation === props.call.id))
const another = computed(() => props.handset.calls.find(call => call.id !== props.call.id && connectionOf(call, props.handset.device)!.state !== 'alerting'))
const state = computed(() => {
  const { state: its, invitedBy, offeredBy } = own.value
  if (its === 'alerting') return isPrompt(props.call)
    ? t('handset.isToBeCalledBack')
    : invitedBy
      ? t('handset.asksYouToJoin')
      : offeredBy
        ? t('handset.ringsForThe', { name: directory.nameOf(offeredBy) })
        : t('handset.rings')
  if (own.value.state === 'held') return t('common.onHold')
  const other = others.value[0]
  if (props.call.failed) return t(whyFailed[props.call.failed.cause] ?? 'handset.cantBeReached')
  if (other?.state === 'alerting') return t('handset.isBeingRung')
  if (other?.state === 'held') return t('handset.hasYouOnHold')
  return t('handset.talking')
})
const said = computed(() => props.call.caption && props.call.caption.device !== props.handset.device ? props.call.caption.text : null)
const note = computed(() => props.call.passing?.to === props.handset.device ? props.call.passing?.note : null)
</script>

<template>
  <article
    class="call"
    :aria-label="t('handset.callWith', { names })"
  >
    <p>
      <strong>{{ names }}</strong> {{ state }} <span class="time">{{ spell(desk.now - own.since) }}</span>
    </p>
    <p
      v-if="call.recording"
      class="strong"
    >
      ● {{ t('handset.thisCallIsRecorded') }}
    </p>
    <p
      v-if="note"
      class="strong"
    >
      {{ t('handset.noteNote', { note }) }}
    </p>
    <p
      v-if="own.muted"
      class="strong"
    >
      {{ own.byItself ? t('handset.speaksIntoYourRoomYou') : t('handset.yourMicrophoneIsOffYou') }}
    </p>
    <p v-if="said">
      “{{ said }}”
    </p>
    <div class="keys">
      <template v-if="own.state === 'alerting'">
        <el-button
          type="primary"
          @click="handset.ask({ service: 'answerCall', call: call.id })"
        >
          {{ t('common.answer') }}
        </el-button>
        <el-button @click="handset.ask({ service: 'clearConnection', call: call.id })">
          {{ t('handset.decline') }}
        </el-button>
      </template>
      <el-button
        v-else-if="own.state === 'held'"
        @click="handset.ask({ service: 'retrieveCall', call: call.id })"
      >
        {{ t('common.takeBack') }}
      </el-button>
      <template v-else>
        <el-button @click="handset.ask({ service: 'clearConnection', call: call.id })">
          {{ t('handset.hangUp') }}
        </el-button>
        <el-button @click="handset.ask({ service: 'holdCall', call: call.id })">
          {{ t('handset.hold') }}
        </el-button>
        <el-button @click="handset.ask({ service: 'parkCall', call: call.id, slot: null, for: null })">
          {{ t('handset.park') }}
        </el-button>
        <el-button
          :aria-pressed="Boolean(own.muted)"
          @click="handset.ask({ service: 'setMicrophoneMute', call: call.id, party: handset.device, on: !own.muted })"
        >
          {{ own.muted ? t('handset.turnTheMicrophoneOn') : t('handset.microphoneOff') }}
        </el-button>
        <el-button
          v-if="another"
          @click="handset.ask({ service: 'conferenceCall', call: call.id, other: another.id })"
        >
          {{ t('handset.joinCalls') }}
        </el-button>
      </template>
      <el-button
        v-if="consultation"
        @click="handset.ask({ service: 'transferCall', call: call.id, consultation: consultation.id })"
      >
        {{ t('common.handOver') }}
      </el-button>
    </div>
    <HandsetSaying
      v-if="own.state === 'connected' && !own.muted"
      :say="words => handset.speak(call, words)"
    />
  </article>
</template>
