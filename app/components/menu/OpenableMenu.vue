<script setup lang="ts">
import type { DropdownInstance } from 'element-plus'
import type { Choice } from './ChoiceMenu.vue'

/** What ChoiceMenu opens: apart from it, because all that opens beside a button is fetched later than the button. */
const props = defineProps<{ choices: readonly Choice[], disabled?: boolean, staysOpen?: boolean, focused: boolean, openAtOnce: boolean }>()
const emit = defineEmits<{ choose: [id: string], open: [] }>()
const dropdown = useTemplateRef<DropdownInstance>('dropdown')

onMounted(() => {
  if (props.focused) (dropdown.value!.$el as HTMLElement).querySelector('button')?.focus()
  if (props.openAtOnce) dropdown.value!.handleOpen()
})
</script>

<template>
  <el-dropdown
    ref="dropdown"
    trigger="click"
    :disabled="disabled"
    :hide-on-click="!staysOpen"
    @visible-change="$event && emit('open')"
    @command="emit('choose', $event)"
  >
    <slot />
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-for="(choice, index) in choices"
          :key="choice.id"
          :command="choice.id"
          :divided="choice.divided && index > 0"
          :disabled="choice.disabled"
          :class="{ under: choice.under }"
        >
          <span
            v-if="choice.mark"
            class="mark"
            aria-hidden="true"
          >{{ choice.mark }}</span>
          <span class="label">{{ choice.label }}</span> <kbd v-if="choice.key">{{ choice.key }}</kbd>
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.mark {
  margin-right: var(--space-3);
}

.label {
  flex: 1;
}

.label + kbd {
  margin-left: var(--space-4);
}

.under {
  padding-left: var(--space-6);
  color: var(--ink-soft);
}
</style>
