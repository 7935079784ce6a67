<script setup lang="ts">
/** The way in: what somebody has to do or to know beside the house's front. */
</script>

<template>
  <main class="gate">
    <div class="way">
      <slot />
    </div>
    <HouseFront class="house" />
  </main>
</template>

<style scoped>
.gate {
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(20rem, 28rem) 1fr;
  height: 100%;
}

.way {
  display: grid;
  align-content: center;
  padding: var(--space-7);
}

.house {
  display: block;
  width: 100%;
  height: 100%;
}

@media (max-width: 48rem) {
  .gate {
    grid-template-columns: 1fr;
  }

  .house {
    display: none;
  }

  .way {
    padding: var(--space-6);
  }
}
</style>
