<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { useWays } from '~/stores/ways'

const desk = useDesk()
const field = useField()
const live = useLive()
const ways = useWays()

const first = computed(() => field.ways[0]!)
const others = computed(() => field.ways.slice(1))
const dials = computed(() => first.value.id === 'call' && !field.best)
</script>

<template>
  <el-button
    class="first"
    :disabled="!live.working"
    @click="field.take(first)"
  >
    <kbd>{{ first.key }}</kbd> {{ first.words }}
  </el-button>
  <el-button
    v-for="way in others"
    :key="way.id"
    class="other"
    :disabled="!live.working"
    :aria-label="`${way.label}: ${way.words}`"
    :title="way.words"
    @click="field.take(way)"
  >
    <kbd>{{ way.key }}</kbd> {{ way.label }}
  </el-button>
  <el-input
    v-if="desk.baton"
    v-model="ways.note"
    class="more"
    maxlength="120"
    placeholder="A line to send along"
    aria-label="A line of text to send along with the call"
    @keydown.enter.prevent="field.take(first)"
  />
  <el-input
    v-else-if="dials"
    v-model="ways.account"
    class="more"
    maxlength="24"
    placeholder="Account code, if wanted"
    aria-label="Account code for this call"
    @keydown.enter.prevent="field.take(first)"
  />
</template>

<style scoped>
.el-button {
  margin: 0;
}

.first {
  --el-button-bg-color: var(--paper-deep);
  max-width: 100%;
  height: auto;
  min-height: 2.25rem;
  line-height: 1.3;
  text-align: left;
  white-space: normal;
}

.other {
  padding-inline: var(--space-3);
}

.more {
  width: 12rem;
}
</style>
