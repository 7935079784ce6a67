<script setup lang="ts">
import { kindNames, numberKinds } from '~~/core/formats/number-kinds'
import type { Contact } from '~~/shared/contacts'

/** The numbers of a contact, one to a line. */
defineProps<{ errors: Record<string, string> }>()
const numbers = defineModel<Contact['numbers']>({ required: true })
</script>

<template>
  <fieldset class="numbers">
    <legend>{{ t('contacts.numbers') }}</legend>
    <div
      v-for="(one, index) in numbers"
      :key="index"
      class="number"
    >
      <el-input
        v-model="one.number"
        maxlength="40"
        :aria-label="t('contacts.numberN', { n: index + 1 })"
      />
      <el-select
        v-model="one.kind"
        :aria-label="t('contacts.kindOfNumber', { n: index + 1 })"
      >
        <el-option
          v-for="kind in numberKinds"
          :key="kind"
          :value="kind"
          :label="say(kindNames[kind])"
        />
      </el-select>
    </div>
    <p
      v-for="fault in Object.keys(errors).filter(field => field.startsWith('numbers'))"
      :key="fault"
      class="fault"
      role="alert"
    >
      {{ errors[fault] }}
    </p>
    <el-button
      size="small"
      @click="numbers.push({ number: '', kind: 'mobile' })"
    >
      {{ t('contacts.anotherNumber') }}
    </el-button>
  </fieldset>
</template>

<style scoped>
.numbers {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  padding: 0 0 var(--space-4);
  margin: 0;
  border: 0;
}

.number {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 8rem;
  gap: var(--space-3);
  width: 100%;
}

.fault {
  color: var(--alarm);
}
</style>
