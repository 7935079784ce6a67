<script setup lang="ts">
/** Pages without a header have the theme too. */
useTheme()
</script>

<template>
  <NuxtLayout>
    <NuxtPage />
  </NuxtLayout>
</template>
