<script setup lang="ts">
/** A text of a page of keys: what is being written stays, whatever changes around it meanwhile, until it is done. */
const props = defineProps<{ value: string, label: string, placeholder?: string }>()
const emit = defineEmits<{ change: [text: string] }>()
const text = ref(props.value)
watch(() => props.value, (now) => {
  text.value = now
})
</script>

<template>
  <input
    v-model="text"
    class="text"
    maxlength="40"
    :aria-label="label"
    :placeholder="placeholder"
    @change="emit('change', text.trim())"
  >
</template>

<style scoped>
.text {
  width: 100%;
  min-width: 0;
  height: 1.75rem;
  padding: 0 var(--space-3);
  background: var(--paper);
  border: 1px solid var(--edge-strong);
  border-radius: var(--round);
  color: var(--ink);
  font: inherit;
}
</style>
