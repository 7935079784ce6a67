<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { longestSound } from '~~/core/sound/own-sounds'
import type { SoundKept } from '~~/shared/own-sounds'
import { useSoundDevices } from '~/composables/sound-devices'
import { useDesk } from '~/stores/desk'
import { useVoice } from '~/stores/voice'

/** The sound at one place: heard, recorded here, made from a file, taken away. */
const { place, what, kept } = defineProps<{
  place: string
  /** What it is the sound of, in words. */
  what: string
  /** Undefined: there is none. */
  kept: SoundKept | undefined
}>()
const emit = defineEmits<{ changed: [] }>()
const { failure, sending, send } = useForm()
const desk = useDesk()
const voice = useVoice()
const devices = useSoundDevices()

const address = computed(() => `/api/own-sounds/${encodeURIComponent(place)}`)
const from = computed(() => kept && t(kept.name ? 'ownSounds.fromFileBy' : 'ownSounds.recordedBy', {
  name: kept.name, by: kept.by, when: shownAt(kept.at).format('D MMM H:mm'),
}))

async function bring(sound: Blob, name: string): Promise<void> {
  const there = await send({}, async () => {
    // Who records is told when to end, and may be a moment late.
    const wav = await asTelephoneSound(sound, place, name === '')
    await $fetch(address.value, { method: 'PUT', body: { wav, name } })
  })
  if (!there) return
  desk.say(t('ownSounds.kept', { what }))
  emit('changed')
}

const file = useTemplateRef<HTMLInputElement>('file')
async function chosen(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [first] = input.files ?? []
  input.value = ''
  if (first) await bring(first, first.name)
}

const recorder = shallowRef<MediaRecorder | null>(null)
const since = ref(0)
const most = computed(() => longestSound(place) * 1_000)
const lasted = computed(() => recorder.value ? Math.max(0, desk.now - since.value) : 0)

/** Into this browser's microphone; nobody on a call hears it meanwhile. */
async function record(): Promise<void> {
  if (recorder.value) return recorder.value.stop()
  let stream: MediaStream | undefined
  await send({}, async () => {
    const { microphone } = devices.value
    stream = await navigator.mediaDevices.getUserMedia({ audio: microphone ? { deviceId: microphone } : true }).catch(() => {
      throw new NotTaken(t('ownSounds.noMicrophone'))
    })
  })
  if (!stream) return
  const parts: Blob[] = []
  const started = new MediaRecorder(stream)
  started.ondataavailable = ({ data }) => parts.push(data)
  started.onstop = () => {
    recorder.value = null
    voice.aside = false
    for (const track of stream!.getTracks()) track.stop()
    if (!isLetGo) void bring(new Blob(parts, { type: started.mimeType }), '')
  }
  isLetGo = false
  since.value = desk.now
  voice.aside = true
  recorder.value = started
  started.start()
}
watch(lasted, now => now >= most.value && recorder.value?.stop())
let isLetGo = false
function letGo(): void {
  isLetGo = true
  recorder.value?.stop()
}
// Whoever leaves the page in the middle has not said what they wanted to.
onBeforeUnmount(letGo)
// Whoever takes a call meanwhile is heard on it.
watch(() => desk.talking?.id, (now) => {
  if (!now || !recorder.value) return
  letGo()
  failure.value = t('ownSounds.endedByCall')
})

const recordButton = useTemplateRef<{ ref: HTMLElement }>('recordButton')
async function takeAway(): Promise<void> {
  if (!await send({}, () => $fetch(address.value, { method: 'DELETE' }))) return
  desk.say(t('ownSounds.takenAway', { what }))
  emit('changed')
  recordButton.value?.ref.focus()
}
</script>

<template>
  <div class="own-sound">
    <LazyVoicePlayer
      v-if="kept"
      :key="kept.version"
      :address="`${address}/sound`"
      :label="t('ownSounds.soundOf', { what })"
      file="sound.wav"
    />
    <p
      v-if="recorder || from"
      class="soft"
    >
      {{ recorder ? t('ownSounds.recordsNow', { time: spell(lasted), most: spell(most) }) : from }}
    </p>
    <div class="button-row">
      <el-button
        ref="recordButton"
        size="small"
        :disabled="sending"
        :aria-label="recorder ? t('ownSounds.stopRecordingFor', { what }) : t('ownSounds.recordFor', { what })"
        @click="record"
      >
        <span
          v-if="recorder"
          class="sign"
          aria-hidden="true"
        >●</span>{{ recorder ? t('ownSounds.stopRecording') : t('ownSounds.record') }}
      </el-button>
      <el-button
        size="small"
        :disabled="sending || recorder !== null"
        :aria-label="t('ownSounds.bringFileFor', { what })"
        @click="file?.click()"
      >
        {{ t('ownSounds.bringFile') }}
      </el-button>
      <input
        ref="file"
        class="unseen"
        type="file"
        accept="audio/*"
        tabindex="-1"
        aria-hidden="true"
        @change="chosen"
      >
      <el-button
        v-if="kept"
        size="small"
        :disabled="sending || recorder !== null"
        :aria-label="t('ownSounds.takeAwayFor', { what })"
        @click="takeAway"
      >
        {{ t('ownSounds.takeAway') }}
      </el-button>
    </div>
    <FailureNote :text="failure" />
  </div>
</template>

<style scoped>
.own-sound {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
}

.soft {
  color: var(--ink-soft);
}

.sign {
  color: var(--alarm);
}
</style>
