<script setup lang="ts">
import { type Lack, lacking } from '~~/core/company/readiness'
import type { AccountInfo } from '~~/shared/people'
import { useLive } from '~/stores/live'

useHead({ title: 'First hour · Estafette' })

/** From an empty house to its first answered call, step by step; each can be left, and everything it does is on record. */
const live = useLive()
const route = useRoute()
const company = computed(() => live.company!)
const accounts = ref<AccountInfo[]>([])
const loadAccounts = async () => void (accounts.value = await $fetch<AccountInfo[]>('/api/accounts').catch(() => accounts.value))
onMounted(loadAccounts)
watch(() => live.news.accounts, loadAccounts)

const steps = [
  { id: 'house', title: 'The house', why: 'What it is called, where it stands, which numbers are its own.', gives: ['name', 'emergency'] },
  { id: 'line', title: 'The general line', why: 'The number that everybody calls, and what operators say.', gives: ['line', 'trunk'] },
  { id: 'people', title: 'People', why: 'Who works here, with their extensions.', gives: ['people'] },
  { id: 'operators', title: 'Who answers', why: 'Callers come to them.', gives: ['operators', 'operatorTelephones'] },
  { id: 'hours', title: 'Hours and holidays', why: 'When callers are answered, and when they can leave a message.', gives: [] },
  { id: 'accounts', title: 'Accounts', why: 'With what operators sign in.', gives: [] },
  { id: 'call', title: 'A first call', why: 'Ring the line, and answer.', gives: [] },
] as const satisfies { id: string, title: string, why: string, gives: Lack[] }[]
type Step = typeof steps[number]['id']

const missing = computed(() => lacking(company.value))
const signsIn = computed(() => {
  const members = company.value.groups[company.value.settings.operators]?.members ?? []
  return members.some(id => accounts.value.some(({ person, disabled }) => !disabled && person !== null && person === company.value.telephones[id]?.person))
})
const isDone = (id: Step) => {
  if (id === 'hours') return Object.keys(company.value.hours).length > 0
  if (id === 'accounts') return signsIn.value
  if (id === 'call') return false
  return !steps.find(step => step.id === id)!.gives.some(one => (missing.value as Lack[]).includes(one))
}
const words: Record<Lack, string> = {
  name: 'the name of the house', trunk: 'a way to the outside', line: 'a line that leads to the operators', emergency: 'the emergency numbers',
  people: 'people', operators: 'somebody who answers', operatorTelephones: 'a telephone of those who answer',
}
const still = computed(() => {
  const all = missing.value.map(one => words[one])
  return all.length === 0 && !signsIn.value ? ['an account of those who answer'] : all
})
const ready = computed(() => missing.value.length === 0)

/** Where somebody begins, or comes back to: the first that is not done. From then on only their own word leads on. */
const begun = steps.find(({ id }) => !isDone(id))?.id ?? 'call'
const step = computed<Step>(() => steps.find(({ id }) => id === route.query.step)?.id ?? begun)
const now = computed(() => steps.find(({ id }) => id === step.value)!)
const go = (id: Step) => navigateTo({ query: { step: id } })
function next(): void {
  void loadAccounts()
  void go(steps[Math.min(steps.length - 1, steps.findIndex(({ id }) => id === step.value) + 1)]!.id)
}
const heading = useTemplateRef<HTMLHeadingElement>('heading')
watch(step, () => nextTick(() => heading.value?.focus()))
onMounted(() => heading.value?.focus())
</script>

<template>
  <div class="records-page first-hour">
    <nav aria-label="Steps of the first hour">
      <h1>First hour</h1>
      <ol>
        <li
          v-for="(one, at) in steps"
          :key="one.id"
        >
          <button
            type="button"
            :class="['step', { now: one.id === step, done: isDone(one.id) }]"
            :aria-current="one.id === step ? 'step' : undefined"
            @click="go(one.id)"
          >
            <span
              class="mark"
              aria-hidden="true"
            >{{ isDone(one.id) ? '✓' : at + 1 }}</span>
            {{ one.title }}<span class="unseen">{{ isDone(one.id) ? ', done' : '' }}</span>
          </button>
        </li>
      </ol>
      <p
        class="still"
        role="status"
      >
        <template v-if="still.length">
          Before the first call can be answered there must be: {{ still.join(', ') }}.
        </template>
        <template v-else>
          Nothing is missing: a call can be answered.
        </template>
      </p>
      <p class="soft">
        Everything is in force at once,
        and can be undone under <NuxtLink to="/company/changes">What was changed</NuxtLink>. Leave whenever you like: it goes on where it was.
      </p>
    </nav>
    <section aria-labelledby="step-title">
      <h2
        id="step-title"
        ref="heading"
        tabindex="-1"
      >
        {{ now.title }}
      </h2>
      <p class="soft">
        {{ now.why }}
      </p>
      <div
        :key="step"
        class="form"
      >
        <HouseStep
          v-if="step === 'house'"
          @done="next"
        />
        <LineStep
          v-else-if="step === 'line'"
          @done="next"
        />
        <PeopleStep
          v-else-if="step === 'people'"
          @done="next"
        />
        <OperatorsStep
          v-else-if="step === 'operators'"
          @done="next"
        />
        <HoursStep
          v-else-if="step === 'hours'"
          @done="next"
        />
        <AccountsStep
          v-else-if="step === 'accounts'"
          :accounts="accounts"
          @done="next"
          @changed="loadAccounts"
        />
        <CallStep
          v-else
          :ready="ready"
        />
      </div>
    </section>
  </div>
</template>

<style scoped>
.first-hour {
  display: grid;
  grid-template-columns: 17rem minmax(0, 52rem);
  gap: var(--space-6);
  align-content: start;
}

ol {
  display: grid;
  gap: var(--space-2);
  padding-bottom: var(--space-4);
}

.step {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  width: 100%;
  padding: var(--space-3);
  background: none;
  border: var(--line);
  border-color: transparent;
  border-radius: var(--round);
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}

.step.now {
  background: var(--lit);
  border-color: var(--ink);
}

.step.done {
  color: var(--ink-soft);
}

.mark {
  display: grid;
  flex: none;
  width: 1.5rem;
  height: 1.5rem;
  border: 1px solid currentcolor;
  border-radius: 50%;
  place-content: center;
  font-size: var(--type-2);
}

.still {
  padding: var(--space-4);
  margin-bottom: var(--space-4);
  background: var(--sheet);
  border-left: 4px solid var(--ink);
  line-height: 1.4;
}

a {
  color: inherit;
}

/* It is only where reading goes on: nothing can be done with it. */
h2:focus-visible {
  outline: none;
}

h2 {
  font: 700 var(--type-6)/1.2 var(--font-sign);
}

.form {
  padding: var(--space-5);
  margin-top: var(--space-4);
  background: var(--sheet);
}

.form :deep(h3) {
  padding: var(--space-5) 0 var(--space-3);
  font: 600 var(--type-4) var(--font-sign);
}

.form :deep(.pair) {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--space-5);
}

.form :deep(.button-row) {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  padding-top: var(--space-4);
}

.form :deep(.there) {
  columns: 2;
  padding-top: var(--space-4);
}

@media (max-width: 60rem) {
  .first-hour {
    grid-template-columns: minmax(0, 1fr);
  }

  .form :deep(.pair) {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
