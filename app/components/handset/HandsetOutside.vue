<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import type { Call } from '~~/core/calls/model'
import { isMailbox } from '~~/core/calls/names'
import { connectionOf, othersOf, placesOf } from '~~/core/calls/questions'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useHandset } from '~/stores/handset'

const handset = useHandset()
const directory = useDirectory()
const desk = useDesk()
const form = reactive({ name: 'Odette Farrowmere', number: '07700 900987', to: '' })
const words = reactive<Record<string, string>>({})

watch(() => directory.lines, (lines) => { form.to ||= lines[0]?.number ?? '' }, { immediate: true })

/** What the caller hears: all they know. */
function hears(call: Call): string {
  const others = othersOf(call, call.calling).filter(other => other.state === 'connected')
  switch (placesOf(call)[0]) {
    case 'waiting': return 'It rings. “Please wait, somebody will be with you.”'
    case 'ringing': return 'It rings.'
    case 'onHold': return '♪ Music: you are on hold.'
    case 'parked': return '♪ Music: somebody is being fetched.'
    case 'tone': return 'A tone: nobody can be reached.'
    case 'talking': return others.some(other => isMailbox(other.device))
      ? 'A voicemail: speak after the tone.'
      : `You are talking to ${others.map(other => directory.nameOf(other.device, other.party)).join(' and ')}.`
    default: return 'Silence.'
  }
}

function heard(call: Call): string | null {
  return call.caption && call.caption.device !== call.calling ? call.caption.text : null
}

async function say(call: Call): Promise<void> {
  const text = words[call.id]?.trim()
  if (text && await handset.speak(call, call.calling, text)) words[call.id] = ''
}
</script>

<template>
  <section
    class="phone"
    aria-label="Telephone outside"
  >
    <form
      class="dial"
      @submit.prevent="handset.dialIn(form.name, form.number, form.to)"
    >
      <label for="out-name">Name shown</label>
      <el-input
        id="out-name"
        v-model="form.name"
        maxlength="80"
        placeholder="withheld"
      />
      <label for="out-number">Number shown</label>
      <el-input
        id="out-number"
        v-model="form.number"
        maxlength="40"
        placeholder="withheld"
      />
      <label for="out-to">Dials</label>
      <el-select
        id="out-to"
        v-model="form.to"
        filterable
        allow-create
        aria-label="Dials"
      >
        <el-option
          v-for="line in directory.lines"
          :key="line.id"
          :value="line.number"
          :label="`${line.name}, ${line.number}`"
        />
      </el-select>
      <el-button
        type="primary"
        native-type="submit"
      >
        Call
      </el-button>
    </form>
    <article
      v-for="call in handset.callsOutside"
      :key="call.id"
      class="call"
    >
      <p class="line">
        <strong>{{ hears(call) }}</strong>
        <span>{{ spell(desk.now - (connectionOf(call, call.calling)?.since ?? call.created)) }}</span>
      </p>
      <p v-if="heard(call)">
        “{{ heard(call) }}”
      </p>
      <div class="keys">
        <el-input
          v-model="words[call.id]"
          maxlength="300"
          placeholder="Say something"
          aria-label="Say something"
          @keydown.enter.prevent="say(call)"
        />
        <el-button @click="say(call)">
          Say
        </el-button>
        <el-button @click="handset.asCaller(call, 'clearConnection')">
          Hang up
        </el-button>
      </div>
    </article>
    <p
      v-if="!handset.callsOutside.length"
      class="soft"
    >
      No call. Dial one of the company's numbers.
    </p>
  </section>
</template>

<style scoped>
.dial {
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: center;
  gap: var(--space-3) var(--space-4);
}

.dial .el-button {
  grid-column: 2;
  justify-self: start;
}
</style>
