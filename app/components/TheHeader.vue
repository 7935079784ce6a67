<script setup lang="ts">
import { Bell, BellOff, HeadphoneOff, Headphones, LogOut, Moon, Sun } from '@lucide/vue'
import { dueNow } from '~~/core/console/call-backs'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useMessages } from '~/stores/messages'
import { useSession } from '~/stores/session'
import { useShift } from '~/stores/shift'
import { useVoice } from '~/stores/voice'

const session = useSession()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const messages = useMessages()
const shift = useShift()
const voice = useVoice()
const troubles = computed(() => live.state?.troubles.size ?? 0)
const due = computed(() => live.state ? dueNow(live.state) : 0)
const { isDark, toggle } = useTheme()
const attention = useAttention()

/** A count that has room: exact to who is told of it, and near enough to who glances. */
const short = (count: number) => count > 99 ? '99+' : String(count)

async function leave(): Promise<void> {
  const count = desk.inHand.length + desk.passedOn.length
  if (count > 0) {
    desk.notice = t('frame.youStillHavePassOn', { count })
    desk.say(desk.notice)
    return
  }
  try {
    const there = await session.signOut()
    await navigateTo(there ?? '/sign-in', { external: there !== null })
  }
  catch (error) {
    desk.notice = sentenceOf(error)
  }
}
</script>

<template>
  <header class="header">
    <NuxtLink
      to="/"
      class="brand"
      :aria-label="t('frame.estafetteTheConsole')"
    >
      <img
        src="/icon.svg"
        alt=""
        width="24"
        height="24"
      >
      <span>Estafette</span>
    </NuxtLink>
    <nav :aria-label="t('frame.main')">
      <NuxtLink to="/">
        {{ t('frame.console') }}
      </NuxtLink>
      <NuxtLink to="/log">
        {{ t('frame.callLog') }}
      </NuxtLink>
      <NuxtLink to="/whereabouts">
        {{ t('frame.whoIsWhere') }}
      </NuxtLink>
      <template v-if="mayOpen('/contacts')">
        <NuxtLink to="/contacts">
          {{ t('frame.contacts') }}
        </NuxtLink>
        <NuxtLink
          to="/call-backs"
          :aria-label="due ? t('frame.callBacksToBeDone', { due }) : t('frame.callBacks')"
        >
          {{ t('frame.callBacks') }}<span
            v-if="due"
            class="count"
          >{{ short(due) }}</span>
        </NuxtLink>
        <NuxtLink
          to="/shift"
          :aria-label="shift.toSign ? t('frame.shiftAHandOverTo') : 'Shift'"
        >
          {{ t('frame.shift') }}<span
            v-if="shift.toSign"
            class="count"
          >1</span>
        </NuxtLink>
        <NuxtLink
          to="/outside"
          :aria-label="troubles ? t('frame.outsideInTrouble', { troubles }) : t('common.outside')"
        >
          {{ t('common.outside') }}<span
            v-if="troubles"
            class="count"
          >{{ short(troubles) }}</span>
        </NuxtLink>
      </template>
      <NuxtLink
        to="/messages"
        :aria-label="messages.unread ? t('frame.messagesUnread', { unread: messages.unread }) : t('common.messages')"
      >
        {{ t('common.messages') }}<span
          v-if="messages.unread"
          class="count"
        >{{ short(messages.unread) }}</span>
      </NuxtLink>
      <NuxtLink to="/handset">
        {{ t('frame.handset') }}
      </NuxtLink>
      <NuxtLink
        v-if="mayOpen('/figures') || mayOpen('/charges')"
        :to="mayOpen('/figures') ? '/figures' : '/charges'"
      >
        {{ t('frame.reports') }}
      </NuxtLink>
      <NuxtLink
        v-if="mayOpen('/accounts')"
        to="/accounts"
      >
        {{ t('common.accounts') }}
      </NuxtLink>
      <template v-if="mayOpen('/company')">
        <NuxtLink to="/company">
          {{ t('common.company') }}
        </NuxtLink>
        <NuxtLink to="/connections">
          {{ t('common.connections') }}
        </NuxtLink>
        <NuxtLink to="/upkeep">
          {{ t('frame.upkeep') }}
        </NuxtLink>
      </template>
    </nav>
    <LinesServed />
    <OwnStatus v-if="desk.device" />
    <NuxtLink
      to="/account"
      class="who"
      :title="t('frame.yourAccountPasswordAndWhere')"
    >
      {{ session.me?.name }}<template v-if="desk.device">
        · {{ directory.numberOf(desk.device) }}
      </template>
    </NuxtLink>
    <el-button
      v-if="desk.device"
      text
      :class="{ lost: voice.state === 'lost' }"
      :icon="voice.state === 'on' ? Headphones : HeadphoneOff"
      :aria-label="t('frame.talkingByThisBrowser', { more: voice.state === 'on' ? t('frame.on') : voice.state === 'lost' ? t('frame.lost') : t('frame.off') })"
      :title="t('frame.soundMicrophoneHeadsetAndWhether')"
      @click="voice.sheet = true"
    />
    <el-button
      v-if="desk.device"
      text
      :icon="attention.sound.value ? Bell : BellOff"
      :aria-label="attention.sound.value ? t('frame.turnTheRingingOff') : t('frame.turnTheRingingOn')"
      @click="attention.toggle"
    />
    <el-button
      text
      :icon="isDark ? Sun : Moon"
      :aria-label="isDark ? t('frame.lightTheme') : t('frame.darkTheme')"
      @click="toggle"
    />
    <el-button
      text
      :icon="LogOut"
      :aria-label="t('frame.signOut')"
      :title="t('frame.signOut')"
      @click="leave"
    />
  </header>
