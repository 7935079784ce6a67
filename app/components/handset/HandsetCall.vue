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
  return named.join(', ') || (isPrompt(call) ? directory.nameOf('', call.party) : '') || (call.failed ? directory.nameOf(call.failed.device) : 'Nobody')
})
const consultation = computed(() => props.handset.calls.find(call => call.consultation === props.call.id))
const another = computed(() => props.handset.calls.find(call => call.id !== props.call.id && connectionOf(call, props.handset.device)!.state !== 'alerting'))
const state = computed(() => {
  const { state: its, invitedBy, offeredBy } = own.value
  if (its === 'alerting') return isPrompt(props.call)
    ? 'is to be called back'
    : invitedBy
      ? 'asks you to join'
      : offeredBy
        ? `rings for the ${directory.nameOf(offeredBy)}`
        : 'rings'
  if (own.value.state === 'held') return 'on hold'
  const other = others.value[0]
  if (props.call.failed) return whyFailed[props.call.failed.cause] ?? 'can\'t be reached'
  if (other?.state === 'alerting') return 'is being rung'
  if (other?.state === 'held') return 'has you on hold ♪'
  return 'talking'
})
const said = computed(() => props.call.caption && props.call.caption.device !== props.handset.device ? props.call.caption.text : null)
const note = computed(() => props.call.passing?.to === props.handset.device ? props.call.passing?.note : null)
</script>

<template>
  <article
    class="call"
    :aria-label="`Call with ${names}`"
  >
    <p>
      <strong>{{ names }}</strong> {{ state }} <span class="time">{{ spell(desk.now - own.since) }}</span>
    </p>
    <p
      v-if="note"
      class="strong"
    >
      Note: {{ note }}
    </p>
    <p
      v-if="own.muted"
      class="strong"
    >
      {{ own.byItself ? 'Speaks into your room. You are not heard until you turn the microphone on.' : 'Your microphone is off: you are not heard.' }}
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
          Answer
        </el-button>
        <el-button @click="handset.ask({ service: 'clearConnection', call: call.id })">
          Decline
        </el-button>
      </template>
      <el-button
        v-else-if="own.state === 'held'"
        @click="handset.ask({ service: 'retrieveCall', call: call.id })"
      >
        Take back
      </el-button>
      <template v-else>
        <el-button @click="handset.ask({ service: 'clearConnection', call: call.id })">
          Hang up
        </el-button>
        <el-button @click="handset.ask({ service: 'holdCall', call: call.id })">
          Hold
        </el-button>
        <el-button @click="handset.ask({ service: 'parkCall', call: call.id, slot: null, for: null })">
          Park
        </el-button>
        <el-button
          :aria-pressed="Boolean(own.muted)"
          @click="handset.ask({ service: 'setMicrophoneMute', call: call.id, party: handset.device, on: !own.muted })"
        >
          {{ own.muted ? 'Turn the microphone on' : 'Microphone off' }}
        </el-button>
        <el-button
          v-if="another"
          @click="handset.ask({ service: 'conferenceCall', call: call.id, other: another.id })"
        >
          Join calls
        </el-button>
      </template>
      <el-button
        v-if="consultation"
        @click="handset.ask({ service: 'transferCall', call: call.id, consultation: consultation.id })"
      >
        Hand over
      </el-button>
    </div>
    <HandsetSaying
      v-if="own.state === 'connected' && !own.muted"
      :say="words => handset.speak(call, words)"
    />
  </article>
</template>
