<script setup lang="ts">
import type { Company } from '~~/core/company/company'
import { type ToneKind, tonesOfCountry } from '~~/core/sound/country-tones'
import { readTone } from '~~/core/sound/tone'

/** A tone as it is written, to be heard before it is kept; empty is the country's own. */
const props = defineProps<{ id: string, company: Company, at: string, label: string }>()
const value = defineModel<string>({ required: true })

const ofCountry = computed(() => tonesOfCountry(props.company.settings.country)[props.at.split('.')[1] as ToneKind])
const tone = computed(() => readTone(value.value.trim() || ofCountry.value))
const isHeard = ref(false)
useTone(() => isHeard.value ? tone.value : null)
</script>

<template>
  <div class="tone">
    <el-input
      :id="id"
      v-model="value"
      maxlength="200"
      :aria-describedby="`${id}-hint`"
    />
    <el-button
      :disabled="!tone"
      :aria-pressed="isHeard"
      :aria-label="`${isHeard ? t('company.stop') : t('company.hear')}: ${label}`"
      @click="isHeard = !isHeard"
    >
      {{ isHeard ? t('company.stop') : t('company.hear') }}
    </el-button>
  </div>
  <span
    :id="`${id}-hint`"
    class="hint"
  >{{ t('company.hertzThenSecondsEmptyAs', { ofCountry }) }}</span>
</template>

<style scoped>
.tone {
  display: flex;
  align-items: stretch;
  gap: var(--space-2);
  width: 100%;
  padding-bottom: var(--space-1);
}

.tone .el-button {
  height: auto;
}

.hint {
  color: var(--ink-soft);
  font-size: var(--type-2);
  line-height: 1.3;
}
</style>
