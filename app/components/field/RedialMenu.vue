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

async function load(open: boolean): Promise<void> {
  if (!open) return
  try {
    const { rows } = await $fetch<LogPage>('/api/calls', { query: { kind: 'dialled', limit: mostAsked } })
    const numbers = new Map<string, string>()
    for (const { dialled, story, names } of rows) {
      const read = readDialled(dialled)
      const number = read.kind === 'outside' ? read.e164 : dialled
      const reached = story.find(step => step.type === 'delivered' || step.type === 'failed' || step.type === 'queued')
      if (!numbers.has(number)) numbers.set(number, read.kind === 'outside' ? formatNumber(number) : (reached && names[reached.device]) ?? dialled)
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
  <el-dropdown
    v-if="desk.device"
    trigger="click"
    :disabled="!live.working"
    @visible-change="load"
    @command="desk.ask({ service: 'makeCall', number: $event as string })"
  >
    <el-button text>
      Redial
    </el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-for="call in last"
          :key="call.number"
          :command="call.number"
        >
          {{ call.name }}
        </el-dropdown-item>
        <el-dropdown-item
          v-if="!last.length"
          disabled
        >
          {{ failure ?? 'You have called nobody yet.' }}
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
