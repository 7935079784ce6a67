<script setup lang="ts">
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { answerAnywhere, nameOfKey } from '~~/core/console/keys'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'
import { pageKey, usePaging } from '~/stores/paging'
import { usePreferences } from '~/stores/preferences'
import { useSession } from '~/stores/session'
import { useVoice } from '~/stores/voice'

const live = useLive()
const desk = useDesk()
const session = useSession()
const route = useRoute()
const keys = useHandKeys()
const preferences = usePreferences()
const paging = usePaging()
const dialogs = useDialogs()
const voice = useVoice()
/** Dialogs are fetched once everybody is in sight, or as soon as one is asked for: the server may be away later. */
const dialogsFetched = ref(false)
void later(async () => {
  await fetchAllWords()
  dialogsFetched.value = true
})
/** A dialog that is asked for before that waits for its words alone; without the server they come when that is back, by the above. */
const dialogAsked = computed(() => dialogs.isOpen || voice.sheet)
watch(dialogAsked, asked => asked && void fetchAllWords().catch(() => {}))
/** Milliseconds. */
const longestBetweenReloads = 60_000
/** The feed was closed by the server: whoever is still signed in comes again with the rights they have now. */
watch(() => live.over, async () => {
  try {
    const before = session.me
    if (!await session.check()) {
      await navigateTo('/sign-in')
      return
    }
    if (session.me?.role === before?.role && String(session.me?.rights) === String(before?.rights) && session.me?.device === before?.device) return
    live.close()
    live.open()
  }
  catch {
    // The server is away: the console says so, and asks again when it comes back.
  }
})

/** A page that the server is too new for can show nothing: it is loaded again, once in a while. Calls go on at the exchange. */
watch(() => live.outdated, isOutdated => isOutdated && reloadNuxtApp({ ttl: longestBetweenReloads }))

// One key answers whatever has the focus: no text needs it.
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (nameOfKey(event) !== answerAnywhere || event.repeat || !live.working || !desk.device) return
  event.preventDefault()
  keys.pressInHand(event)
})

// What ends something ends it wherever the keyboard is: a microphone that is open, also while something is typed.
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.key !== pageKey || !paging.page || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  event.stopPropagation()
  void paging.close()
}, { capture: true })

// Whoever closes the window has set it nevertheless.
useEventListener('pagehide', () => void preferences.flush())

useKeptFocus()
live.onHappening(desk.follow)
useIntervalFn(desk.tick, 250)
onMounted(() => {
  live.open()
  void preferences.recall()
})
onBeforeUnmount(live.close)

/** On a wall nobody presses anything: it shows what happens, and nothing else. */
const onTheWall = computed(() => route.path === '/wall')

const title = computed(() => desk.arriving.length > 0 ? t('frame.countEstafette', { count: desk.arriving.length }) : 'Estafette')
useHead({ title })
</script>

<template>
  <div class="workplace">
    <TheHeader v-if="session.me && !onTheWall" />
    <LiveNotice />
    <TrackBand v-if="desk.device && route.path !== '/' && live.state && !onTheWall" />
    <div
      class="unseen"
      role="log"
      aria-live="polite"
      aria-relevant="additions"
      :aria-label="t('frame.whatHappens')"
    >
      <p
        v-for="{ id, text } in desk.said"
        :key="id"
      >
        {{ text }}
      </p>
    </div>
    <div
      v-if="desk.device"
      class="lower-bars"
    >
      <PageBar />
      <LazyListenBar v-if="live.state && hasAllWords() && (dialogsFetched || live.state.listenings.has(desk.device))" />
    </div>
    <main
      class="page"
      tabindex="-1"
    >
      <p
        v-if="!live.state"
        class="empty"
      >
        {{ t('frame.loadingAllExtensions') }}
      </p>
      <slot v-else />
      <template v-if="live.state && hasAllWords() && (dialogsFetched || dialogAsked)">
        <LazyStoryDialog />
        <LazyDigitsDialog />
        <LazyMessageDialog />
        <LazyBlockDialog />
        <LazyCallBackDialog />
        <LazyContactDialog />
        <LazyClosingDialog />
        <LazyForwardingDialog />
        <LazyQuietDialog />
        <LazyCalendarDialog />
        <LazySoundSheet v-if="desk.device" />
        <LazyOwnEar v-if="desk.device && voice.isOn" />
      </template>
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
  outline: none;
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
