<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { usePreferences } from '~/stores/preferences'
import { useSpeedKeys } from '~/stores/speed-keys'

/** What the side panel is about, and the two buttons that stand in its corner whatever that is. */
defineProps<{ title: string }>()
const desk = useDesk()
const preferences = usePreferences()
const speedKeys = useSpeedKeys()
</script>

<template>
  <header>
    <h2>{{ title }}</h2>
    <el-button
      v-if="desk.operates"
      text
      size="small"
      @click="speedKeys.show(true)"
    >
      {{ t('panel.keys') }}&nbsp;<kbd>!</kbd>
    </el-button>
    <el-button
      text
      size="small"
      :aria-label="t('panel.hideTheSidePanel')"
      :title="t('panel.hideTheSidePanel')"
      @click="preferences.set({ panelShown: false })"
    >
      {{ t('panel.hide') }}&nbsp;<kbd>-</kbd>
    </el-button>
  </header>
</template>
