<script setup lang="ts">
/** What a person at a stand-in telephone says: typed, and heard as a caption. */
const props = defineProps<{ say: (words: string) => Promise<unknown> }>()
const words = ref('')

async function speak(): Promise<void> {
  if (words.value.trim() && await props.say(words.value.trim())) words.value = ''
}
</script>

<template>
  <div class="saying">
    <el-input
      v-model="words"
      maxlength="300"
      :placeholder="t('handset.saySomething')"
      :aria-label="t('handset.saySomething')"
      @keydown.enter.prevent="speak"
    />
    <el-button @click="speak">
      {{ t('common.say') }}
    </el-button>
    <slot />
  </div>
</template>
