<script setup lang="ts">
/** A field of a form, with what is wrong with it said at it. */
defineProps<{ label: string, for: string, error?: string }>()
</script>

<template>
  <el-form-item
    :label="label"
    :for="$props.for"
    :error="error"
  >
    <slot />
    <template #error="{ error: sentence }">
      <p
        class="wrong"
        role="alert"
      >
        {{ sentence }}
      </p>
    </template>
  </el-form-item>
</template>

<style scoped>
.wrong {
  color: var(--alarm);
  line-height: 1.3;
}
</style>
