<script setup lang="ts">
import { formatNumber, readDialled } from '~/composables/numbers'
import type { LogPage } from '~~/shared/log'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'

const desk = useDesk()
const live = useLive()
const last = ref<{ number: string, name: string }[]>([])
const failure = ref<string | null>(null)
const mostAsked = 40
const shown = 10

/** None yet: said in a line that can't be chosen. */
const choices = computed(() => last.value.length > 0
  ? last.value.map(({ number, name }) => ({ id: number, label: name }))
  : [{ id: 'none', label: failure.value ?? t('field.youHaveCalledNobodyYet'), disabled: true }])

async function load(): Promise<void> {
  try {
    const { rows } = await $fetch<LogPage>('/api/calls', { query: { kind: 'dialled', limit: mostAsked } })
    const numbers = new Map<string, string>()
    for (const { dialled, story, names } of rows) {
      const read = readDialled(dialled)
      const number = read.kind === 'outside' ? read.e164 : dialled
      const reached = story.find(step => step.type === 'delivered' || step.type === 'failed' || step.type === 'queued')
      if (!numbers.has(number)) numbers.set(number, read.kind === 'outside' ? formatNumber(number) : say((reached && names[reached.device]) ?? dialled))
    }
    last.value = [...numbers].slice(0, shown).map(([number, name]) => ({ number, name }))
    failure.value = null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}
</script>

<template>
  <ChoiceMenu
    v-if="desk.device"
    :choices="choices"
    :disabled="!live.working"
    @open="load"
    @choose="desk.ask({ service: 'makeCall', number: $event })"
  >
    <el-button text>
      {{ t('field.redial') }}
    </el-button>
  </ChoiceMenu>
</template>
