<script setup lang="ts">
import { roleNames } from '~~/shared/role-names'
import type { Loudness, Voice } from '~~/core/console/announcements'
import { type OwnSession, passwordChange } from '~~/shared/people'
import { usePreferences } from '~/stores/preferences'
import { useSession } from '~/stores/session'

useHead({ title: t('account.yourAccountEstafette') })

const session = useSession()
const preferences = usePreferences()
const howMuch: Record<Loudness, string> = {
  urgent: t('account.onlyWhatCantWaitWho'),
  calls: t('account.alsoWhatHappensToCalls'),
  everything: t('account.alsoWhatIDoMyself'),
}
const howFast: Record<Voice, string> = { slow: t('account.slowly'), usual: t('account.atTheUsualSpeed'), fast: t('account.fast') }
/** Telephone links of other pages open the console with the number in the field. */
const canHandleLinks = 'registerProtocolHandler' in navigator
function handleLinks(): void {
  navigator.registerProtocolHandler('tel', `${location.origin}/?dial=%s`)
}

const form = reactive({ current: '', wanted: '' })
const { failure, sending, send } = useForm({ current: t('account.presentPassword'), wanted: t('account.newPassword') })
const done = ref<string | null>(null)
const sessions = ref<OwnSession[]>([])

async function load(): Promise<void> {
  try {
    sessions.value = await $fetch<OwnSession[]>('/api/sessions')
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

async function change(): Promise<void> {
  done.value = null
  const changed = await send({}, async () => {
    await $fetch('/api/password', { method: 'POST', body: passwordChange.validateSync(form) })
  })
  if (!changed) return
  Object.assign(form, { current: '', wanted: '' })
  done.value = t('account.yourPasswordIsChangedEvery')
  await load()
}

async function end({ id, browser }: OwnSession): Promise<void> {
  failure.value = done.value = null
  try {
    await $fetch(`/api/sessions/${encodeURIComponent(id)}`, { method: 'DELETE' })
    done.value = t('account.isSignedOut', { browser })
    await load()
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

onMounted(load)
</script>

<template>
  <div class="records-page">
    <h1>{{ t('account.yourAccount') }}</h1>
    <p class="soft">
      {{ t('account.signedInAs', { name: session.me?.name ?? '' }) }} <strong>{{ session.me?.signIn }}</strong>,
      {{ session.me && say(roleNames[session.me.role]) }},
      {{ session.me?.extension ? t('account.telephone', { extension: session.me.extension }) : t('common.noTelephone') }}
    </p>
    <FailureNote :text="failure" />
    <p
      v-if="done"
      class="done"
      role="status"
    >
      {{ done }}
    </p>
    <div class="two">
      <section aria-labelledby="password-title">
        <h2 id="password-title">
          {{ t('account.changeYourPassword') }}
        </h2>
        <form
          class="form"
          @submit.prevent="change"
        >
          <label for="password-current">{{ t('account.presentPassword') }}</label>
          <el-input
            id="password-current"
            v-model="form.current"
            type="password"
            autocomplete="current-password"
            maxlength="200"
          />
          <label for="password-wanted">{{ t('account.newPassword') }}</label>
          <el-input
            id="password-wanted"
            v-model="form.wanted"
            type="password"
            autocomplete="new-password"
            maxlength="200"
          />
          <p class="soft">
            {{ t('account.severalWordsAreEasierTo') }}
          </p>
          <el-button
            native-type="submit"
            type="primary"
            :loading="sending"
          >
            {{ t('account.changeIt') }}
          </el-button>
        </form>
      </section>
      <section
        v-if="session.me?.device"
        aria-labelledby="said-title"
      >
        <h2 id="said-title">
          {{ t('account.whatIsSaidByItself') }}
        </h2>
        <p class="soft">
          {{ t('account.toAScreenReaderThe') }}
        </p>
        <el-radio-group
          :model-value="preferences.loudness"
          aria-labelledby="said-title"
          @change="preferences.set({ loudness: $event as Loudness })"
        >
          <el-radio
            v-for="(words, loudness) in howMuch"
            :key="loudness"
            :value="loudness"
          >
            {{ words }}
          </el-radio>
        </el-radio-group>
        <el-checkbox
          :model-value="preferences.saysWords"
          @change="preferences.set({ saysWords: Boolean($event) })"
        >
          {{ t('account.alsoWhatCallersSay') }}
        </el-checkbox>
        <h3 id="voice-title">
          {{ t('account.howFastYourVoiceReads') }}
        </h3>
        <p class="soft">
          {{ t('account.whatIsSaidNextWaits') }}
        </p>
        <el-radio-group
          :model-value="preferences.voice"
          aria-labelledby="voice-title"
          @change="preferences.set({ voice: $event as Voice })"
        >
          <el-radio
            v-for="(words, voice) in howFast"
            :key="voice"
            :value="voice"
          >
            {{ words }}
          </el-radio>
        </el-radio-group>
      </section>
      <section
        v-if="canHandleLinks"
        aria-labelledby="links-title"
      >
        <h2 id="links-title">
          {{ t('account.telephoneLinks') }}
        </h2>
        <p class="soft">
          {{ t('account.linksOfOtherPagesThat') }}
        </p>
        <el-button @click="handleLinks">
          {{ t('account.openThemHere') }}
        </el-button>
      </section>
      <section aria-labelledby="sessions-title">
        <h2 id="sessions-title">
          {{ t('account.whereYouAreSignedIn') }}
        </h2>
        <ul class="sessions">
          <li
            v-for="entry in sessions"
            :key="entry.id"
          >
            <span class="what"><strong>{{ entry.browser }}</strong> <span class="soft">{{ t('account.fromAddress', { address: entry.address }) }}</span></span>
            <span class="soft">{{ t('account.sinceLastSeen', {
              at: shownAt(entry.createdAt).format('D MMM H:mm'), at2: shownAt(entry.seenAt).format('H:mm'),
            }) }}</span>
            <span v-if="entry.own">{{ t('account.thisOne') }}</span>
            <el-button
              v-else
              size="small"
              :aria-label="t('account.signOutFrom', { browser: entry.browser, address: entry.address })"
              @click="end(entry)"
            >
              {{ t('account.signOut') }}
            </el-button>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(20rem, 1fr));
  gap: var(--space-6);
  padding-top: var(--space-5);
}

section {
  padding: var(--space-5);
  background: var(--sheet);
  border: var(--line);
  border-radius: var(--round-large);
}

h2 {
  padding-bottom: var(--space-4);
  font: 700 var(--type-4) var(--font-sign);
}

h3 {
  padding-top: var(--space-4);
  font: 700 var(--type-3) var(--font-sign);
}

.el-radio-group {
  display: grid;
}

/* A choice of several words stands in as many lines as it needs. */
.el-radio {
  height: auto;
  min-height: 2rem;
  white-space: normal;
}

.form {
  display: grid;
  gap: var(--space-3);
}

.form .el-button {
  justify-self: start;
}

.sessions li {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: var(--space-2) var(--space-4);
  padding: var(--space-3) 0;
  border-bottom: var(--line);
}

.what {
  grid-column: 1 / -1;
}
</style>
