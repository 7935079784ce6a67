<script setup lang="ts">
import { useDevicesList } from '@vueuse/core'
import { toneOf } from '~~/core/sound/heard'
import { toneSamples } from '~~/core/sound/tone'
import { useSoundDevices, soundAt } from '~/composables/sound-devices'
import { closesDialog, focusField } from '~/stores/dialogs'
import { useLive } from '~/stores/live'
import { useVoice } from '~/stores/voice'

/** Talking by this browser: into what, by what, and whether it works, before the first call. */
const voice = useVoice()
const live = useLive()
const devices = useSoundDevices()
const { audioInputs, audioOutputs } = useDevicesList()

/** One hears oneself after so long, in milliseconds. */
const tryingLasts = 3_000
const rate = 8_000

const words = computed(() => {
  if (voice.refusal) return voice.refusal
  switch (voice.state) {
    case 'off': return t('sound.callsAreReadNotHeard')
    case 'waits': return t('sound.anotherWindowOfThisBrowser')
    case 'connecting': return t('sound.connecting')
    case 'on': return voice.microphoneProblem ?? t('sound.youHearYourCallsAnd')
    case 'lost': return t('sound.soundIsLostCallsGo')
  }
  return ''
})

const choices = computed(() => [
  { id: 'microphone' as const, label: t('sound.speakInto'), found: audioInputs.value, stream: voice.microphone, level: t('sound.levelOfTheMicrophone') },
  { id: 'headset' as const, label: t('sound.hearBy'), found: audioOutputs.value, stream: voice.remote, level: t('sound.levelOfWhatIsHeard') },
  { id: 'ringing' as const, label: t('sound.ringBy'), found: audioOutputs.value, stream: null, level: null },
])
const named = (found: MediaDeviceInfo[]) => found.filter(({ deviceId, label }) => deviceId && deviceId !== 'default' && label)

const tried = ref('')

/** Sounds as a call does: at the headset, or where it rings. */
async function sound(at: 'headset' | 'ringing'): Promise<void> {
  const audio = new AudioContext()
  await soundAt(audio, devices.value[at])
  const samples = toneSamples(toneOf(live.company!.settings, 'ringing').slice(0, 3), rate, at === 'ringing' ? 0.3 : 0.12)
  const buffer = audio.createBuffer(1, samples.length, rate)
  buffer.copyToChannel(samples, 0)
  const source = audio.createBufferSource()
  source.buffer = buffer
  source.connect(audio.destination)
  source.onended = () => void audio.close()
  source.start()
}

/** What one says for some seconds, and then the same by the headset: all of it stays here. */
async function tryVoice(): Promise<void> {
  if (!voice.microphone) return
  voice.trying = true
  tried.value = t('sound.saySomething')
  const recorder = new MediaRecorder(voice.microphone)
  const parts: Blob[] = []
  recorder.ondataavailable = ({ data }) => parts.push(data)
  const stopped = new Promise(resolve => recorder.onstop = resolve)
  recorder.start()
  setTimeout(() => recorder.state === 'recording' && recorder.stop(), tryingLasts)
  await stopped
  voice.trying = false
  tried.value = t('sound.thisIsHowYouSound')
  const player = new Audio(URL.createObjectURL(new Blob(parts, { type: recorder.mimeType })))
  await soundAt(player, devices.value.headset)
  player.onended = () => {
    tried.value = ''
    URL.revokeObjectURL(player.src)
  }
  await player.play()
}
</script>

<template>
  <el-dialog
    v-model="voice.sheet"
    :title="t('sound.sound')"
    width="min(30rem, 94vw)"
    @closed="focusField"
  >
    <el-form
      class="sheet"
      @submit.prevent
      @keydown.esc.capture="closesDialog($event) && (voice.sheet = false)"
    >
      <el-switch
        v-model="voice.isOn"
        :active-text="t('sound.talkAndHearByThis')"
        :aria-label="t('sound.talkAndHearByThis')"
      />
      <p
        role="status"
        class="state"
        :class="{ wrong: voice.state === 'lost' || voice.refusal || voice.microphoneProblem }"
      >
        {{ words }}
        <el-button
          v-if="voice.isOn && voice.refusal"
          size="small"
          @click="voice.tryAgain"
        >
          {{ t('sound.tryAgain') }}
        </el-button>
      </p>
      <div
        v-for="{ id, label, found, stream, level } in choices"
        :key="id"
        class="choice"
      >
        <label :for="`sound-${id}`">{{ label }}</label>
        <el-select
          :id="`sound-${id}`"
          v-model="devices[id]"
          :aria-label="label"
          :empty-values="[null, undefined]"
        >
          <el-option
            value=""
            :label="t('sound.theUsualOneOfThis')"
          />
          <el-option
            v-for="{ deviceId, label: name } in named(found)"
            :key="deviceId"
            :value="deviceId"
            :label="name"
          />
        </el-select>
        <LevelMeter
          v-if="level"
          :stream="stream"
          :label="level"
        />
      </div>
      <div class="tries">
        <el-button
          :disabled="!voice.microphone || voice.trying"
          @click="tryVoice"
        >
          {{ t('sound.hearMyself') }}
        </el-button>
        <el-button @click="sound('headset')">
          {{ t('sound.soundInTheHeadset') }}
        </el-button>
        <el-button @click="sound('ringing')">
          {{ t('sound.ring') }}
        </el-button>
        <span
          role="status"
          class="state"
        >{{ tried }}</span>
      </div>
      <el-checkbox v-model="voice.captions">
        {{ t('sound.showWhatIsSaidUnder') }}
      </el-checkbox>
    </el-form>
  </el-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: var(--space-4);
}

.choice {
  display: grid;
  gap: var(--space-2);
}

p.state {
  min-height: 1.5em;
}

.state {
  color: var(--ink-soft);
}

.wrong {
  color: var(--alarm);
  font-weight: 600;
}

.tries {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--space-3);
}

.tries .el-button {
  margin: 0;
}
</style>
