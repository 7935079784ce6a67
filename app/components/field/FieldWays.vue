<script setup lang="ts">
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'

const field = useField()
const live = useLive()

const first = computed(() => field.ways[0]!)
const others = computed(() => field.ways.slice(1))
const signs: Record<string, string> = { Enter: '⏎', Shift: '⇧', Ctrl: 'Ctrl ' }
/** A key as short as it can be written. */
const keyWords = (key: string) => key.split('+').map(part => signs[part] ?? part).join('')
</script>

<template>
  <el-button
    class="first"
    :disabled="!live.working"
    @click="field.take(first)"
  >
    <kbd>{{ first.key }}</kbd> {{ first.words }}
  </el-button>
  <div class="others">
    <el-button
      v-for="way in others"
      :key="way.id"
      class="other"
      :disabled="!live.working"
      :aria-label="`${way.label}: ${way.words}`"
      :title="way.words"
      @click="field.take(way)"
    >
      <kbd>{{ keyWords(way.key) }}</kbd> {{ way.label }}
    </el-button>
    <span class="more">
      <LazyFieldAddition />
    </span>
  </div>
</template>

<style scoped>
.others {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-2);
  /* What does not fit stands below, whole, and is reached by wheel and Tab. */
  align-content: safe center;
  max-height: 3.5rem;
  overflow: hidden auto;
}

.other {
  height: 1.625rem;
  margin: 0;
  padding-inline: var(--space-3);
}

.other kbd {
  margin-right: var(--space-2);
}

.more {
  flex: 1 1 8rem;
  min-width: 8rem;
  max-width: 11rem;
}

.more:empty {
  display: none;
}
</style>
