<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { usePaging } from '~/stores/paging'

/**
 * The open microphone, in sight on every page: to whom one speaks, until when, what is said; then who was reached. It lies over the lower edge: nothing
 * moves for it.
 */
const paging = usePaging()
const live = useLive()
const directory = useDirectory()
const text = ref('')
const input = useTemplateRef<HTMLInputElement>('input')
const reading = ref(false)

watch(() => paging.page?.to, async (to) => {
  text.value = ''
  reading.value = false
  if (!to) return
  await nextTick()
  input.value?.focus()
})

async function say(): Promise<void> {
  const words = text.value.trim()
  text.value = ''
  if (!await paging.speak(words) && !text.value) text.value = words
}
</script>

<template>
  <!-- Escape closes the microphone wherever in the bar the focus is. -->
  <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -->
  <section
    v-if="paging.page"
    class="lower-bar open"
    :aria-label="t('paging.yourMicrophone')"
    @keydown.esc.stop.prevent="paging.close()"
  >
    <p class="to">
      <span
        class="sign"
        aria-hidden="true"
      >{{ paging.page.waits ? '◌' : '●' }}</span>
      <template v-if="paging.page.waits">
        {{ t('paging.speaksThereYouAreNext', { speakers: paging.speakers }) }} <strong>{{ paging.to }}</strong>
      </template>
      <template v-else>
        {{ t('paging.microphoneOpenTo') }} <strong>{{ paging.to }}</strong>
        <span v-if="paging.page.private">{{ ` ${t('paging.alone')}` }}</span>
        <span v-if="paging.page.rank !== 'ordinary'">, {{ paging.page.rank }}</span>
      </template>
    </p>
    <p
      v-if="!paging.page.waits"
      class="left"
    >
      {{ t('paging.closesInUnlessYouGo', { time: spell(paging.left) }) }}
    </p>
    <el-button
      v-if="paging.page.waits"
      size="small"
      :disabled="!live.working"
      @click="paging.open(paging.page.to, 'safety')"
    >
      {{ t('paging.speakOverThemSafetyFirst') }}
    </el-button>
    <form
      v-else
      class="say"
      @submit.prevent="say"
    >
      <input
        ref="input"
        v-model="text"
        maxlength="600"
        :placeholder="t('paging.whatYouSayStandsIn')"
        :aria-label="t('paging.whatYouSay')"
        @input="paging.goOn()"
      >
      <el-button
        size="small"
        native-type="submit"
        :disabled="!live.working"
      >
        {{ t('common.say') }}
      </el-button>
      <el-button
        size="small"
        :aria-expanded="reading"
        @click="reading = !reading"
      >
        {{ t('paging.readOut') }}
      </el-button>
    </form>
    <el-button
      size="small"
      type="primary"
      @click="paging.close()"
    >
      {{ t('common.close') }}&nbsp;<kbd>{{ t('common.esc') }}</kbd>
    </el-button>
    <p
      v-if="paging.page.text"
      class="said"
    >
      “{{ paging.page.text }}”
    </p>
    <div
      v-if="reading && !paging.page.waits"
      class="texts"
      role="group"
      :aria-label="t('paging.announcementsAtHand')"
    >
      <div
        v-for="{ occasion, texts } in paging.announcements"
        :key="occasion"
        class="occasion"
      >
        <h3>{{ occasion }}</h3>
        <button
          v-for="one in texts"
          :key="one.id"
          type="button"
          :aria-disabled="!live.working"
          @click="live.working && paging.read(one)"
        >
          <span>{{ one.text }}</span>
          <span class="often">{{ one.rank === 'ordinary' ? '' : one.rank }}
            {{ one.twice ? t('paging.saidOf2Times', { said: paging.said[one.id] ?? 0 }) : paging.said[one.id] ? t('paging.said') : '' }}</span>
        </button>
      </div>
    </div>
  </section>
  <section
    v-else-if="paging.heard.length"
    class="lower-bar"
    :aria-label="t('paging.somebodySpeaksToYou')"
  >
    <p
      v-for="page in paging.heard"
      :key="page.id"
      class="to"
    >
      <strong>{{ directory.nameOf(page.by) }}</strong> {{ t('paging.speaksTo', {
        more: page.private ? t('paging.you') : directory.nameOf(page.to),
      }) }}<template v-if="page.text">
        : “{{ page.text }}”
      </template>
    </p>
  </section>
  <section
    v-else-if="paging.report"
    class="lower-bar"
    :aria-label="t('paging.whoWasReached')"
  >
    <p class="to">
      {{ paging.report.text }}
    </p>
    <p
      v-if="paging.report.missed.length"
      class="said"
    >
      {{ t('paging.notReached', { missed: paging.report.missed.join(', ') }) }}
    </p>
    <el-button
      size="small"
      text
      @click="paging.report = null"
    >
      {{ t('common.close') }}
    </el-button>
  </section>
</template>

<style scoped>
.left {
  min-width: 15rem;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.say {
  display: flex;
  flex: 1;
  gap: var(--space-2);
  align-items: center;
  min-width: 20rem;
}

.say input {
  flex: 1;
  min-width: 0;
  height: 1.75rem;
  padding: 0 var(--space-3);
  background: var(--lit);
  border: 1px solid var(--edge-strong);
  border-radius: var(--round);
  color: var(--ink);
}

.say .el-button {
  margin: 0;
}

.said {
  flex-basis: 100%;
  max-height: 4.5em;
  overflow: hidden auto;
}

.texts {
  display: grid;
  flex-basis: 100%;
  grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr));
  gap: var(--space-4);
}

.occasion {
  display: grid;
  gap: var(--space-2);
  align-content: start;
}

.texts h3 {
  color: var(--ink-soft);
  font: 600 var(--type-2) var(--font-sign);
}

.texts button {
  display: grid;
  gap: var(--space-1);
  padding: var(--space-2) var(--space-3);
  background: var(--lit);
  border: 1px solid var(--lit-edge);
  border-radius: var(--round);
  color: var(--lit-ink);
  font-size: var(--type-2);
  text-align: left;
  cursor: pointer;
}

.often {
  color: var(--lit-ink-soft);
}
</style>