</template>

<style scoped>
.header {
  display: flex;
  align-items: center;
  gap: 0 var(--space-3);
  padding: var(--space-2) var(--space-4);
  background: var(--paper-deep);
  border-bottom: var(--line);
}

.brand {
  display: flex;
  align-items: center;
  gap: var(--space-3);
  color: var(--ink);
  font: 700 var(--type-4) var(--font-sign);
  text-decoration: none;
}

/* Whoever has all pages and a telephone too has more than there is room for: what does not fit is one scroll, or one Tab, away. */
nav {
  display: flex;
  flex: 0 1 auto;
  min-width: 0;
  margin-right: auto;
  padding: var(--space-1) 0 0 var(--space-3);
  overflow: auto hidden;
  scrollbar-width: none;
}

nav a {
  white-space: nowrap;
}

nav a {
  position: relative;
  padding: var(--space-2);
  color: var(--ink-soft);
  text-decoration: none;
  border-bottom: 2px solid transparent;
}

nav a.router-link-exact-active {
  color: var(--ink);
  font-weight: 650;
  border-color: var(--ink);
}

/** Beside the word and above the gap: nothing moves when it comes, goes or grows. */
.count {
  position: absolute;
  top: -0.1em;
  left: calc(100% - var(--space-2) - 1px);
  z-index: 1;
  color: var(--call);
  font-size: var(--type-1);
  font-weight: 800;
  line-height: 1.2;
}

.header .el-button + .el-button {
  margin-left: 0;
}

.header .el-button.is-text {
  padding-inline: var(--space-3);
}

.header .lost {
  color: var(--alarm);
}

.who {
  min-width: 0;
  overflow: hidden;
  color: var(--ink-soft);
  text-decoration: none;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.who:hover {
  text-decoration: underline;
}

@media (max-width: 76rem) {
  .header {
    flex-wrap: wrap;
  }

  nav {
    flex: 1 1 100%;
    order: 1;
    min-width: 0;
    padding-left: 0;
    overflow-x: auto;
  }

  .brand {
    margin-right: auto;
  }
}

@media (max-width: 40rem) {
  .header {
    padding-inline: var(--space-2);
    gap: 0;
  }

  nav a {
    padding: 0 var(--space-3);
    white-space: nowrap;
  }

  .header .el-button {
    padding-inline: var(--space-3);
  }

  .brand span,
  .who {
    display: none;
  }
}
</style>
