<script setup lang="ts">
useHead({ title: t('company.peopleFromAFileEstafette') })

const done = ref('')
</script>

<template>
  <div class="records-page">
    <h1>{{ t('company.peopleFromAFile') }}</h1>
    <p class="button-row">
      <el-button @click="navigateTo('/company')">
        {{ t('company.backToTheCompany') }}
      </el-button>
    </p>
    <p
      v-if="done"
      class="done"
      role="status"
    >
      {{ done }}
    </p>
    <PeopleFile @done="done = $event" />
  </div>
</template>
