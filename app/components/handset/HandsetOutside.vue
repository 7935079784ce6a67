<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import type { Call } from '~~/core/calls/model'
import { connectionOf, placesOf } from '~~/core/calls/questions'
import type { ToneKind } from '~~/core/sound/country-tones'
import { heardBy } from '~~/core/sound/heard'
import { tellPlace } from '~~/core/queues/expected-wait'
import { useCallers } from '~/stores/callers'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

defineEmits<{ putDown: [] }>()
const callers = useCallers()
const directory = useDirectory()
const desk = useDesk()
const live = useLive()
/** One talks as a caller by this browser: the first who is on the line. */
const talks = ref(false)
const speaker = computed(() => callers.calls.find(call => connectionOf(call, call.calling)?.state === 'connected')?.calling ?? null)
/** Of several callers one is heard who waits for somebody to answer. */
useToneAt(() => talks.value ? null : callers.calls.map(call => heardBy(live.state!, call.calling).tone).find(tone => tone !== null) ?? null)
const form = reactive({ name: 'Odette Farrowmere', number: '07700 900987', to: '' })

watch(() => directory.lines, (lines) => { form.to ||= lines[0]?.number ?? '' }, { immediate: true })

const toneWords: Record<ToneKind, string> = {
  ringing: t('handset.itRings'), busy: t('handset.theBusyTone'), congestion: t('handset.aToneEveryLineIs'), unobtainable: t('handset.aToneNobodyCanBe'),
}

/** What the caller hears: all they know. */
function hears(call: Call): string {
  const { voices, announcement, music, tone } = heardBy(live.state!, call.calling)
  if (voices.length > 0) return t('handset.youAreTalkingTo', {
    voices: voices.map(device => directory.nameOf(device, connectionOf(call, device)?.party)).join(' and '),
  })
  if (announcement === 'mailbox') return t('handset.aVoicemailSpeakAfterThe')
  if (music) return call.parked ? t('handset.musicSomebodyIsBeingFetched') : t('handset.musicYouAreOnHold')
  if (tone === 'ringing' && placesOf(call)[0] === 'waiting') {
    const digit = callers.callBackDigit(call)
    return t('handset.itRingsMoreMore2', {
      more: call.told ? say(tellPlace(call.told)) : t('handset.pleaseWaitSomebodyWillBe'), more2: digit ? t('handset.toBeCalledBackPress', { digit }) : '',
    })
  }
  return tone ? toneWords[tone] : t('handset.silence')
}

function heard(call: Call): string | null {
  return call.caption && call.caption.device !== call.calling ? say(call.caption.text) : null
}
</script>

<template>
  <section
    class="phone outside"
    :aria-label="t('handset.telephoneOutside')"
  >
    <span class="slit" />
    <p class="plate">
      <strong>{{ t('handset.aCallerOutside') }}</strong>
    </p>
    <HandsetEar
      v-model="talks"
      :device="speaker"
    />
    <div class="display">
      <article
        v-for="call in callers.calls"
        :key="call.id"
        class="call"
        :aria-label="t('handset.callOf', { name: directory.nameOf(call.calling, call.party) })"
      >
        <p>
          <strong>{{ directory.nameOf(call.calling, call.party) }}</strong>{{ ' ' }}
          <span class="time">{{ spell(desk.now - (connectionOf(call, call.calling)?.since ?? call.created)) }}</span>
        </p>
        <p>{{ hears(call) }}</p>
        <p v-if="heard(call)">
          “{{ heard(call) }}”
        </p>
        <p v-if="callers.callBackDigit(call)">
          <el-button @click="callers.press(call, callers.callBackDigit(call))">
            {{ t('handset.pressCallBackDigit', { callBackDigit: callers.callBackDigit(call) }) }}
          </el-button>
        </p>
        <HandsetSaying :say="words => callers.speak(call, words)">
          <el-button @click="callers.hangUp(call)">
            {{ t('handset.hangUp') }}
          </el-button>
        </HandsetSaying>
      </article>
      <p
        v-for="promise in callers.promises"
        :key="promise.id"
      >
        {{ formatNumber(promise.party.number!) }}: “{{ promise.word ?? t('handset.yourPlaceIsKeptWe') }}”
      </p>
      <p
        v-if="!callers.calls.length"
        class="soft"
      >
        {{ t('handset.noCallDialOneOf') }}
      </p>
    </div>
    <FailureNote :text="callers.failure" />
    <form
      class="form"
      @submit.prevent="callers.dial(form.name, form.number, form.to)"
    >
      <label for="out-name">{{ t('handset.nameShown') }}</label>
      <el-input
        id="out-name"
        v-model="form.name"
        maxlength="80"
        :placeholder="t('handset.withheld')"
      />
      <label for="out-number">{{ t('handset.numberShown') }}</label>
      <el-input
        id="out-number"
        v-model="form.number"
        maxlength="40"
        :placeholder="t('handset.withheld')"
      />
      <label for="out-to">{{ t('handset.dials') }}</label>
      <el-select
        id="out-to"
        v-model="form.to"
        filterable
        allow-create
        :aria-label="t('handset.dials')"
      >
        <el-option
          v-for="line in directory.lines"
          :key="line.id"
          :value="line.number"
          :label="`${line.name}, ${formatNumber(line.number)}`"
        />
      </el-select>
      <div class="last">
        <el-button
          type="primary"
          native-type="submit"
        >
          {{ t('handset.call') }}
        </el-button>
        <el-button
          :aria-label="t('handset.putDownTheTelephoneOutside')"
          @click="$emit('putDown')"
        >
          {{ t('handset.putDown') }}
        </el-button>
      </div>
    </form>
  </section>
</template>

<style scoped>
.outside {
  border-radius: 2rem;
}

.slit {
  width: 4rem;
  height: 0.375rem;
  margin: 0 auto;
  background: var(--edge-strong);
  border-radius: 0.25rem;
}

.form {
  display: grid;
  gap: var(--space-2);
}

.last {
  display: flex;
  justify-content: space-between;
  padding-top: var(--space-3);
}
</style>
