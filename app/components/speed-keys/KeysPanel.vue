<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { keyStrokes, pageStrokes } from '~~/core/speed-keys/key'
import { useSpeedKeys } from '~/stores/speed-keys'

/** Pages of speed keys in the side panel. */
const speedKeys = useSpeedKeys()
const { faceOf } = useSpeedKeyWords()
const page = computed(() => speedKeys.open)
// Whoever takes the mouse has given the strokes up.
useEventListener('pointerdown', () => {
  speedKeys.awaits = null
})
const named = computed(() => speedKeys.named && faceOf(speedKeys.named).name)
</script>

<template>
  <aside
    class="panel"
    :aria-label="t('speedKeys.speedKeys')"
  >
    <header>
      <h2>{{ t('speedKeys.speedKeys') }}</h2>
      <span>
        <el-button
          text
          size="small"
          :aria-pressed="speedKeys.arranging"
          @click="speedKeys.arranging = !speedKeys.arranging"
        >
          {{ speedKeys.arranging ? t('common.done') : t('speedKeys.arrange') }}
        </el-button>
        <el-button
          text
          size="small"
          @click="speedKeys.show(false)"
        >
          {{ t('common.close') }}
        </el-button>
      </span>
    </header>
    <ul
      v-if="speedKeys.pages.length"
      class="pages"
      :aria-label="t('speedKeys.pages')"
    >
      <li
        v-for="(known, index) in speedKeys.pages"
        :key="known.id"
      >
        <button
          type="button"
          :aria-pressed="known.id === page?.id"
          :title="known.shared ? t('speedKeys.sharedByAllOperators') : t('speedKeys.yourOwn')"
          @click="speedKeys.openId = known.id"
        >
          <kbd
            :class="{ awaited: speedKeys.awaits === 'page' }"
            aria-hidden="true"
          >{{ pageStrokes[index] }}</kbd> {{ known.name }}
        </button>
      </li>
    </ul>
    <div
      :key="page?.id"
      class="content"
      tabindex="0"
    >
      <FailureNote :text="speedKeys.failure" />
      <el-button
        v-if="named && page && !speedKeys.arranging"
        class="add"
        size="small"
        @click="speedKeys.add(speedKeys.named)"
      >
        <kbd>⇧F9</kbd>&nbsp;{{ t('speedKeys.makeAKeyOf', { named }) }}
      </el-button>
      <KeysArranged v-if="speedKeys.arranging" />
      <ol
        v-else-if="page?.keys.length"
        class="keys"
        :aria-label="page.name"
      >
        <li
          v-for="(key, index) in page.keys"
          :key="`${index} ${key.kind} ${key.of}`"
        >
          <SpeedKeyButton
            :speed-key="key"
            :stroke="keyStrokes[index]!"
            :awaited="speedKeys.awaits === 'key'"
          />
        </li>
      </ol>
      <p
        v-else
        class="soft"
      >
        {{ page ? t('speedKeys.noKeyIsOnThis')
          : t('speedKeys.hereStandThePeopleGroups') }}
      </p>
      <KeyChoice
        v-if="page"
        class="choice"
      />
    </div>
  </aside>
</template>

<style scoped>
.pages {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1);
  padding: 0 var(--space-4) var(--space-3);
}

.pages button {
  padding: var(--space-1) var(--space-3);
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: var(--round);
  color: var(--ink-soft);
  font-size: var(--type-2);
  cursor: pointer;
}

.pages button[aria-pressed='true'] {
  border-color: var(--ink);
  color: var(--ink);
  font-weight: 650;
}

kbd.awaited {
  background: var(--ink);
  color: var(--paper);
}

.add {
  width: 100%;
  margin-bottom: var(--space-3);
  white-space: normal;
}

.choice {
  margin-top: var(--space-4);
}

.keys {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(8.25rem, 1fr));
  gap: var(--space-2);
}
</style>
