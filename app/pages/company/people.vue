<script setup lang="ts">
useHead({ title: 'People from a file · Estafette' })

const done = ref('')
</script>

<template>
  <div class="records-page">
    <h1>People from a file</h1>
    <p class="button-row">
      <el-button @click="navigateTo('/company')">
        Back to the company
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
