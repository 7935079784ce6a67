<script setup lang="ts">
/** The form of a step: what it asks for, what went wrong, and on to the next. */
defineProps<{ failure: string | null, sending: boolean }>()
const emit = defineEmits<{ keep: [] }>()
</script>

<template>
  <el-form
    label-position="top"
    @submit.prevent="emit('keep')"
  >
    <slot />
    <FailureNote :text="failure" />
    <p class="button-row">
      <el-button
        type="primary"
        native-type="submit"
        :loading="sending"
      >
        {{ t('firstHour.keepAndGoOn') }}
      </el-button>
      <slot name="more" />
    </p>
  </el-form>
</template>
