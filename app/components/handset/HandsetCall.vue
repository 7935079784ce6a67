<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import type { Call } from '~~/core/calls/model'
import { connectionOf, othersOf } from '~~/core/calls/questions'
import { whyFailed } from '~~/core/calls/story'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useHandset } from '~/stores/handset'

const props = defineProps<{ call: Call }>()
const handset = useHandset()
const directory = useDirectory()
const desk = useDesk()
const target = ref('')
const words = ref('')

const own = computed(() => connectionOf(props.call, handset.device!)!)
const others = computed(() => othersOf(props.call, handset.device!))
const names = computed(() => {
  const { call } = props
  const named = others.value.map(other => directory.nameOf(other.device, other.party ?? (other.device === call.calling ? call.party : null)))
  return named.join(', ') || (call.failed ? directory.nameOf(call.failed.device) : 'Nobody')
})
const consultation = computed(() => handset.calls.find(call => call.consultation === props.call.id))
const another = computed(() => handset.calls.find(call => call.id !== props.call.id && connectionOf(call, handset.device!)!.state !== 'alerting'))
const state = computed(() => {
  if (own.value.state === 'alerting') return own.value.invitedBy ? 'asks you to join' : 'rings'
  if (own.value.state === 'held') return 'on hold'
  const other = others.value[0]
  if (props.call.failed) return whyFailed[props.call.failed.cause] ?? 'can\'t be reached'
  if (other?.state === 'alerting') return 'is being rung'
  if (other?.state === 'held') return 'has you on hold ♪'
  return 'talking'
})
const said = computed(() => props.call.caption && props.call.caption.device !== handset.device ? props.call.caption.text : null)
const note = computed(() => props.call.passing?.to === handset.device ? props.call.passing?.note : null)

async function passOn(announced: boolean): Promise<void> {
  const to = target.value.trim()
  if (!to) return
  const done = announced
    ? await handset.ask({ service: 'consultationCall', call: props.call.id, number: to })
    : await handset.ask({ service: 'singleStepTransferCall', call: props.call.id, to })
  if (done) target.value = ''
}

async function say(): Promise<void> {
  if (words.value.trim() && await handset.speak(props.call, handset.device!, words.value.trim())) words.value = ''
}
</script>

<template>
  <article
    class="call"
    :aria-label="`Call with ${names}`"
  >
    <p class="line">
      <strong>{{ names }}</strong> <span>{{ state }} {{ spell(desk.now - own.since) }}</span>
    </p>
    <p
      v-if="note"
      class="note"
    >
      Note: {{ note }}
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
    <div
      v-if="own.state === 'connected'"
      class="keys"
    >
      <el-input
        v-model="words"
        maxlength="300"
        placeholder="Say something"
        aria-label="Say something"
        @keydown.enter.prevent="say"
      />
      <el-button @click="say">
        Say
      </el-button>
      <el-input
        v-model="target"
        maxlength="40"
        placeholder="Pass on to"
        aria-label="Pass on to"
        @keydown.enter.prevent="passOn(false)"
      />
      <el-button @click="passOn(false)">
        Pass on
      </el-button>
      <el-button @click="passOn(true)">
        Ask first
      </el-button>
    </div>
  </article>
</template>

<style scoped>
.note {
  font-weight: 600;
}
</style>
