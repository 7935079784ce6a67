<script setup lang="ts">
import type { Loudness, Voice } from '~~/core/console/announcements'
import { type OwnSession, passwordChange } from '~~/shared/people'
import { usePreferences } from '~/stores/preferences'
import { useSession } from '~/stores/session'

useHead({ title: 'Your account · Estafette' })

const session = useSession()
const preferences = usePreferences()
const howMuch: Record<Loudness, string> = {
  urgent: 'Only what can\'t wait: who is back, who has gone, who waits too long',
  calls: 'Also what happens to calls',
  everything: 'Also what I do myself',
}
const howFast: Record<Voice, string> = { slow: 'Slowly', usual: 'At the usual speed', fast: 'Fast' }
/** Telephone links of other pages open the console with the number in the field. */
const canHandleLinks = 'registerProtocolHandler' in navigator
function handleLinks(): void {
  navigator.registerProtocolHandler('tel', `${location.origin}/?dial=%s`)
}

const form = reactive({ current: '', wanted: '' })
const { failure, sending, send } = useForm()
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
  done.value = 'Your password is changed. Every other browser has been signed out.'
  await load()
}

async function end({ id, browser }: OwnSession): Promise<void> {
  failure.value = done.value = null
  try {
    await $fetch(`/api/sessions/${encodeURIComponent(id)}`, { method: 'DELETE' })
    done.value = `${browser} is signed out.`
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
    <h1>Your account</h1>
    <p class="soft">
      {{ session.me?.name }}, signed in as <strong>{{ session.me?.signIn }}</strong>, {{ session.me?.role }},
      {{ session.me?.extension ? `telephone ${session.me.extension}` : 'no telephone' }}
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
          Change your password
        </h2>
        <form
          class="form"
          @submit.prevent="change"
        >
          <label for="password-current">Present password</label>
          <el-input
            id="password-current"
            v-model="form.current"
            type="password"
            autocomplete="current-password"
            maxlength="200"
          />
          <label for="password-wanted">New password</label>
          <el-input
            id="password-wanted"
            v-model="form.wanted"
            type="password"
            autocomplete="new-password"
            maxlength="200"
          />
          <p class="soft">
            Several words are easier to remember, and harder to guess, than one with signs in it.
          </p>
          <el-button
            native-type="submit"
            type="primary"
            :loading="sending"
          >
            Change it
          </el-button>
        </form>
      </section>
      <section
        v-if="session.me?.device"
        aria-labelledby="said-title"
      >
        <h2 id="said-title">
          What is said by itself
        </h2>
        <p class="soft">
          To a screen reader. The rest is told by a key each: ? who waits, comma where everybody is, full stop this call, colon what was said last.
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
          Also what callers say
        </el-checkbox>
        <h3 id="voice-title">
          How fast your voice reads
        </h3>
        <p class="soft">
          What is said next waits for it: the faster, the sooner.
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
          Telephone links
        </h2>
        <p class="soft">
          Links of other pages that name a telephone number (tel:) open the console with the number in the field.
        </p>
        <el-button @click="handleLinks">
          Open them here
        </el-button>
      </section>
      <section aria-labelledby="sessions-title">
        <h2 id="sessions-title">
          Where you are signed in
        </h2>
        <ul class="sessions">
          <li
            v-for="entry in sessions"
            :key="entry.id"
          >
            <span class="what"><strong>{{ entry.browser }}</strong> <span class="soft">from {{ entry.address }}</span></span>
            <span class="soft">since {{ shownAt(entry.createdAt).format('D MMM H:mm') }}, last seen {{ shownAt(entry.seenAt).format('H:mm') }}</span>
            <span v-if="entry.own">this one</span>
            <el-button
              v-else
              size="small"
              :aria-label="`Sign out ${entry.browser} from ${entry.address}`"
              @click="end(entry)"
            >
              Sign out
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
