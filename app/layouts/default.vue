<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { useDesk } from '~/stores/desk'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

const live = useLive()
const desk = useDesk()
const session = useSession()
/** The feed was closed by the server: whoever is still signed in comes again with the rights they have now. */
watch(() => live.over, async () => {
  try {
    const before = session.me
    if (!await session.check()) {
      await navigateTo('/sign-in')
      return
    }
    if (session.me?.role === before?.role && session.me?.device === before?.device) return
    live.close()
    live.open()
  }
  catch {
    // The server is away: the console says so, and asks again when it comes back.
  }
})

live.onHappening(desk.follow)
useIntervalFn(desk.tick, 250)
onMounted(live.open)
onBeforeUnmount(live.close)

const title = computed(() => desk.arriving.length > 0 ? `(${desk.arriving.length}) Estafette` : 'Estafette')
useHead({ title })
</script>

<template>
  <div class="workplace">
    <TheHeader v-if="session.me" />
    <LiveNotice />
    <p
      class="unseen"
      role="status"
      aria-live="polite"
    >
      {{ desk.spoken }}
    </p>
    <main class="page">
      <p
        v-if="!live.state"
        class="empty"
      >
        Fetching the picture of all extensions…
      </p>
      <slot v-else />
    </main>
  </div>
</template>

<style scoped>
.workplace {
  display: flex;
  flex-direction: column;
  height: 100%;
}

.page {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}

.empty {
  margin: auto;
  display: grid;
  gap: var(--space-5);
  justify-items: center;
  color: var(--ink-soft);
  font-size: var(--type-4);
}
</style>
