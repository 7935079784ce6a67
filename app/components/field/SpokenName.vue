<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { longestName, speechRate } from '~~/core/recognition/speech'
import { useSoundDevices } from '~/composables/sound-devices'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useField } from '~/stores/field'
import { useVoice } from '~/stores/voice'

/** A name is said while a key, or this button, is held, and stands in the field as if it had been typed. Nobody on a call hears it. */
const emit = defineEmits<{ said: [] }>()
const desk = useDesk()
const dialogs = useDialogs()
const field = useField()
const voice = useVoice()
const devices = useSoundDevices()
const understands = ref(false)
onMounted(async () => {
  // A server that can't say is one that can't be spoken to.
  understands.value = (await $fetch<{ understands: boolean }>('/api/spoken-names').catch(() => null))?.understands ?? false
})

const key = '%'
/** Milliseconds: whoever lets go sooner has pressed, and presses again when the name is said. */
const press = 400
const recorder = shallowRef<MediaRecorder | null>(null)
let since = 0
let begun = false

async function begin(): Promise<void> {
  if (begun) return end()
  begun = true
  isVoid = false
  // Before the microphone is open: it may be open already, to a caller.
  voice.aside = true
  since = performance.now()
  const typed = field.text
  const { microphone } = devices.value
  const stream = await navigator.mediaDevices?.getUserMedia({ audio: microphone ? { deviceId: microphone } : true }).catch(() => undefined)
  if (!stream) {
    over()
    return desk.refuse(t('spokenName.noMicrophone'))
  }
  const parts: Blob[] = []
  const started = new MediaRecorder(stream)
  const late = setTimeout(end, longestName * 1_000)
  started.ondataavailable = ({ data }) => parts.push(data)
  started.onstop = () => {
    clearTimeout(late)
    over()
    for (const track of stream.getTracks()) track.stop()
    if (!isVoid) void understand(new Blob(parts, { type: started.mimeType }), typed)
  }
  recorder.value = started
  started.start()
  // Let go of before the microphone was open: nothing has been said.
  if (letGo || isVoid) end()
}

function over(): void {
  recorder.value = null
  begun = false
  voice.aside = false
}

function end(): void {
  if (recorder.value?.state === 'recording') recorder.value.stop()
}

let letGo = false
function hold(): void {
  letGo = false
  void begin()
}
function release(): void {
  if (!begun || performance.now() - since < press) return
  letGo = true
  end()
}

/** Nothing comes of it any more. */
let isVoid = false
function cancel(): void {
  isVoid = true
  end()
}
// Whoever takes a call meanwhile is heard on it.
watch(() => desk.talking?.id, now => now && cancel())

/** @param typed what stood in the field then: who has typed something since means that */
async function understand(sound: Blob, typed: string): Promise<void> {
  try {
    const { asWav } = await import('~/composables/own-sounds')
    const wav = await asWav(sound, speechRate, longestName, true)
    const { name } = await $fetch<{ name: string | null }>('/api/spoken-names', { method: 'POST', body: { wav } })
    if (name === null) return desk.refuse(t('spokenName.nothingUnderstood'))
    if (field.text !== typed) return
    field.type(name)
    emit('said')
    desk.say(t('spokenName.understood', { name }))
  }
  catch (error) {
    desk.refuse(sentenceOf(error))
  }
}

const isMeant = (event: KeyboardEvent) => event.key === key && understands.value && field.text === '' && !dialogs.isOpen
  && ((event.target as HTMLElement).id === 'who' || !ownsKeys(event.target))
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!isMeant(event)) return
  event.preventDefault()
  event.stopPropagation()
  if (!event.repeat) hold()
}, { capture: true })
// Which sign it was is not known any more when Shift is let go first.
useEventListener(window, 'keyup', () => release())
useEventListener(window, 'blur', end)

onBeforeUnmount(cancel)
</script>

<template>
  <el-button
    v-if="understands"
    class="say"
    :class="{ listens: recorder }"
    size="small"
    :aria-label="t('spokenName.sayANameByKey')"
    :title="t('spokenName.sayANameByKey')"
    :aria-pressed="recorder !== null"
    @pointerdown="hold"
    @pointerup="release"
    @pointerleave="release"
    @click="$event.detail === 0 && hold()"
  >
    {{ recorder ? t('spokenName.listens') : t('spokenName.say') }}&nbsp;<kbd>{{ key }}</kbd>
  </el-button>
</template>

<style scoped>
.say {
  grid-row: 2;
  grid-column: 1;
  align-self: center;
  justify-self: end;
  width: 6rem;
  margin-right: var(--space-2);
}

.listens {
  --el-button-bg-color: var(--ink);
  --el-button-text-color: var(--lit);
}
</style>
